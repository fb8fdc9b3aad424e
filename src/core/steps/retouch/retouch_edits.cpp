#include "core/steps/retouch/retouch_edits.h"

#include "core/base/text.h"
#include "core/picture/step_pictures.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

double within(double v, const Limits& limits)
{
    return std::isfinite(v) ? std::clamp(v, limits.low, limits.high) : 0;
}

void put_right(Spot& spot)
{
    for (PlaceKey& key : spot.keys) {
        key.points.resize(std::min(key.points.size() / 2 * 2, most_place_numbers));
        for (double& p : key.points)
            p = within(p, place_limits);
    }
    std::erase_if(spot.keys, [](const PlaceKey& key) { return key.points.empty(); });
    spot.radius = std::max(spot_radius_limits.low, within(spot.radius, spot_radius_limits));
    spot.soft = within(spot.soft, {0, 4});
    spot.offset = {within(spot.offset.x, {-20, 20}), within(spot.offset.y, {-20, 20})};
}

Project with_retouch(const Project& project, ShotIndex shot, const std::function<void(Retouch&)>& change)
{
    return with_shot(project, shot, [&](Shot& s) {
        Retouch r = retouch_of(s);
        change(r);
        std::erase_if(r.spots, [](const Spot& spot) { return spot.keys.empty(); });
        if (r == Retouch())
            s.steps.drop<Retouch>();
        else if (!(r == retouch_of(s)))
            s.steps.set(std::move(r));
    });
}

}

WithSpot add_spot(const Project& project, ShotIndex shot, Spot spot)
{
    if (!spot.id)
        spot.id = SpotId::fresh();
    put_right(spot);
    const SpotId id = spot.id;
    return {with_retouch(project, shot, [&](Retouch& r) { r.spots.push_back(std::move(spot)); }), id};
}

Project change_spot(const Project& project, ShotIndex shot, SpotId id, const std::function<void(Spot&)>& change)
{
    return with_retouch(project, shot, [&](Retouch& r) {
        for (Spot& spot : r.spots)
            if (spot.id == id) {
                change(spot);
                spot.id = id;
                put_right(spot);
            }
    });
}

Project remove_spots(const Project& project, ShotIndex shot, std::span<const SpotId> spots)
{
    return with_retouch(project, shot, [&](Retouch& r) {
        std::erase_if(r.spots,
                      [&](const Spot& s) { return std::find(spots.begin(), spots.end(), s.id) != spots.end(); });
    });
}

Project place_spot(const Project& project, ShotIndex shot, SpotId id, PhotoId photo,
                   const std::vector<cv::Point2d>& points, bool moves)
{
    return change_spot(project, shot, id, [&](Spot& spot) {
        const PlaceKey key{photo, numbers_of(points)};
        if (!moves) {
            spot.keys = {key};
            return;
        }
        const auto at =
            std::find_if(spot.keys.begin(), spot.keys.end(), [&](const PlaceKey& k) { return k.photo == photo; });
        if (at == spot.keys.end())
            spot.keys.push_back(key);
        else
            *at = key;
    });
}

Project set_plate(const Project& project, ShotIndex shot, std::optional<PhotoId> photo)
{
    return with_retouch(project, shot, [&](Retouch& r) { r.plate = photo; });
}

Project put_made_plate(const Project& project, ShotIndex shot, const PhotoPtr& picture, std::int64_t photos)
{
    ShotPhoto plate;
    plate.photo = picture;
    plate.id = PhotoId::fresh();
    plate.aside = true;
    plate.hold = Frames{1};
    plate.steps.set(MadePlate{photos});
    const PhotoId id = plate.id;
    const Project with = with_shot(project, shot, [&](Shot& s) {
        PhotoList kept;
        for (const ShotPhoto& p : s.photos)
            if (!p.steps.has<MadePlate>())
                kept.push_back(p);
        kept.push_back(plate);
        s.photos = std::move(kept);
    });
    return set_plate(with, shot, id);
}

std::vector<std::string> retouch_notes(const Shot& shot)
{
    std::vector<std::string> notes;
    const Retouch r = retouch_of(shot);
    const auto wants =
        std::count_if(r.spots.begin(), r.spots.end(), [](const Spot& s) { return s.on && s.from == HealFrom::plate; });
    if (wants > 0 && !plate_of(shot))
        notes.push_back(counted(wants, "support is", "supports are") +
                        " to be taken out by the clean plate, and there is none: make one, or choose a photo");
    if (wants > 0 && plate_of(shot) && shot.photos.size() > 1 && !placement_of(shot, shot.photos.front()))
        notes.push_back("the shot is not held still: where the camera moved, the clean plate does not fit. Steady it "
                        "first");
    return notes;
}

}
