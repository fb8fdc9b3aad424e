#include "core/steps/pace/movement.h"

#include "core/base/median.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

constexpr int blocks_across = 160; // a subject that moves by a hundredth of the frame changes several of them

}

cv::Mat movement_blocks(const cv::Mat& pixels)
{
    cv::Mat grey;
    cv::cvtColor(pixels, grey, pixels.channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    grey.convertTo(grey, CV_32F, grey.depth() == CV_16U ? 1 / 257.0 : 1.0);
    const int wide = std::min(blocks_across, grey.cols);
    const cv::Size size(wide, std::max(1, int(std::lround(double(grey.rows) * wide / grey.cols))));
    cv::resize(grey, grey, size, 0, 0, cv::INTER_AREA);
    return grey;
}

double movement(const cv::Mat& a, const cv::Mat& b)
{
    CV_Assert(a.size() == b.size() && a.type() == CV_32F && b.type() == CV_32F);
    // Flicker is about a factor of the encoded values: the middle of the ratios, which a moving subject does not pull.
    std::vector<float> ratios;
    for (int y = 0; y < a.rows; ++y)
        for (int x = 0; x < a.cols; ++x)
            if (const float v = b.at<float>(y, x); v > 4)
                ratios.push_back(a.at<float>(y, x) / v);
    const double gain = ratios.empty() ? 1 : upper_median(std::move(ratios));
    cv::Mat off = a - gain * b;
    // What is slow over the frame is light, not movement.
    cv::Mat slow;
    cv::GaussianBlur(off, slow, {}, std::max(2.0, a.cols / 12.0), 0, cv::BORDER_REFLECT_101);
    off -= slow;
    std::vector<float> sizes;
    float strongest = 0;
    for (int y = 0; y < off.rows; ++y)
        for (int x = 0; x < off.cols; ++x) {
            sizes.push_back(std::abs(off.at<float>(y, x)));
            strongest = std::max(strongest, sizes.back());
        }
    constexpr double to_sigma = 1.4826, outside_noise = 7, least = 2.5; // of 255
    return strongest / std::max(outside_noise * to_sigma * double(upper_median(std::move(sizes))), least);
}

}
