#include "core/picture/long_shutter.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <vector>

namespace frenlo {

namespace {

constexpr double step = 1.5;   ///< pixels between two of them
constexpr int most_steps = 24; ///< of them

/// How far nearly all goes that does go, pixels at full size.
double way_of_most(const DenseMotion& motion)
{
    std::vector<float> ways;
    for (int y = 0; y < motion.forth.rows; y += 2)
        for (int x = 0; x < motion.forth.cols; x += 2)
            if (const cv::Vec2f& v = motion.forth(y, x); std::isfinite(v[0]) && std::isfinite(v[1]))
                ways.push_back(std::hypot(v[0], v[1]));
    if (ways.empty())
        return 0;
    constexpr double nearly = 0.995;
    const auto at = ways.begin() + std::ptrdiff_t(nearly * double(ways.size() - 1));
    std::nth_element(ways.begin(), at, ways.end());
    return double(*at) * motion.part.width / motion.forth.cols;
}

}

Canvas long_shutter(const Canvas& first, const Canvas& second, const DenseMotion& motion, double share)
{
    const double open = std::clamp(share, 0.0, 1.0);
    const int count = std::clamp(int(std::ceil(way_of_most(motion) * open / step)), 2, most_steps);
    Canvas sum(first.size(), cv::Vec4f());
    for (int i = 0; i < count; ++i)
        cv::scaleAdd(in_between(first, second, motion, open * (i + 0.5) / count).picture, 1.0 / count, sum, sum);
    return sum;
}

}
