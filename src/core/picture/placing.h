#pragma once
#include "core/base/transform.h"
#include "core/picture/frame_request.h"

#include <opencv2/core/types.hpp>

namespace frenlo {

/// Where a picture lies in a frame of another size: the part of it that is shown (as a share of it), and the pixels
/// that this fills.
struct Placing
{
    cv::Rect2d part; ///< of the picture, 0 to 1
    cv::Rect at;     ///< in the frame
};
Placing placing(cv::Size2d picture, cv::Size frame, Fit fit);

/// Of pixels of the frame to those of a part of another grid, centres on integers.
Transform pixels_over(const cv::Rect2d& part, cv::Size grid);

/// A share of a picture in its pixels.
cv::Rect2d share_of(cv::Size2d size, const cv::Rect2d& share);

/// Of points of the picture, in its pixels, to points of the frame: coordinates of pixel corners.
Transform into_frame(const Placing& placing, cv::Size2d picture);

}
