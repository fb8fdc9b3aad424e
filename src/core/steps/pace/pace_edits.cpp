#include "core/steps/pace/pace_edits.h"

#include "core/base/problem.h"
#include "core/project/exactly.h"
#include "core/steps/pace/with_pacing.h"

#include <algorithm>
#include <stdexcept>

namespace frenlo {

namespace {

/// The length as a hold: in frames where it is whole frames of the pacing rate.
Hold hold_for(Fraction seconds, Rate paced)
{
    constexpr std::int64_t finest = 1'000'000'000'000; // of a second; such holds still add up in 64 bits
    if (seconds > Fraction(max_hold_seconds))
        throw Failure({"a photo would be held for more than an hour", {}, "Choose a shorter length"});
    if (seconds.den() > finest)
        too_fine();
    const Fraction frames = seconds * paced.value();
    if (frames.den() == 1 && frames.num() <= max_hold_frames)
        return Frames{frames.num()};
    return Seconds{seconds};
}

Project scaled(const Project& project, ShotIndex shot, const std::vector<HeldPhoto>& photos, Fraction factor)
{
    const Rate paced = pacing_rate(project, project.shot(shot));
    return with_shot(project, shot, [&](Shot& s) {
        for (const HeldPhoto& p : photos)
            s.photos.edit(p.photo.at()).hold = hold_for(length_of(p.hold, paced).value * factor, paced);
    });
}

}

std::vector<HeldPhoto> shown_of(const Shot& shot, std::span<const PhotoIndex> photos)
{
    std::vector<bool> asked(shot.photos.size(), false);
    for (const PhotoIndex p : photos)
        asked.at(p.at()) = true;
    std::vector<HeldPhoto> held = held_photos(shot);
    std::erase_if(held, [&](const HeldPhoto& h) { return !asked[h.photo.at()] || !is_shown(h.hold); });
    return held;
}

Project set_hold(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Hold hold)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex i : photos)
            s.photos.edit(i.at()).hold = hold;
    });
}

Project lengthen(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, std::int64_t frames)
{
    const Fraction one = length_of(1, project.delivered_at).value;
    return exactly([&] {
        return with_shot(project, shot, [&](Shot& s) {
            for (const PhotoIndex i : photos) {
                Hold& hold = s.photos.edit(i.at()).hold;
                if (!is_shown(hold))
                    continue;
                if (auto* f = std::get_if<Frames>(&hold))
                    f->count = std::clamp<std::int64_t>(f->count + frames, 1, max_hold_frames);
                else
                    hold = Seconds{std::clamp(std::get<Seconds>(hold).value + one * Fraction(frames), one,
                                              Fraction(max_hold_seconds))};
            }
        });
    });
}

Project set_first_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold)
{
    return with_pacing(project, shot, &Pacing::first_hold, hold);
}

Project set_last_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold)
{
    return with_pacing(project, shot, &Pacing::last_hold, hold);
}

Project spread_over(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length)
{
    return exactly([&] {
        const Shot& before = project.shot(shot);
        const auto shown = shown_of(before, photos);
        const auto count = std::int64_t(shown.size());
        const Rate paced = pacing_rate(project, before);
        // Frames of the pacing rate where they make up the length, else of the delivery rate.
        const Rate unit = (length.value * paced.value()).den() == 1 ? paced : project.delivered_at;
        const std::int64_t frames = (length.value * unit.value()).rounded();
        return with_shot(project, shot, [&](Shot& s) {
            for (std::int64_t i = 0; i < count; ++i) {
                const auto end = [&](std::int64_t n) { return Fraction(n * frames, count).rounded(); };
                const Fraction hold =
                    frames < count ? length.value / Fraction(count) : length_of(end(i + 1) - end(i), unit).value;
                s.photos.edit(shown[std::size_t(i)].photo.at()).hold = hold_for(hold, paced);
            }
        });
    });
}

