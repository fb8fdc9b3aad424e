#include "core/picture/hidden_motion.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cstdlib>
#include <vector>

namespace frenlo {

void fill_hidden(cv::Mat2f& motion, const cv::Mat1b& hidden, const cv::Mat3b& picture)
{
    struct Step
    {
        cv::Point to;
        cv::Point from;
    };
    // A queue for each level, since these are few; none gets a step that is below the level it is at.
    constexpr int levels = 3 * 255 + 1;
    std::array<std::vector<Step>, levels> at_level;
    cv::Mat1b open = hidden.clone();
    const cv::Rect all({0, 0}, motion.size());
    const auto spread = [&](cv::Point from, int level) {
        for (const cv::Point by : {cv::Point(1, 0), cv::Point(-1, 0), cv::Point(0, 1), cv::Point(0, -1)})
            if (const cv::Point to = from + by; to.inside(all) && open(to) != 0) {
                const cv::Vec3b &a = picture(from), &b = picture(to);
                const int step = std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2]);
                at_level[std::size_t(std::max(level, step))].push_back({to, from});
            }
    };
    cv::Mat1b near;
    cv::dilate(hidden, near, cv::getStructuringElement(cv::MORPH_CROSS, {3, 3}));
    for (int y = 0; y < motion.rows; ++y)
        for (int x = 0; x < motion.cols; ++x)
            if (near(y, x) != 0 && hidden(y, x) == 0)
                spread({x, y}, 0);
    for (int level = 0; level < levels; ++level)
        for (std::size_t i = 0; i < at_level[std::size_t(level)].size(); ++i) {
            const Step step = at_level[std::size_t(level)][i];
            if (open(step.to) == 0)
                continue;
            open(step.to) = 0;
            motion(step.to) = motion(step.from);
            spread(step.to, level);
        }
}

}
