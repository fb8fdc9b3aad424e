#include "core/source/sharpness.h"

#include <opencv2/imgproc.hpp>

#include <cmath>

namespace frenlo {

cv::Mat bgr8(const cv::Mat& pixels)
{
    cv::Mat m = pixels;
    if (m.depth() == CV_16U)
        m.convertTo(m, CV_8U, 1.0 / 257.0);
    if (m.channels() == 4)
        cv::cvtColor(m, m, cv::COLOR_BGRA2BGR);
    return m;
}

double sharpness_of(const cv::Mat& pixels)
{
    constexpr int cells = 8;
    cv::Mat grey, fine, by_cell;
    cv::cvtColor(bgr8(pixels), grey, cv::COLOR_BGR2GRAY);
    cv::Laplacian(grey, fine, CV_32F);
    cv::resize(fine.mul(fine), by_cell, {cells, cells}, 0, 0, cv::INTER_AREA);
    constexpr double nothing = 1e-3; // a cell without detail still counts
    cv::log(by_cell + nothing, by_cell);
    cv::Scalar mean, deviation;
    cv::meanStdDev(grey, mean, deviation);
    return std::exp(cv::mean(by_cell)[0]) / (deviation[0] * deviation[0] + 1);
}

}
