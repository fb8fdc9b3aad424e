#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// Sharpness of a photo against others of the same scene at the same size: energy of the finest details over that of
/// the whole picture, so that contrast and light drop out. The geometric mean over 64
/// cells: what comes into the scene or goes out of it, with sharp edges of its own, changes few of them. Comparable
/// between photos of the same size only.
double sharpness_of(const cv::Mat& pixels);

/// B G R, 8 bit, of B G R or B G R A, 8 or 16 bit.
cv::Mat bgr8(const cv::Mat& pixels);

}
