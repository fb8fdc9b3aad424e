#include "core/render/warp.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <vector>

namespace frenlo {

namespace {

constexpr double lobes = 3;
constexpr int phases = 64; ///< positions between two pixels for which the kernel is worked out
constexpr int most_taps = 32;

double lanczos(double x)
{
    if (std::abs(x) < 1e-9)
        return 1;
    if (std::abs(x) >= lobes)
        return 0;
    const double p = CV_PI * x;
    return lobes * std::sin(p) * std::sin(p / lobes) / (p * p);
}

/// Weights of taps source pixels for each phase; they sum to 1.
struct Kernel
{
    int taps = 0;
    int before = 0; ///< pixels before the one at or left of the position
    int near_from = 0; ///< the taps that lie within one result pixel, [near_from, near_to)
    int near_to = 0;
    std::vector<std::array<float, most_taps>> weights;

    /// wide: source pixels a result pixel.
    explicit Kernel(double wide)
    {
        const double stretch = std::clamp(wide, 1.0, (most_taps - 2) / (2 * lobes));
        taps = std::min(most_taps, int(std::ceil(2 * lobes * stretch)) + 1);
        before = taps / 2 - 1;
        const int near_by = std::max(1, int(std::lround(stretch)));
        near_from = std::max(0, before - near_by + 1);
        near_to = std::min(taps, before + near_by + 1);
        weights.resize(phases + 1);
        for (int p = 0; p <= phases; ++p) {
            double sum = 0;
            std::array<double, most_taps> w{};
            for (int i = 0; i < taps; ++i)
                sum += w[std::size_t(i)] = lanczos((i - before - double(p) / phases) / stretch);
            for (int i = 0; i < taps; ++i)
                weights[std::size_t(p)][std::size_t(i)] = float(w[std::size_t(i)] / sum);
        }
    }
};

/// How many source pixels a result pixel covers in the middle, the larger of both directions.
double width_of(const cv::Matx33d& t, cv::Size size)
{
    const auto at = [&](double x, double y) {
        const double w = t(2, 0) * x + t(2, 1) * y + t(2, 2);
        return cv::Point2d((t(0, 0) * x + t(0, 1) * y + t(0, 2)) / w, (t(1, 0) * x + t(1, 1) * y + t(1, 2)) / w);
    };
    const cv::Point2d m(size.width / 2.0, size.height / 2.0);
    return std::max(cv::norm(at(m.x + 1, m.y) - at(m.x, m.y)), cv::norm(at(m.x, m.y + 1) - at(m.x, m.y)));
}

constexpr int row_values = most_taps * 3;

/// sums += weight * values, over as many values as a row of taps has; a loop without bounds to check vectorises.
template <class Channel>
void add_row(const Channel* values, float weight, int count, float* sums)
{
    for (int i = 0; i < count; ++i)
        sums[i] += weight * float(values[i]);
}

template <class Channel>
void warp_rows(const cv::Mat& padded, int pad, cv::Size source, const cv::Matx33d& t, const Kernel& k, cv::Mat& out, cv::Range rows)
{
    alignas(32) std::array<float, row_values> sums{};
    const int count = (k.taps * 3 + 7) / 8 * 8; // whole vectors; the rows are padded wide enough
    for (int y = rows.start; y < rows.end; ++y) {
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < out.cols; ++x, to += 3) {
            const double w = t(2, 0) * x + t(2, 1) * y + t(2, 2);
            const double sx = std::clamp((t(0, 0) * x + t(0, 1) * y + t(0, 2)) / w, -0.5, source.width - 0.5);
            const double sy = std::clamp((t(1, 0) * x + t(1, 1) * y + t(1, 2)) / w, -0.5, source.height - 0.5);
            const double fx = std::floor(sx), fy = std::floor(sy);
            const auto& wx = k.weights[std::size_t(std::lround((sx - fx) * phases))];
            const auto& wy = k.weights[std::size_t(std::lround((sy - fy) * phases))];
            const int left = int(fx) - k.before + pad, top = int(fy) - k.before + pad;
            sums.fill(0);
            for (int j = 0; j < k.taps; ++j)
                add_row(padded.ptr<Channel>(top + j) + 3 * left, wy[std::size_t(j)], count, sums.data());
            std::array<float, 3> value{};
            for (int i = 0; i < k.taps; ++i)
                for (int c = 0; c < 3; ++c)
                    value[std::size_t(c)] += wx[std::size_t(i)] * sums[3 * std::size_t(i) + std::size_t(c)];
            // Between the values around: overshoot beside a hard edge is no part of the picture.
            std::array<Channel, 3> low{}, high{};
            for (int c = 0; c < 3; ++c)
                low[std::size_t(c)] = high[std::size_t(c)] = padded.ptr<Channel>(top + k.before)[3 * (left + k.before) + c];
            for (int j = k.near_from; j < k.near_to; ++j) {
                const auto* p = padded.ptr<Channel>(top + j) + 3 * (left + k.near_from);
                for (int i = k.near_from; i < k.near_to; ++i, p += 3)
                    for (std::size_t c = 0; c < 3; ++c) {
                        low[c] = std::min(low[c], p[c]);
                        high[c] = std::max(high[c], p[c]);
                    }
            }
            for (std::size_t c = 0; c < 3; ++c)
                to[c] = static_cast<Channel>(std::lround(std::clamp(value[c], float(low[c]), float(high[c]))));
        }
    }
}

}

cv::Mat warped(const cv::Mat& source, const cv::Matx33d& to_source, cv::Size size)
{
    CV_Assert(source.type() == CV_8UC3 || source.type() == CV_16UC3);
    const Kernel kernel(width_of(to_source, size));
    const int pad = kernel.taps + 3;
    cv::Mat padded, out(size, source.type());
    cv::copyMakeBorder(source, padded, pad, pad, pad, pad, cv::BORDER_REPLICATE);
    const cv::Range all(0, size.height);
    const auto rows = source.depth() == CV_16U ? warp_rows<std::uint16_t> : warp_rows<std::uint8_t>;
    rows(padded, pad, source.size(), to_source, kernel, out, all);
    return out;
}

}
