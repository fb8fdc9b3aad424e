#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core/matx.hpp>
#include <opencv2/core/types.hpp>

#include <optional>

namespace frenlo {

/// The part of the source that fills the result, where a transform of pixels of the result to pixels of the source
/// (centres on integers) only scales and moves, and looks at nothing beyond the source. In pixels, edges of pixels on
/// integers.
std::optional<cv::Rect2d> scaled_part(cv::Size source, const cv::Matx33d& to_source, cv::Size size);

/// A part of a picture at another size: Lanczos of three lobes, made wider where the result is smaller so that nothing
/// aliases, by the zimg library; in whole numbers of 16 bit where the source allows it: within a step of eight bits of
/// the same through floats, at a third of their time. part: as scaled_part gives it.
void scale(const CanvasRows& source, const cv::Rect2d& part, cv::Size size, const TakeRow& take);

/// The same, kept.
CanvasRows scaled_rows(const CanvasRows& source, const cv::Rect2d& part, cv::Size size);

/// The same of B G R of 8 bit, encoded again.
cv::Mat scaled_eight(const cv::Mat& bgr, const cv::Rect2d& part, cv::Size size);

}
