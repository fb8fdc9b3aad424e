#include "core/steps/retouch/plane_picture.h"

#include "core/picture/step_pictures.h"

#include <algorithm>

namespace frenlo {

cv::Size ground_size(const Shot& shot, PhotoIndex photo, Ground ground)
{
    const ShotPhoto& p = shot.photos[photo.at()];
    const auto placement = ground == Ground::plane ? placement_of(shot, p) : std::nullopt;
    return placement ? placement->plane : seen_size(p);
}

FrameRequest ground_request(const Shot& shot, PhotoIndex photo, Ground ground, const cv::Rect2d& part, cv::Size size,
                            Depth depth)
{
    const ShotPhoto& p = shot.photos[photo.at()];
    PlacedPhoto placed{.photo = p.photo, .turns = p.turns, .damage = Damage::accept};
    placed.stages = stages_of(shot, photo, stage_order::retouch);
    if (ground == Ground::plane) {
        placed.lens = p.lens;
        placed.placement = placement_of(shot, p);
    }
    if (placed.placement)
        placed.placement->crop = {{0, 0}, placed.placement->plane};
    placed.view = FrameView{.box = part, .whole_frame = true};
    return {.size = size, .depth = depth, .parts = {{1, placed}}};
}

std::vector<PhotoIndex> some_photos(const Shot& shot, std::size_t most, const std::function<bool(PhotoIndex)>& wanted)
{
    std::vector<PhotoIndex> all, some;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const PhotoIndex photo(static_cast<std::int64_t>(i));
            shown[i] && !shot.photos[i].photo->size.empty() && (!wanted || wanted(photo)))
            all.push_back(photo);
    const std::size_t count = std::min(all.size(), most);
    for (std::size_t i = 0; i < count; ++i)
        some.push_back(all[count > 1 ? i * (all.size() - 1) / (count - 1) : 0]);
    return some;
}

}
