#pragma once
#include <opencv2/core/mat.hpp>

#include <algorithm>
#include <cstdint>
#include <limits>

namespace frenlo {

/// Makes colours that were multiplied by their alpha what they were before (Porter, Duff 1984): BGRA of 8 or 16 bits.
template <class Value>
void unmultiply(cv::Mat& bgra)
{
    bgra.forEach<cv::Vec<Value, 4>>([](cv::Vec<Value, 4>& p, const int*) {
        constexpr std::uint32_t most = std::numeric_limits<Value>::max();
        const std::uint32_t a = p[3];
        for (int c = 0; c < 3 && a > 0 && a < most; ++c)
            p[c] = Value(std::min(most, (std::uint32_t(p[c]) * most + a / 2) / a));
    });
}

}
