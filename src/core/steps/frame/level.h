#pragma once
#include <opencv2/core/mat.hpp>

#include <optional>

namespace frenlo {

/// By how many degrees a photo must be turned clockwise so that its long lines are level and upright: the turn that
/// most of their length agrees on, within 20 degrees. Lines are found by Grompone von Gioi, Jakubowicz, Morel, Randall
/// 2010 (LSD, OpenCV's). Nothing where there are too few that agree. bgr: 8 bit.
std::optional<double> find_level(const cv::Mat& bgr);

}
