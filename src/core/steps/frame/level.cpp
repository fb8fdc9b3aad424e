#include "core/steps/frame/level.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

namespace frenlo {

std::optional<double> find_level(const cv::Mat& bgr)
{
    constexpr int side = 1024;
    cv::Mat grey;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    const double by = double(side) / std::max(grey.cols, grey.rows);
    if (by < 1)
        cv::resize(grey, grey, {}, by, by, cv::INTER_AREA);
    std::vector<cv::Vec4f> lines;
    cv::createLineSegmentDetector()->detect(grey, lines);
    struct Slope
    {
        double degrees, length;
    };
    std::vector<Slope> slopes;
    const double least = 0.06 * std::max(grey.cols, grey.rows);
    for (const cv::Vec4f& l : lines) {
        const double across = double(l[2]) - double(l[0]), down = double(l[3]) - double(l[1]);
        const double length = std::hypot(across, down);
        double degrees = std::atan2(down, across) * 180 / std::numbers::pi;
        degrees -= 90 * std::round(degrees / 90);
        constexpr double most = 20;
        if (length >= least && std::abs(degrees) <= most)
            slopes.push_back({degrees, length});
    }
    // The place where most length lies together, then the mean of what is near it.
    constexpr double near = 1.0;
    double best = 0, all = 0, at = 0;
    for (const Slope& s : slopes) {
        all += s.length;
        double together = 0;
        for (const Slope& o : slopes)
            together += o.length * std::max(0.0, 1 - std::abs(o.degrees - s.degrees) / near);
        if (together > best) {
            best = together;
            at = s.degrees;
        }
    }
    if (slopes.size() < 3 || best < 2 * least || best < 0.25 * all)
        return std::nullopt;
    double sum = 0, weights = 0;
    for (int pass = 0; pass < 3; ++pass, at = sum / weights, sum = weights = 0) {
        for (const Slope& s : slopes) {
            const double w = s.length * s.length * std::max(0.0, 1 - std::abs(s.degrees - at) / near);
            sum += w * s.degrees;
            weights += w;
        }
        if (weights <= 0)
            return std::nullopt;
    }
    return -at;
}

}
