#include "core/picture/hidden_motion.h"

#include <queue>

#include <algorithm>
#include <cstdlib>
#include <tuple>

namespace frenlo {

void fill_hidden(cv::Mat2f& motion, const cv::Mat1b& hidden, const cv::Mat3b& picture)
{
    struct Step
    {
        int level;
        int order; // of equals, the first
        cv::Point to;
        cv::Point from;
        bool operator<(const Step& o) const { return std::tie(o.level, o.order) < std::tie(level, order); }
    };
    std::priority_queue<Step> next;
    cv::Mat1b open = hidden.clone();
    const cv::Rect all({0, 0}, motion.size());
    int order = 0;
    const auto spread = [&](cv::Point from, int level) {
        for (const cv::Point by : {cv::Point(1, 0), cv::Point(-1, 0), cv::Point(0, 1), cv::Point(0, -1)})
            if (const cv::Point to = from + by; to.inside(all) && open(to) != 0) {
                const cv::Vec3b &a = picture(from), &b = picture(to);
                const int step = std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2]);
                next.push({std::max(level, step), order++, to, from});
            }
    };
    for (int y = 0; y < motion.rows; ++y)
        for (int x = 0; x < motion.cols; ++x)
            if (hidden(y, x) == 0)
                spread({x, y}, 0);
    while (!next.empty()) {
        const Step step = next.top();
        next.pop();
        if (open(step.to) == 0)
            continue;
        open(step.to) = 0;
        motion(step.to) = motion(step.from);
        spread(step.to, step.level);
    }
}

}
