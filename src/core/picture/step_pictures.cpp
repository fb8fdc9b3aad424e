#include "core/picture/step_pictures.h"

#include "core/picture/frame_request.h"

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

void wear(const FrameDress& dress, FrameRequest& request)
{
    request.finish = dress.finish;
    for (FramePart& part : request.parts)
        if (auto* photo = std::get_if<PlacedPhoto>(&part.what))
            photo->view = dress.view;
}

DressFrame dress_of(const Shot& shot, const Schedule& schedule)
{
    std::vector<DressFrame> all;
    for (const StepPictures& step : step_pictures())
        if (step.dress)
            if (auto one = step.dress(shot, schedule))
                all.push_back(std::move(one));
    if (all.empty())
        return {};
    return [all = std::move(all)](FrameIndex frame, FrameDress& dress) {
        for (const DressFrame& one : all)
            one(frame, dress);
    };
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
