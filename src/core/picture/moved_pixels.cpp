#include "core/picture/moved_pixels.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <cstdlib>

namespace frenlo {

float distance(const cv::Vec3b& a, const cv::Vec3b& b)
{
    return float(std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2])) / 3;
}

cv::Mat2f places(const cv::Mat2f& motion, float share)
{
    cv::Mat2f at(motion.size());
    tbb::parallel_for(0, motion.rows, [&](int y) {
        for (int x = 0; x < motion.cols; ++x)
            at(y, x) = cv::Vec2f(float(x), float(y)) + motion(y, x) * share;
    });
    return at;
}

cv::Mat taken(const cv::Mat& picture, const cv::Mat2f& from, int interpolation)
{
    cv::Mat out;
    cv::remap(picture, out, from, {}, interpolation, cv::BORDER_REPLICATE);
    return out;
}

}
