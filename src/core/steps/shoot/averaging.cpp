#include "core/steps/shoot/averaging.h"

#include "core/source/transfer.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <vector>

namespace frenlo {

namespace {

/// One sigma of a difference of two pictures, in codes, without its mean and what lies far out; only of those pixels.
double spread_of(const cv::Mat3f& a, const cv::Mat3f& b, const cv::Mat1b& counted)
{
    double sum = 0, squares = 0;
    std::int64_t n = 0;
    double limit = 1e9, mean = 0;
    for (int pass = 0; pass < 3; ++pass) { // what lies beyond four sigma is something that moved
        sum = squares = 0;
        n = 0;
        for (int y = 0; y < a.rows; ++y)
            for (int x = 0; x < a.cols; ++x)
                for (int c = 0; counted(y, x) != 0 && c < 3; ++c) {
                    const double d = double(a(y, x)[c]) - double(b(y, x)[c]);
                    if (std::abs(d - mean) > limit)
                        continue;
                    sum += d;
                    squares += d * d;
                    ++n;
                }
        if (n == 0)
            return 0;
        mean = sum / double(n);
        limit = 4 * std::sqrt(std::max(1e-9, squares / double(n) - mean * mean));
    }
    return std::sqrt(std::max(0.0, squares / double(n) - mean * mean));
}

/// The sum of encoded values: differences of it are in codes.
cv::Mat3f mean_of_codes(std::span<const cv::Mat> pictures, std::size_t first, std::size_t every)
{
    cv::Mat sum(pictures.front().size(), CV_32FC3, cv::Scalar::all(0));
    int n = 0;
    for (std::size_t i = first; i < pictures.size(); i += every, ++n)
        cv::add(sum, pictures[i], sum, cv::noArray(), CV_32F);
    sum /= std::max(1, n);
    return sum;
}

double measured_gain(std::span<const cv::Mat> pictures)
{
    // A part of the picture is enough to know its noise.
    constexpr int most = 640;
    const cv::Size whole = pictures.front().size();
    const cv::Size size(std::min(most, whole.width), std::min(most, whole.height));
    const cv::Rect part((whole.width - size.width) / 2, (whole.height - size.height) / 2, size.width, size.height);
    std::vector<cv::Mat> parts;
    for (const cv::Mat& p : pictures)
        parts.push_back(p(part));
    const std::span<const cv::Mat> all(parts);
    const cv::Mat3f even = mean_of_codes(all, 0, 2), odd = mean_of_codes(all, 1, 2);
    cv::Mat1b counted(size);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            bool fine = true;
            for (int c = 0; c < 3; ++c)
                fine = fine && even(y, x)[c] > 12 && even(y, x)[c] < 240;
            counted(y, x) = fine ? 1 : 0;
        }
    double one = 0;
    int pairs = 0;
    for (std::size_t i = 1; i < parts.size(); i += 2, ++pairs) {
        const double s = spread_of(cv::Mat3f(parts[i - 1]), cv::Mat3f(parts[i]), counted);
        one += s * s / 2;
    }
    one = std::sqrt(one / std::max(1, pairs));
    // The mean of all is (a even + b odd) / n; what differs between the two has the variance of one times 1/a + 1/b.
    const double n = double(parts.size()), a = std::ceil(n / 2), b = std::floor(n / 2);
    const double mean = spread_of(even, odd, counted) / std::sqrt((1 / a + 1 / b) * n);
    return mean > 0 && one > 0 ? one / mean : 1;
}

}

Averaged averaged(std::span<const cv::Mat> pictures)
{
    Averaged result;
    const cv::Mat& first = pictures.front();
    const auto& light = linear_table<std::uint8_t>();
    result.pixels.create(first.size(), CV_16UC3);
    std::vector<float> sums(std::size_t(first.cols) * 3);
    const float share = 1.F / float(pictures.size());
    for (int y = 0; y < first.rows; ++y) {
        std::fill(sums.begin(), sums.end(), 0.F);
        for (const cv::Mat& p : pictures) {
            const auto* row = p.ptr<std::uint8_t>(y);
            for (std::size_t i = 0; i < sums.size(); ++i)
                sums[i] += light[row[i]];
        }
        auto* out = result.pixels.ptr<std::uint16_t>(y);
        for (std::size_t i = 0; i < sums.size(); ++i)
            out[i] = encoded_channel<std::uint16_t>(double(sums[i] * share));
    }
    if (pictures.size() > 1)
        result.noise_gain = measured_gain(pictures);
    return result;
}

}
