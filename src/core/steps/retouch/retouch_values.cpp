#include "core/steps/retouch/retouch_values.h"

#include <stdexcept>

namespace frenlo {

void check_value(const Spot& spot)
{
    if (spot.keys.empty())
        throw std::invalid_argument("a spot has no place");
}

std::optional<PhotoIndex> plate_of(const Shot& shot)
{
    const auto* retouch = shot.steps.find<Retouch>();
    const auto place = retouch && retouch->plate ? place_of(shot, *retouch->plate) : std::nullopt;
    return place ? std::optional(PhotoIndex(*place)) : std::nullopt;
}

std::pair<std::int64_t, std::int64_t> range_of(const Spot& spot, const Shot& shot)
{
    return photos_from_to(shot, spot.first, spot.last);
}

std::vector<cv::Point2d> points_at(const Spot& spot, const Shot& shot, PhotoIndex photo)
{
    const auto [begin, end] = range_of(spot, shot);
    if (!spot.on || photo.value < begin || photo.value >= end || !in_state(spot.state, shot, photo))
        return {};
    return points_at(spot.keys, shot, photo, false);
}

}
