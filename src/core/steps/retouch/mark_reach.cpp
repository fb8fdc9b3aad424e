#include "core/steps/retouch/mark_reach.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <utility>

namespace frenlo {

namespace {

/// Of each pixel: the mean of what is near it where a mask is not 0, and whether there is any.
std::pair<Canvas, cv::Mat1f> near_mean(const Canvas& picture, const cv::Mat1b& where, int side)
{
    Canvas only(picture.size(), cv::Vec4f());
    picture.copyTo(only, where);
    cv::Mat1f count;
    where.convertTo(count, CV_32F, 1 / 255.0);
    cv::boxFilter(only, only, -1, {side, side}, {-1, -1}, false, cv::BORDER_CONSTANT);
    cv::boxFilter(count, count, -1, {side, side}, {-1, -1}, false, cv::BORDER_CONSTANT);
    for (int y = 0; y < only.rows; ++y)
        for (int x = 0; x < only.cols; ++x)
            only(y, x) *= 1 / std::max(1.0F, count(y, x));
    return {only, count};
}

}

bool reaches_out(const Canvas& picture, const cv::Mat1f& marked)
{
    constexpr double on_the_way = 0.15;
    cv::Mat1b within, beyond, rim;
    cv::compare(marked, 1, within, cv::CMP_GE);
    cv::compare(marked, 0, beyond, cv::CMP_LE);
    if (cv::countNonZero(within) == 0) // a mark between pixels
        return true;
    cv::bitwise_or(within, beyond, rim);
    cv::bitwise_not(rim, rim);
    double edge = 0; // pixels: how far the rim goes out
    cv::Mat1f away;
    cv::bitwise_not(within, within);
    cv::distanceTransform(within, away, cv::DIST_L2, 3);
    cv::bitwise_not(within, within);
    cv::minMaxLoc(away, nullptr, &edge, nullptr, nullptr, rim);
    const int side = 2 * int(std::ceil(edge)) + 3;
    const auto [inner, inner_count] = near_mean(picture, within, side);
    const auto [outer, outer_count] = near_mean(picture, beyond, side);
    double goes = 0, all = 0;
    for (int y = 0; y < picture.rows; ++y)
        for (int x = 0; x < picture.cols; ++x)
            if (rim(y, x) != 0 && inner_count(y, x) > 0.5F && outer_count(y, x) > 0.5F) {
                const cv::Vec4f whole = inner(y, x) - outer(y, x);
                goes += double((picture(y, x) - outer(y, x)).dot(whole));
                all += double(whole.dot(whole));
            }
    return goes > on_the_way * all;
}

}
