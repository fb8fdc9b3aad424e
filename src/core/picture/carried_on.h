#pragma once
#include <opencv2/imgproc.hpp>

#include <algorithm>

namespace frenlo {

/// Where values are known (1) they stay; elsewhere (0) they go on as what is known round about, ever coarser, smoothly.
/// Two maps of one size. Pull and push as in Gortler, Grzeszczuk, Szeliski, Cohen: The Lumigraph (1996), section 3.4.
template <class T>
cv::Mat_<T> carried_on(const cv::Mat_<T>& values, const cv::Mat1f& known)
{
    cv::Mat_<T> weighed(values.size());
    T sum = T();
    float weight = 0;
    for (int y = 0; y < values.rows; ++y)
        for (int x = 0; x < values.cols; ++x) {
            weighed(y, x) = values(y, x) * known(y, x);
            sum += weighed(y, x);
            weight += known(y, x);
        }
    constexpr float nothing = 1e-6F;
    constexpr int least = 4;
    if (std::min(values.cols, values.rows) <= least)
        return cv::Mat_<T>(values.size(), sum * (1 / std::max(nothing, weight)));
    cv::Mat_<T> half;
    cv::Mat1f half_known;
    cv::pyrDown(weighed, half);
    cv::pyrDown(known, half_known);
    constexpr float enough = 0.25F; // one of four pixels is known: so is the one that they become
    for (int y = 0; y < half.rows; ++y)
        for (int x = 0; x < half.cols; ++x) {
            half(y, x) *= 1 / std::max(nothing, half_known(y, x));
            half_known(y, x) = std::min(1.0F, half_known(y, x) / enough);
        }
    cv::Mat_<T> on;
    cv::pyrUp(carried_on(half, half_known), on, values.size());
    for (int y = 0; y < values.rows; ++y)
        for (int x = 0; x < values.cols; ++x)
            on(y, x) += (values(y, x) - on(y, x)) * known(y, x);
    return on;
}

}
