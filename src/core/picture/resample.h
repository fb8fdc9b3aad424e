#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// The same picture at another size: area average where both sides shrink, Lanczos else. B G R, 8 or 16 bit; plain
/// areas keep their value exactly.
cv::Mat resampled(const cv::Mat& pixels, cv::Size size);

}
