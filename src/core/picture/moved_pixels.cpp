#include "core/picture/moved_pixels.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace frenlo {

float distance(const cv::Vec3b& a, const cv::Vec3b& b)
{
    return float(std::abs(a[0] - b[0]) + std::abs(a[1] - b[1]) + std::abs(a[2] - b[2])) / 3;
}

cv::Mat1f apart(const cv::Mat3b& a, const cv::Mat3b& b)
{
    cv::Mat1f d(a.size());
    tbb::parallel_for(0, a.rows, [&](int y) {
        for (int x = 0; x < a.cols; ++x)
            d(y, x) = distance(a(y, x), b(y, x));
    });
    return d;
}

cv::Mat3b as_seen(const Canvas& picture, cv::Size size)
{
    Canvas small = picture;
    if (size != picture.size())
        cv::resize(picture, small, size, 0, 0, cv::INTER_AREA);
    cv::Mat roots, bgra;
    cv::max(small, 0, roots);
    cv::sqrt(roots, roots);
    roots.convertTo(bgra, CV_8U, 255);
    cv::Mat3b bgr;
    cv::cvtColor(bgra, bgr, cv::COLOR_BGRA2BGR);
    return bgr;
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
