#pragma once
#include <opencv2/core.hpp>

namespace frenlo {

inline constexpr int around = 9; ///< pixels over which differences are averaged, since one alone is noise

/// How far two colours are apart, 0 to 255.
float distance(const cv::Vec3b& a, const cv::Vec3b& b);

/// Each pixel's own place and so much of its motion.
cv::Mat2f places(const cv::Mat2f& motion, float share);

/// Pixels of a picture from where each place says, float coordinates.
cv::Mat taken(const cv::Mat& picture, const cv::Mat2f& from, int interpolation);

}
