#pragma once
#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <string>

namespace frenlo::test {

/// A raw photo as DNG 1.4: linear B G R in BT.709 primaries, 1 is the sensor's white, seen through a filter of red,
/// green, green and blue; 14 bits above a black of 512. neutral: how strong red, green and blue are where the scene is
/// grey. preview: what the camera shows of it, as it lies; empty for none.
void write_dng(const std::filesystem::path& file, const cv::Mat3f& light, const cv::Vec3f& neutral = {1, 1, 1},
               int orientation = 1, const cv::Mat3b& preview = {});

}
