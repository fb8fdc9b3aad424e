#pragma once
#include "core/picture/placement.h"
#include "core/picture/stages.h"
#include "core/project/project.h"

#include <limits>
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// What a step does to the pictures of a shot. Members that it has no use for are null.
struct StepPictures
{
    /// The natural size of the shot's film, where the step gives it one.
    std::optional<cv::Size> (*film_size)(const Shot&) = nullptr;
    /// How a photo lies in the film's plane, where the step lays it there.
    std::optional<Placement> (*placement)(const Shot&, const ShotPhoto&) = nullptr;
    /// What is done to the photo's pixels, and where in the order of all stages that comes.
    void (*stages)(const Shot&, PhotoIndex, StageValues&) = nullptr;
    int stage_order = 0;
    /// Which photos are seen in place of this one, and how much of each; empty: itself.
    std::vector<Share> (*standing_in)(const Shot&, PhotoIndex) = nullptr;
};

/// Of all steps, in their order; which there are is said above the pictures (steps/steps.cpp).
std::span<const StepPictures> step_pictures();

/// How a photo lies in the film's plane; nothing where the photo itself is the plane.
std::optional<Placement> placement_of(const Shot& shot, const ShotPhoto& photo);

/// All that is done to the photo's pixels; or only what comes before this place in the order.
StageValues stages_of(const Shot& shot, PhotoIndex photo, int before = std::numeric_limits<int>::max());

/// Of points of the film's plane to points of each of these photos; none where no photo is placed.
std::vector<Transform> film_transforms(const Shot& shot, std::span<const PhotoIndex> photos);

/// Which photos are seen in place of this one, and how much of each: itself, or those that stand in for it.
std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo);

}
