#include "core/steps/retouch/retouch_pictures.h"

#include "core/picture/step_pictures.h"

namespace frenlo {

namespace {

/// Of shares of the clean plate's picture to shares of the plane.
Transform plate_to_plane(const Shot& shot, PhotoIndex plate)
{
    const ShotPhoto& photo = shot.photos[plate.at()];
    if (photo.steps.has<MadePlate>()) // it was made on the plane
        return Transform::eye();
    const auto placement = placement_of(shot, photo);
    if (!placement || photo.photo->size.empty())
        return Transform::eye();
    return part_of_plane(placement->plane).to_plane * placement->from_film.inv() *
           part_of_plane(seen_size(photo)).to_plane.inv();
}

}

void heal_photo(const Shot& shot, PhotoIndex photo, StageValues& stages)
{
    const auto* retouch = shot.steps.find<Retouch>();
    if (!retouch || retouch->spots.empty() || shot.photos[photo.at()].steps.has<MadePlate>())
        return;
    Healing healing;
    bool plate = false;
    for (const Spot& spot : retouch->spots) {
        auto points = points_at(spot, shot, photo);
        if (points.empty())
            continue;
        plate = plate || spot.from == HealFrom::plate;
        healing.marks.push_back({std::move(points), spot.radius, spot.soft, spot.on_photo, spot.from, spot.offset});
    }
    if (healing.marks.empty())
        return;
    if (const auto at = plate ? plate_of(shot) : std::nullopt; at && *at != photo) {
        healing.plate = shot.photos[at->at()].photo;
        healing.plate_to_plane = plate_to_plane(shot, *at);
        healing.grain = photo.value;
    }
    stages.set(std::move(healing));
}

}
