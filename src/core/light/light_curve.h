#pragma once
#include <opencv2/core/mat.hpp>

#include <array>

namespace frenlo {

/// Linear light from 0 to 1 made brighter by a factor. A plain gain up to near white; from there smoothly to white, which
/// stays white: highlights neither clip nor turn grey. Rises everywhere.
double lit(double linear, double factor);

/// The picture with its linear R, G, B brighter by so many stops each. B G R, 8 or 16 bit, sRGB-encoded.
cv::Mat lit_by(const cv::Mat& picture, const std::array<double, 3>& stops);

}
