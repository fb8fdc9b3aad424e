#pragma once
// Sequences of photos with known truth, made from real photographic texture (Debian's opencv-doc): what is measured on
// them can be compared with what was done to them.
#include "core/steady/transform.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo::bench {

struct Sequence
{
    std::vector<cv::Mat> photos; ///< B G R, 8 bit
    std::vector<Transform> truth; ///< from the first photo to each
    std::vector<Transform> intended; ///< walked: the path without its jitter
};

struct Wishes
{
    int photos = 48;
    cv::Size size{1200, 800};
    double shift_sigma = 0; ///< px, each photo anew
    double turn_sigma = 0; ///< degrees
    double size_sigma = 0; ///< share
    double foreground = 0; ///< share of the frame that something else covers, which moves on its own
    double light_stops = 0; ///< how much the light changes over the sequence
    double noise = 2.5; ///< of 255
    bool walked = false; ///< a smooth path with jitter of shift_sigma on it
    int seed = 1;
};

/// Throws std::runtime_error where opencv-doc is not installed.
Sequence make_sequence(const Wishes& wishes);

}
