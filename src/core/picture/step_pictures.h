#pragma once
#include "core/picture/frame_stages.h"
#include "core/picture/frame_view.h"
#include "core/picture/placement.h"
#include "core/picture/stages.h"
#include "core/project/project.h"

#include <functional>
#include <limits>
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

struct FrameRequest;

/// How a frame of a film is dressed, whatever photos are in it.
struct FrameDress
{
    std::optional<FrameView> view{};
    FrameStages finish{};
    bool operator==(const FrameDress&) const = default;
};
/// Puts it on.
void wear(const FrameDress& dress, FrameRequest& request);
/// Adds to how this frame of the film is dressed. frame: within the film, whose length it knows.
using DressFrame = std::function<void(FrameIndex frame, FrameDress& dress)>;

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
    /// The size of the film's frames where the step gives them another shape. undressed: without it.
    std::optional<cv::Size> (*dressed_size)(const Shot&, cv::Size undressed) = nullptr;
    /// How each frame of the shot's film is dressed; empty where it is not.
    DressFrame (*dress)(const Shot&, const Schedule&) = nullptr;
    /// Which photos are seen in place of this one, and how much of each; empty: itself.
    std::vector<Share> (*standing_in)(const Shot&, PhotoIndex) = nullptr;
};

/// Of all steps, in their order; which there are is said above the pictures (steps/steps.cpp).
std::span<const StepPictures> step_pictures();

/// How a photo lies in the film's plane; nothing where the photo itself is the plane.
std::optional<Placement> placement_of(const Shot& shot, const ShotPhoto& photo);

/// All that is done to the photo's pixels; or only what comes before this place in the order.
StageValues stages_of(const Shot& shot, PhotoIndex photo, int before = std::numeric_limits<int>::max());

/// How each frame of the shot's film is dressed by all steps; empty where none does.
DressFrame dress_of(const Shot& shot, const Schedule& schedule);

/// Of points of the film's plane to points of each of these photos; none where no photo is placed.
std::vector<Transform> film_transforms(const Shot& shot, std::span<const PhotoIndex> photos);

/// Which photos are seen in place of this one, and how much of each: itself, or those that stand in for it.
std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo);

}
