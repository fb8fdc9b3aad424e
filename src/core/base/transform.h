#pragma once
#include "core/base/opencv_values.h"

#include <opencv2/core/matx.hpp>
#include <opencv2/core/types.hpp>

#include <array>
#include <optional>
#include <span>
#include <string_view>

namespace frenlo {

/// Maps points of one photo to points of another: 3x3 row-major, acting on (x, y, 1), pixels; integers are pixel
/// centres, x right, y down, after the Exif orientation. Where nothing else is said, from the reference photo to that
/// photo.
using Transform = cv::Matx33d;

/// What a photo may have moved by, each including those before it.
enum class Movement
{
    shift,
    turn,    ///< and shift
    similar, ///< and size
    perspective,
};

std::string_view movement_name(Movement movement); ///< "shift", "turn", "similar", "perspective"
std::optional<Movement> parse_movement(std::string_view name);

cv::Point2d moved(const Transform& t, cv::Point2d p);

/// The four outermost pixel centres of a photo of this size, clockwise from the top left.
std::array<cv::Point2d, 4> corners_of(cv::Size size);

/// The root mean square, over the four corners, of the distance between where two transforms put them, pixels.
double corner_distance(const Transform& a, const Transform& b, cv::Size size);

/// The same transform between copies of both photos that are this many times as large, pixel centres on integers.
Transform at_scale(const Transform& t, double factor);

/// So much of the way from standing still to the transform, 0 to 1, by the corners.
Transform partly(const Transform& t, double share, Movement movement, cv::Size size);

/// What a transform does at the middle of the photo: shift in pixels, turn in degrees (clockwise as seen), size ratio.
struct Motion
{
    cv::Point2d shift;
    double turn_degrees = 0;
    double size = 1;
};
Motion motion_of(const Transform& t, cv::Size size);

/// A pair of points, one in each photo, and how much it counts.
struct PointPair
{
    cv::Point2d from;
    cv::Point2d to;
    double weight = 1;
};

/// The transform of this kind with the least weighted squares of distances. Similarity and less: Umeyama 1991, closed;
/// perspective: normalised linear solution, then Gauss-Newton on the distances. Nothing where the pairs do not
/// determine it (fewer than 1, 2, 2 and 4, or degenerate).
std::optional<Transform> fit(Movement movement, std::span<const PointPair> pairs);

template <>
struct Words<Movement>
{
    static constexpr std::array<std::string_view, 4> words{"shift", "turn", "similar", "perspective"};
};

}
