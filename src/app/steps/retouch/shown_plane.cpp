#include "app/steps/retouch/shown_plane.h"

namespace frenlo::app {

Transform shown_to_plane(const Shot* shot, PhotoIndex photo)
{
    const auto placement =
        shot && photo.value >= 0 ? placement_of(*shot, shot->photos[photo.at()]) : std::optional<Placement>();
    if (!placement)
        return Transform::eye();
    const double w = placement->plane.width, h = placement->plane.height;
    return {placement->crop.width / w,
            0,
            placement->crop.x / w,
            0,
            placement->crop.height / h,
            placement->crop.y / h,
            0,
            0,
            1};
}

}
