#include "core/picture/step_pictures.h"

namespace frenlo {

std::optional<Placement> placement_of(const Shot& shot, const ShotPhoto& photo)
{
    for (const StepPictures& step : step_pictures())
        if (step.placement)
            if (auto placement = step.placement(shot, photo))
                return placement;
    return std::nullopt;
}

StageValues stages_of(const Shot& shot, PhotoIndex photo, int before)
{
    StageValues stages;
    for (const StepPictures& step : step_pictures())
        if (step.stages && step.stage_order < before)
            step.stages(shot, photo, stages);
    return stages;
}

std::vector<Transform> film_transforms(const Shot& shot, std::span<const PhotoIndex> photos)
{
    std::vector<Transform> transforms;
    bool placed = false;
    for (const PhotoIndex p : photos) {
        const auto placement = placement_of(shot, shot.photos[p.at()]);
        placed = placed || placement;
        transforms.push_back(placement ? placement->from_film : Transform::eye());
    }
    return placed ? transforms : std::vector<Transform>();
}

std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo)
{
    for (const StepPictures& step : step_pictures())
        if (step.standing_in)
            if (auto others = step.standing_in(shot, photo); !others.empty())
                return others;
    return {{photo, 1}};
}

}
