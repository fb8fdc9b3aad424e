#pragma once
#include <opencv2/core/mat.hpp>

#include <span>

namespace frenlo {

/// The weighted average of pictures of one size and type (B G R, 8 or 16 bit, sRGB-encoded), taken in linear light.
/// Weights sum to 1; there is at least one picture.
class Mixer
{
public:
    Mixer(cv::Size size, int type);
    void add(const cv::Mat& picture, double weight);
    [[nodiscard]] cv::Mat result() const;

private:
    int type_;
    cv::Mat sum_; ///< linear light, 32-bit float
};

}
