#include "core/project/project.h"

#include "core/project/speed_course.h"

#include <algorithm>

namespace frenlo {

std::optional<ShotIndex> Project::find_shot(std::string_view name) const
{
    const auto it = std::find_if(shots.begin(), shots.end(), [&](const ShotPtr& s) { return s->name == name; });
    if (it == shots.end())
        return std::nullopt;
    return ShotIndex(it - shots.begin());
}

std::optional<ShotIndex> Project::find_shot(ShotId id) const
{
    const auto it = std::find_if(shots.begin(), shots.end(), [&](const ShotPtr& s) { return s->id == id; });
    if (!id || it == shots.end())
        return std::nullopt;
    return ShotIndex(it - shots.begin());
}

void give_ids(Shot& shot)
{
    shot.id = ShotId::fresh();
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (!shot.photos[i].id)
            shot.photos.edit(i).id = PhotoId::fresh();
}

Rate pacing_rate(const Project& project, const Shot& shot)
{
    return shot.pacing.paced_at.value_or(project.delivered_at);
}

std::vector<HeldPhoto> held_photos(const Shot& shot)
{
    std::vector<HeldPhoto> held;
    held.reserve(shot.photos.size());
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i])
            held.push_back({PhotoIndex(std::int64_t(i)), shot.photos[i].hold, shot.photos[i].backwards});
    return held;
}

namespace {

Schedule scheduled(const Project& project, const Shot& shot, const std::vector<HeldPhoto>& photos)
{
    return {photos, pacing_rate(project, shot), project.delivered_at, shot.pacing.between};
}

/// With its joint, where it goes round.
Schedule film_schedule(const Project& project, const Shot& shot, const Arrangement& a)
{
    Schedule film = scheduled(project, shot, a.film);
    if (shot.pacing.joint > 0 && shot.pacing.there_and_back == Return::none && !a.before.empty())
        return film.with_joint(scheduled(project, shot, a.before), shot.pacing.joint, a.passes);
    return film;
}

}

Schedule schedule_of(const Project& project, const Shot& shot)
{
    return film_schedule(project, shot, arranged(paced_photos(project, shot), shot.pacing, project.delivered_at));
}

DisplayTimeline display_timeline(const Project& project, const Shot& shot)
{
    const Arrangement a = arranged(paced_photos(project, shot), shot.pacing, project.delivered_at);
    const Schedule before = scheduled(project, shot, a.before), film = film_schedule(project, shot, a);
    const FrameIndex begin(before.frames());
    std::vector<bool> seen(shot.photos.size(), false);
    for (const HeldPhoto& p : a.film)
        seen[p.photo.at()] = true;
    return {before.followed_by(film).followed_by(scheduled(project, shot, a.after)),
            begin,
            begin + film.frames(),
            a.passes,
            std::count(seen.begin(), seen.end(), true),
            film};
}

cv::Size seen_size(const ShotPhoto& photo)
{
    const cv::Size s = photo.photo->size;
    return photo.turns % 2 == 1 ? cv::Size(s.height, s.width) : s;
}

std::vector<bool> in_film(const Shot& shot)
{
    std::vector<bool> shown(shot.photos.size(), shot.parts.empty());
    for (const Part& part : shot.parts)
        std::fill(shown.begin() + part.begin.value, shown.begin() + part.end.value, true);
    for (std::size_t i = 0; i < shown.size(); ++i)
        shown[i] = shown[i] && !shot.photos[i].aside;
    return shown;
}

std::vector<double> film_seconds(const Project& project, const Shot& shot, std::span<const HeldPhoto> photos)
{
    std::vector<double> seconds;
    double now = 0; // what is smoothed over it does not need to be exact
    for (const HeldPhoto& p : photos) {
        seconds.push_back(now);
        now += length_of(p.hold, pacing_rate(project, shot)).value.approx();
    }
    return seconds;
}

std::int64_t photos_in_film(const Shot& shot)
{
    const auto shown = in_film(shot);
    return std::count(shown.begin(), shown.end(), true);
}

std::optional<std::size_t> part_of(const Shot& shot, PhotoIndex photo)
{
    const auto after = std::upper_bound(shot.parts.begin(), shot.parts.end(), photo,
                                        [](PhotoIndex p, const Part& part) { return p < part.end; });
    if (after == shot.parts.end() || photo < after->begin)
        return std::nullopt;
    return std::size_t(after - shot.parts.begin());
}

}
