#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core.hpp>

namespace frenlo {

inline constexpr int around = 9; ///< pixels over which differences are averaged, since one alone is noise

/// How far two colours are apart, 0 to 255.
float distance(const cv::Vec3b& a, const cv::Vec3b& b);

/// Of each pixel of two pictures of one size.
cv::Mat1f apart(const cv::Mat3b& a, const cv::Mat3b& b);

/// As the eye sees it, of 255, so large: the root of light is near enough to what the eye makes of it.
cv::Mat3b as_seen(const Canvas& picture, cv::Size size);

/// Each pixel's own place and so much of its motion.
cv::Mat2f places(const cv::Mat2f& motion, float share);

/// Pixels of a picture from where each place says, float coordinates.
cv::Mat taken(const cv::Mat& picture, const cv::Mat2f& from, int interpolation);

}