Seconds length_of_photos(const Project& project, const Shot& shot, std::span<const PhotoIndex> photos)
{
    try {
        return total_of(shown_of(shot, photos), pacing_rate(project, shot));
    } catch (const std::overflow_error&) {
        too_fine();
    }
}

Project fit_to(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length)
{
    return exactly([&] {
        const Seconds now = length_of_photos(project, project.shot(shot), photos);
        if (now.value == Fraction(0))
            return project;
        return scaled(project, shot, shown_of(project.shot(shot), photos), length.value / now.value);
    });
}

Project change_speed(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Fraction speed)
{
    return exactly([&] { return scaled(project, shot, shown_of(project.shot(shot), photos), Fraction(1) / speed); });
}

Project set_paced_at(const Project& project, ShotIndex shot, std::optional<Rate> rate)
{
    return with_pacing(project, shot, &Pacing::paced_at, rate);
}

Project set_between(const Project& project, ShotIndex shot, Between between)
{
    return with_pacing(project, shot, &Pacing::between, between);
}

ShotIndex place_of_version(const Project& project, ShotIndex shot)
{
    const Shot& of = project.shot(shot);
    const auto is_version = [&](const Shot& other) {
        return other.photos.size() == of.photos.size() && !of.photos.empty() &&
               other.photos[0].photo == of.photos[0].photo;
    };
    ShotIndex place = shot + 1;
    while (place.at() < project.shots.size() && is_version(project.shot(place)))
        ++place;
    return place;
}

Project keep_as_version(const Project& project, ShotIndex shot)
{
    auto version = std::make_shared<Shot>(project.shot(shot));
    version->id = ShotId::fresh(); // its photos keep theirs: marks, ranges and spots are told by them
    version->name = free_name(project, version->name);
    Project result = project;
    result.shots.insert(result.shots.begin() + place_of_version(project, shot).value, std::move(version));
    return result;
}

Project set_keep_every(const Project& project, ShotIndex shot, int every)
{
    return with_pacing(project, shot, &Pacing::keep_every, std::max(1, every));
}

Project set_backwards(const Project& project, ShotIndex shot, bool backwards)
{
    return with_pacing(project, shot, &Pacing::backwards, backwards);
}

Project set_joint(const Project& project, ShotIndex shot, int frames)
{
    return with_pacing(project, shot, &Pacing::joint, std::clamp(frames, 0, most_joint));
}

Project set_there_and_back(const Project& project, ShotIndex shot, Return back)
{
    return with_pacing(project, shot, &Pacing::there_and_back, back);
}

Project set_times(const Project& project, ShotIndex shot, int times, std::optional<Seconds> at_least)
{
    return with_shot(project, shot, [&](Shot& s) {
        s.pacing.times = std::clamp(times, 1, most_times);
        s.pacing.at_least = at_least;
    });
}

Project toggle_mark(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot,
                     [&](Shot& s) { s.photos.edit(photo.at()).marked = !s.photos.at(photo.at()).marked; });
}

Project clear_marks(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) { s.photos.edit_all([](ShotPhoto& p) { p.marked = false; }); });
}

std::vector<PhotoIndex> marked_photos(const Shot& shot)
{
    std::vector<PhotoIndex> marked;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shot.photos[i].marked)
            marked.emplace_back(std::int64_t(i));
    return marked;
}

Project set_aside_at_marks(const Project& project, ShotIndex shot, std::int64_t photos)
{
    const auto film = to_choose_from(project, project.shot(shot));
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex mark : marked_photos(s)) {
            auto at = std::find_if(film.begin(), film.end(), [&](const HeldPhoto& p) { return p.photo >= mark; });
            for (std::int64_t n = 0; n < photos && at != film.end(); ++n, ++at)
                s.photos.edit(at->photo.at()).aside = true;
            s.photos.edit(mark.at()).marked = false;
        }
    });
}

}
