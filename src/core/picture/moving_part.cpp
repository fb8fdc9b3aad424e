#include "core/picture/moving_part.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

/// Structure without light: each point against what is around it.
cv::Mat structure_of(const cv::Mat& picture, cv::Size size)
{
    cv::Mat grey, small, around;
    cv::cvtColor(picture, grey, cv::COLOR_BGR2GRAY);
    cv::resize(grey, small, size, 0, 0, cv::INTER_AREA);
    small.convertTo(small, CV_32F, 1, 8); // the darkest do not count more than they show
    cv::log(small, small);
    cv::GaussianBlur(small, around, {}, 3);
    return small - around;
}

}

std::vector<double> movement_by_column(std::span<const cv::Mat> pictures, int columns)
{
    std::vector<double> moved(std::size_t(columns), 0.0);
    const cv::Size size(columns, std::max(8, columns * 2 / 3));
    cv::Mat before, peak = cv::Mat::zeros(size, CV_32F);
    for (const cv::Mat& p : pictures) {
        if (p.empty())
            continue;
        const cv::Mat now = structure_of(p, size);
        if (!before.empty())
            peak += cv::abs(now - before);
        before = now;
    }
    // What trembles everywhere, a camera that was knocked or grain, is no subject: only what stands out of it counts.
    std::vector<float> all(peak.begin<float>(), peak.end<float>());
    const auto middle = all.begin() + std::ptrdiff_t(all.size() * 3 / 4);
    std::nth_element(all.begin(), middle, all.end());
    const float usual = 1.5F * *middle;
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < columns; ++x)
            moved[std::size_t(x)] += double(std::max(0.0F, peak.at<float>(y, x) - usual));
    return moved;
}

double moving_window(std::span<const double> by_column, double share)
{
    const double most_left = std::max(0.0, 1 - share);
    double total = 0;
    for (const double v : by_column)
        total += v;
    if (total <= 0 || by_column.empty() || most_left == 0)
        return most_left / 2;
    const auto columns = double(by_column.size());
    double best = -1, left_of_best = 0, right_of_best = 0;
    constexpr int steps = 96;
    for (int i = 0; i <= steps; ++i) {
        const double left = most_left * i / steps, begin = left * columns, end = (left + share) * columns;
        double seen = 0;
        for (std::size_t c = 0; c < by_column.size(); ++c)
            seen += by_column[c] * std::clamp(std::min(end, double(c) + 1) - std::max(begin, double(c)), 0.0, 1.0);
        if (seen > best * (1 + 1e-6) + 1e-12) {
            best = seen;
            left_of_best = right_of_best = left;
        } else if (seen >= best * (1 - 1e-6)) {
            right_of_best = left; // of several as good the middle one
        }
    }
    return (left_of_best + right_of_best) / 2;
}

}
