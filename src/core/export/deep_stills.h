#pragma once
// Private to export/.
#include <opencv2/core/mat.hpp>

#include <string>

namespace frenlo {

/// TIFF, LZW, with the profile of what is written (sRGB): pixels as render() gives them, 8 or 16 bit.
std::string encode_tiff(const cv::Mat& picture);

/// OpenEXR, half floats in linear light, premultiplied, primaries of Rec. ITU-R BT.709.
std::string encode_exr(const cv::Mat& picture);

}
