#include "core/picture/mix.h"

#include "core/source/transfer.h"

#include <opencv2/core.hpp>

#include <cstdint>

namespace frenlo {

namespace {

template <class Channel>
void add_row(const cv::Mat& picture, float weight, cv::Mat& sum, int row)
{
    const auto& table = linear_table<Channel>();
    const auto* from = picture.ptr<Channel>(row);
    auto* to = sum.ptr<float>(row);
    for (int i = 0; i < picture.cols * 3; ++i)
        to[i] += weight * table[from[i]];
}

template <class Channel>
void write_row(const cv::Mat& sum, cv::Mat& picture, int row)
{
    const auto* from = sum.ptr<float>(row);
    auto* to = picture.ptr<Channel>(row);
    for (int i = 0; i < picture.cols * 3; ++i)
        to[i] = encoded_channel<Channel>(from[i]);
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
    for (int y = 0; y < out.rows; ++y)
        out.depth() == CV_16U ? write_row<std::uint16_t>(sum_, out, y) : write_row<std::uint8_t>(sum_, out, y);
    return out;
}

}
