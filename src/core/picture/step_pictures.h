#pragma once
#include "core/picture/frame_request.h"
#include "core/project/project.h"
#include "core/time/frame_range.h"

#include <functional>
#include <limits>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

/// A layer of a film, whatever size its frames are made at.
struct LayerOfFilm
{
    LaidOver layer{};      ///< its picture as large as it is; to_frame: to the pixels of a frame of the size below
    cv::Size frame{};      ///< that of the film's frames; of a layer on the scene, that of the undressed ones
    bool on_scene = false; ///< it goes with the scene, whatever of it the frame shows
    bool drawing = false;  ///< its picture is sharp at every size
    std::shared_ptr<const LayerOfFilm> matte_by{};
};
bool operator==(const LayerOfFilm& a, const LayerOfFilm& b);

/// How a frame of a film is dressed, whatever photos are in it.
struct FrameDress
{
    std::optional<FrameView> view{};
    FrameStages finish{};
    std::vector<LayerOfFilm> layers{};
    bool operator==(const FrameDress&) const = default;
};
/// Puts it on. fit: how the film's frame meets the request's.
void wear(const FrameDress& dress, FrameRequest& request, Fit fit);
/// Ranges of frames that show the same, each split where its frames are dressed differently.
std::vector<FrameRange> split_by_dress(std::span<const FrameRange> runs,
                                       const std::function<FrameDress(FrameIndex)>& dress);

/// The film of another shot, for what shows it inside of this one's.
struct OtherFilm
{
    cv::Size size;
    std::int64_t frames = 0;
    bool drawing = false; ///< sharp at every size
    std::function<FrameRequest(FrameIndex)> frame;
};
/// Nothing where there is none, or where it would show itself.
using OtherFilms = std::function<std::optional<OtherFilm>(ShotId)>;
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
    DressFrame (*dress)(const Shot&, const Schedule&, const OtherFilms&) = nullptr;
    /// The same of the Reel, whose frames have this size.
    DressFrame (*dress_reel)(const Reel&, cv::Size, Rate, const OtherFilms&) = nullptr;
    /// Which photos are seen in place of this one, and how much of each; empty: itself.
    std::vector<Share> (*standing_in)(const Shot&, PhotoIndex) = nullptr;
    /// The shapes of its frame that the shot is prepared for beside the one that it has, as they are written: "9:16".
    std::vector<std::string> (*other_shapes)(const Shot&) = nullptr;
    /// Takes one of them in place of the one that it has.
    void (*take_shape)(Shot&, const std::string& shape) = nullptr;
    /// The one of them that is so many times as wide as high; nothing where none is, or where the one that it has is.
    std::optional<std::string> (*shape_like)(const Shot&, double ratio) = nullptr;
};

/// Of all steps, in their order; which there are is said above the pictures (steps/steps.cpp).
std::span<const StepPictures> step_pictures();

/// How a photo lies in the film's plane; nothing where the photo itself is the plane.
std::optional<Placement> placement_of(const Shot& shot, const ShotPhoto& photo);

/// All that is done to the photo's pixels; or only what comes before this place in the order.
StageValues stages_of(const Shot& shot, PhotoIndex photo, int before = std::numeric_limits<int>::max());

/// How each frame of the shot's film is dressed by all steps; empty where none does.
DressFrame dress_of(const Shot& shot, const Schedule& schedule, const OtherFilms& others);
/// The same of the Reel's frames.
DressFrame dress_of(const Reel& reel, cv::Size frame, Rate rate, const OtherFilms& others);

/// Of points of the film's plane to points of each of these photos; none where no photo is placed.
std::vector<Transform> film_transforms(const Shot& shot, std::span<const PhotoIndex> photos);

/// The shapes that a shot is prepared for beside the one that it has.
std::vector<std::string> other_shapes(const Shot& shot);
/// All shots that are prepared for this shape with it; or, where the shape is empty, for frames of this size (0x0:
/// any).
Project in_shape(const Project& project, const std::string& shape, cv::Size frames);

/// Which photos are seen in place of this one, and how much of each: itself, or those that stand in for it.
std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo);

}
