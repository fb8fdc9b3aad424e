#pragma once
#include <opencv2/core/mat.hpp>

#include <span>

namespace frenlo {

struct Averaged
{
    cv::Mat pixels;        ///< B G R, 16 bit, encoded: more than eight bits is what averaging gives
    double noise_gain = 1; ///< measured: the noise of one picture by that of the mean; 1 where there is but one
};

/// The mean of pictures of one scene, in linear light. All 8 bit B G R of one size, at least one. What the noise is is
/// told by what differs between pictures, and between the means of every second one, where nothing is clipped; what
/// moved or flickered as a whole does not count.
Averaged averaged(std::span<const cv::Mat> pictures);

}
