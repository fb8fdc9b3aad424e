#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// The pixels turned by so many quarters clockwise, 0 to 3; with 0 the same pixels.
cv::Mat turned(const cv::Mat& pixels, int quarters);

/// The size before or after an odd number of quarters.
cv::Size turned(cv::Size size, int quarters);

}
