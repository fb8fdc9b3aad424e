#include "core/steps/retouch/retouch_pictures.h"

#include "core/picture/step_pictures.h"

namespace frenlo {

namespace {

/// Of shares of a photo's picture to shares of the plane.
Transform picture_to_plane(const Shot& shot, PhotoIndex plate)
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

/// The place of the photo that the area shows; below 0 where there is none.
PhotoIndex source_of(const Area& area, const Shot& shot, const std::optional<PhotoIndex>& plate)
{
    if (area.shows == AreaShows::plate)
        return plate.value_or(PhotoIndex(-1));
    return PhotoIndex(area.shows == AreaShows::other && area.other ? place_of(shot, *area.other).value_or(-1) : -1);
}

/// What other photos show in this one.
std::vector<ShownArea> shown_areas(const Shot& shot, PhotoIndex photo, const std::optional<PhotoIndex>& plate)
{
    std::vector<ShownArea> shown;
    const auto* areas = shot.steps.find<Areas>();
    if (!areas)
        return shown;
    for (const Area& area : areas->all) {
        if (area.shows == AreaShows::photo)
            continue;
        const auto from = source_of(area, shot, plate);
        auto mask = mask_at(area, shot, photo);
        // What shows itself is only of use over an area below it, which may have covered it.
        if (!mask || from.value < 0 || (from == photo && shown.empty()))
            continue;
        const ShotPhoto& other = shot.photos[from.at()];
        shown.push_back({std::move(*mask), other.photo, picture_to_plane(shot, from), other.lens});
    }
    return shown;
}

}

void heal_photo(const Shot& shot, PhotoIndex photo, StageValues& stages)
{
    if (shot.photos[photo.at()].steps.has<MadePlate>())
        return;
    Healing healing;
    const auto plate = plate_of(shot);
    healing.areas = shown_areas(shot, photo, plate);
    bool from_plate = false;
    if (const auto* retouch = shot.steps.find<Retouch>())
        for (const Spot& spot : retouch->spots) {
            auto points = points_at(spot, shot, photo);
            if (points.empty())
                continue;
            const Area* area = spot.area ? find_area(shot, *spot.area) : nullptr;
            const auto within = area ? mask_at(*area, shot, photo) : std::nullopt;
            if (area && !within)
                continue;
            from_plate = from_plate || spot.from == HealFrom::plate;
            healing.marks.push_back(
                {std::move(points), spot.radius, spot.soft, spot.on_photo, spot.from, spot.offset, within});
        }
    if (healing.marks.empty() && healing.areas.empty())
        return;
    if (from_plate && plate && *plate != photo) {
        healing.plate = shot.photos[plate->at()].photo;
        healing.plate_to_plane = picture_to_plane(shot, *plate);
        healing.plate_lens = shot.photos[plate->at()].lens;
    }
    if (healing.plate || !healing.areas.empty())
        healing.grain = photo.value;
    stages.set(std::move(healing));
}

}
