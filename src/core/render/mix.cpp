#include "core/render/mix.h"

#include "core/photo/transfer.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

namespace frenlo {

namespace {

/// Linear light of each encoded value.
template <class Channel>
const std::vector<float>& linear_table()
{
    static const std::vector<float> table = [] {
        constexpr int most = std::numeric_limits<Channel>::max();
        std::vector<float> t(std::size_t(most) + 1);
        for (int i = 0; i <= most; ++i)
            t[std::size_t(i)] = static_cast<float>(linear_of(double(i) / most));
        return t;
    }();
    return table;
}

/// Encoded 8-bit values by linear light in 1/65535, so fine that the darkest steps are still told apart.
const std::vector<std::uint8_t>& encoded_table()
{
    static const std::vector<std::uint8_t> table = [] {
        std::vector<std::uint8_t> t(65'536);
        for (std::size_t i = 0; i < t.size(); ++i)
            t[i] = static_cast<std::uint8_t>(std::lround(encoded_of(double(i) / 65'535) * 255));
        return t;
    }();
    return table;
}

template <class Channel>
void add_row(const cv::Mat& picture, float weight, cv::Mat& sum, int row)
{
    const auto& table = linear_table<Channel>();
    const auto* from = picture.ptr<Channel>(row);
    auto* to = sum.ptr<float>(row);
    for (int i = 0; i < picture.cols * 3; ++i)
        to[i] += weight * table[from[i]];
}

}

Mixer::Mixer(cv::Size size, int type) : type_(type), sum_(size, CV_32FC3, cv::Scalar::all(0)) {}

void Mixer::add(const cv::Mat& picture, double weight)
{
    CV_Assert(picture.type() == type_ && picture.size() == sum_.size());
    for (int y = 0; y < picture.rows; ++y)
        picture.depth() == CV_16U ? add_row<std::uint16_t>(picture, float(weight), sum_, y)
                                  : add_row<std::uint8_t>(picture, float(weight), sum_, y);
}

cv::Mat Mixer::result() const
{
    cv::Mat out(sum_.size(), type_);
    const auto& table = encoded_table();
    for (int y = 0; y < out.rows; ++y) {
        const auto* from = sum_.ptr<float>(y);
        for (int i = 0; i < out.cols * 3; ++i) {
            const double linear = std::clamp(double(from[i]), 0.0, 1.0);
            if (out.depth() == CV_16U)
                out.ptr<std::uint16_t>(y)[i] = static_cast<std::uint16_t>(std::lround(encoded_of(linear) * 65'535));
            else
                out.ptr<std::uint8_t>(y)[i] = table[static_cast<std::size_t>(std::lround(linear * 65'535))];
        }
    }
    return out;
}

}
