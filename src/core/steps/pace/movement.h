#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// A photo prepared for movement(): grey, in blocks that average the noise away. pixels: B G R, 8 or 16 bit.
cv::Mat movement_blocks(const cv::Mat& pixels);

/// How much moved between two photos of a camera that stands still: the strongest local change over what noise and a
/// change of light explain. Below 1 nothing moved. Sizes must agree. Own measure, no source.
double movement(const cv::Mat& blocks, const cv::Mat& other_blocks);

}
