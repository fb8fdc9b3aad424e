#pragma once
#include "core/base/transform.h"

#include <span>
#include <vector>

namespace frenlo {

/// The part of the reference photo's plane that all photos show: a convex polygon, clockwise, pixel edges counted
/// (a photo of width w reaches from -1/2 to w - 1/2). Empty where there is none.
std::vector<cv::Point2d> seen_by_all(std::span<const Transform> from_reference, cv::Size size);
/// What of a polygon these photos all show.
std::vector<cv::Point2d> seen_by_all(std::span<const Transform> from_reference, cv::Size size,
                                     std::vector<cv::Point2d> polygon);

/// The largest upright box of this shape (width over height) inside a convex polygon; exact: its vertices are those of
/// a linear programme in middle and size. Empty where there is none.
cv::Rect2d largest_box(std::span<const cv::Point2d> polygon, double shape);

}
