#pragma once
#include "core/base/transform.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// One photo of a walked shot.
struct PathStep
{
    double seconds = 0;                     ///< where it is in the film; ascending
    std::optional<Transform> from_before{}; ///< of points of the photo before; none: the path begins here
    std::optional<cv::Point2d> target{};    ///< where what is to be kept steady was seen, pixels
};

struct Smoothing
{
    double strength_s = 1; ///< movements that take less time than this are taken out
    double most_lost =
        0.12; ///< share of the picture that a photo may be cropped by, 0 to 1; it is moved less where that is more
    bool operator==(const Smoothing&) const = default;
};

/// How each photo lies in the film whose camera went along the smoothed path: of points of the film's plane to points
/// of the photo. The way of the photo's corners through the photos around it is smoothed by a local cubic with tricube
/// weights (Cleveland 1979), so that a curved path stays what it was. With targets the film follows them instead of the
/// path's heading. movement: what a photo may be moved by. Every photo still covers the box in the middle that
/// most_lost leaves.
std::vector<Transform> smooth_path(std::span<const PathStep> steps, const Smoothing& smoothing, Movement movement,
                                   cv::Size size);

/// What is quicker than the strength in a path, pixels, by photo: root mean square over the corners. from_film: how the
/// photos lie in the film that is looked at; empty: as shot.
std::vector<double> jitter_px(std::span<const PathStep> steps, std::span<const Transform> from_film, double strength_s,
                              cv::Size size);

template <>
struct Fields<Smoothing>
{
    static constexpr FieldTable table{
        field("strength_s", &Smoothing::strength_s, "Movements that take less time are taken out", {0, 3600}),
        field("most_lost", &Smoothing::most_lost, "Share of the picture that a photo may be cropped by", {0, 1}),
    };
};

}
