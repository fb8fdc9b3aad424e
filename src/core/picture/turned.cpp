#include "core/picture/turned.h"

#include <opencv2/core.hpp>

#include <array>

namespace frenlo {

cv::Mat turned(const cv::Mat& pixels, int quarters)
{
    static constexpr std::array codes{cv::ROTATE_90_CLOCKWISE, cv::ROTATE_180, cv::ROTATE_90_COUNTERCLOCKWISE};
    if (quarters == 0)
        return pixels;
    cv::Mat out;
    cv::rotate(pixels, out, codes.at(std::size_t(quarters) - 1));
    return out;
}

cv::Size turned(cv::Size size, int quarters)
{
    return quarters % 2 == 1 ? cv::Size(size.height, size.width) : size;
}

}
