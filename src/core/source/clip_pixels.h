#pragma once
// Private to source/: from a decoder's picture to pixels.
#include <opencv2/core/mat.hpp>

struct AVFrame;

namespace frenlo {

/// B G R, or B G R A with straight alpha where the picture has it, 8 or 16 bit, sRGB-coded, primaries of Rec. ITU-R
/// BT.709. Matrix, range, primaries and transfer are those that the picture's tags say (ITU-T H.273); untagged ones are
/// BT.709, BT.601 below 720 rows (common practice, no source). The coded values of every transfer function for ordinary
/// screens are kept as they are, as they are in films that are written. PQ and HLG (Rec. ITU-R BT.2100) become linear
/// light in floats, with the reference white of 203 cd/m² (Report ITU-R BT.2408) at 1. Throws Failure without a file.
cv::Mat clip_pixels(const AVFrame& frame);

}
