#include "core/light/light_curve.h"

#include "core/photo/transfer.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

namespace frenlo {

double lit(double linear, double factor)
{
    constexpr double knee = 0.92; // of white; an encoded 245 of 255
    const double from = factor > 1 ? knee / factor : knee; // where the plain gain ends
    if (linear <= from)
        return linear * factor;
    if (linear >= 1)
        return 1;
    // A cubic from there to white, its slopes limited so that it rises throughout (Fritsch, Carlson 1980).
    const double low = from * factor, wide = 1 - from, secant = (1 - low) / wide;
    const double begin = std::min(factor, 3 * secant), end = secant / 2, t = (linear - from) / wide;
    const double h00 = (1 + 2 * t) * (1 - t) * (1 - t), h10 = t * (1 - t) * (1 - t), h01 = t * t * (3 - 2 * t), h11 = t * t * (t - 1);
    return h00 * low + h10 * wide * begin + h01 + h11 * wide * end;
}

namespace {

template <class Channel>
cv::Mat by_table(const cv::Mat& picture, const std::array<double, 3>& stops)
{
    constexpr int most = std::numeric_limits<Channel>::max();
    std::array<std::vector<Channel>, 3> tables; // B, G, R
    for (std::size_t c = 0; c < 3; ++c) {
        const double factor = std::exp2(stops[2 - c]);
        for (int v = 0; v <= most; ++v)
            tables[c].push_back(Channel(std::lround(encoded_of(lit(linear_of(double(v) / most), factor)) * most)));
    }
    cv::Mat out(picture.size(), picture.type());
    for (int y = 0; y < picture.rows; ++y) {
        const auto* from = picture.ptr<Channel>(y);
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < picture.cols * 3; x += 3)
            for (std::size_t c = 0; c < 3; ++c)
                to[std::size_t(x) + c] = tables[c][from[std::size_t(x) + c]];
    }
    return out;
}

}

cv::Mat lit_by(const cv::Mat& picture, const std::array<double, 3>& stops)
{
    if (stops == std::array<double, 3>{})
        return picture;
    CV_Assert(picture.type() == CV_8UC3 || picture.type() == CV_16UC3);
    return picture.depth() == CV_16U ? by_table<std::uint16_t>(picture, stops) : by_table<std::uint8_t>(picture, stops);
}

}
