#include "core/steps/shoot/shoot_edits.h"

#include "core/project/edits.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <cstdio>
#include <iterator>
#include <set>

namespace frenlo {

namespace {

ShotPhoto as_taken(const PhotoPtr& photo, const TakenHere& how, Hold hold)
{
    ShotPhoto p{.photo = photo, .hold = hold, .aside = how.trial, .id = PhotoId::fresh()};
    p.steps.set(how);
    return p;
}

/// Position behind the named photo, or at the end.
std::size_t place_in(const Shot& shot, const std::optional<PhotoId>& behind)
{
    for (std::size_t i = 0; behind && i < shot.photos.size(); ++i)
        if (shot.photos[i].id == *behind)
            return i + 1;
    return shot.photos.size();
}

}

Project add_taken(const Project& project, const TakenPhoto& taken, const TakenPlace& place, const std::string& name,
                  ShotId& shot)
{
    PhotoList fresh;
    fresh.push_back(as_taken(taken.photo, taken.how, place.hold));
    for (const auto& [photo, how] : taken.versions) {
        ShotPhoto p = as_taken(photo, how, place.hold);
        p.aside = true;
        fresh.push_back(std::move(p));
    }
    const auto at = place.shot ? project.find_shot(*place.shot) : std::nullopt;
    if (!at) {
        Shot s{.name = name, .photos = fresh, .kind = ShotKind::hand_moved};
        const Project result = add_shot(project, std::move(s));
        shot = result.shots.back()->id;
        return result;
    }
    shot = *place.shot;
    return with_shot(project, *at, [&](Shot& s) {
        const std::size_t where = place_in(s, place.behind);
        PhotoList photos;
        photos.reserve(s.photos.size() + fresh.size());
        const bool replaces = place.in_place_of && place.behind && where > 0 && s.photos[where - 1].id == *place.behind;
        photos.append(s.photos, 0, replaces ? where - 1 : where);
        if (replaces) {
            fresh.edit(0).hold = s.photos[where - 1].hold;
            fresh.edit(0).aside = s.photos[where - 1].aside;
        }
        photos.append(fresh, 0, fresh.size());
        if (replaces) {
            photos.append(s.photos, where - 1, where);
            photos.edit(photos.size() - 1).aside = true;
        }
        photos.append(s.photos, where, s.photos.size());
        s.photos = std::move(photos);
        // A card's parts are positions; on one that is still unsorted, photos behind them belong to no part.
    });
}

Project follow_film(const Project& project, ShotIndex shot, const std::filesystem::path& file)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (file.empty())
            s.steps.drop<FollowedFilm>();
        else
            s.steps.set(FollowedFilm{file});
    });
}

std::filesystem::path followed_film(const Shot& shot)
{
    const auto* followed = shot.steps.find<FollowedFilm>();
    return followed ? followed->file : std::filesystem::path();
}

std::vector<std::filesystem::path> not_in(const Project& project, const std::vector<std::filesystem::path>& files)
{
    std::set<std::filesystem::path> known;
    for (const ShotPtr& shot : project.shots)
        for (const ShotPhoto& p : shot->photos)
            known.insert(p.photo->file);
    std::vector<std::filesystem::path> others;
    std::copy_if(files.begin(), files.end(), std::back_inserter(others),
                 [&](const auto& f) { return !known.contains(f); });
    return others;
}

std::optional<PhotoId> last_taken(const Shot& shot)
{
    for (std::size_t i = shot.photos.size(); i-- > 0;)
        if (!shot.photos[i].aside && shot.photos[i].steps.find<TakenHere>())
            return shot.photos[i].id;
    return std::nullopt;
}

std::string photos_a_second(Hold hold, Rate rate)
{
    const double seconds = length_of(hold, rate).value.approx();
    char text[48];
    std::snprintf(text, sizeof text, "%.4g a second", seconds > 0 ? 1 / seconds : 0.0);
    return text;
}

}
