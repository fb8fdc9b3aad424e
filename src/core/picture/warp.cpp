#include "core/picture/warp.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

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
    int before = 0;    ///< pixels before the one at or left of the position
    int near_from = 0; ///< the taps that lie within one result pixel, [near_from, near_to)
    int near_to = 0;
    std::vector<std::array<float, most_taps>> down;
    std::vector<std::array<float, 4 * most_taps>> across; ///< the same, once for each of four channels

    /// wide: source pixels a result pixel.
    explicit Kernel(double wide)
    {
        constexpr double widest = (most_taps - 2) / (2 * lobes);
        const double stretch = wide > 1 ? (wide < widest ? wide : widest) : 1; // 1 where it is no number, too
        taps = std::min(most_taps, int(std::ceil(2 * lobes * stretch)) + 1);
        before = taps / 2 - 1;
        const int near_by = std::max(1, int(std::lround(stretch)));
        near_from = std::max(0, before - near_by + 1);
        near_to = std::min(taps, before + near_by + 1);
        down.resize(phases + 1);
        across.resize(phases + 1);
        for (int p = 0; p <= phases; ++p) {
            double sum = 0;
            std::array<double, most_taps> w{};
            for (int i = 0; i < taps; ++i)
                sum += w[std::size_t(i)] = lanczos((i - before - double(p) / phases) / stretch);
            for (std::size_t i = 0; i < std::size_t(taps); ++i) {
                down[std::size_t(p)][i] = float(w[i] / sum);
                std::fill_n(across[std::size_t(p)].begin() + std::ptrdiff_t(4 * i), 4, down[std::size_t(p)][i]);
            }
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

/// Eight values side by side: two pixels of four channels, of which the last is not used.
using Floats = float __attribute__((vector_size(32)));
using Shorts = std::uint16_t __attribute__((vector_size(16))); // on the way to floats: compilers know each step
using Ints = std::int32_t __attribute__((vector_size(32)));
template <class Channel>
using Values __attribute__((vector_size(8 * sizeof(Channel)))) = Channel;

template <class Vector, class Channel>
[[gnu::always_inline]] inline void load(Vector& v, const Channel* from)
{
    __builtin_memcpy(&v, from, sizeof v);
}

struct Rows
{
    const cv::Mat& padded; ///< four channels
    int pad;
    cv::Size source;
    const cv::Matx33d& to_source;
    const Kernel& kernel;
    bool mirrored;
};

/// Into [-1/2, length - 1/2]: the nearest there, or back and forth between the edges.
[[gnu::always_inline]] inline double within(double x, double length, bool mirrored)
{
    if (mirrored && (x < -0.5 || x > length - 0.5)) {
        x = std::fmod(std::abs(x + 0.5), 2 * length);
        x = (x > length ? 2 * length - x : x) - 0.5;
    }
    // Not std::clamp: what is no number, as where a transform lets a point vanish, must land somewhere too.
    return x > -0.5 ? (x < length - 0.5 ? x : length - 0.5) : -0.5;
}

/// The taps' rows summed into pairs of pixels, which stay in registers, and those into one pixel.
template <class Channel, int pairs>
[[gnu::always_inline]] inline void warp_rows(const Rows& r, cv::Mat& out)
{
    using Eight = Values<Channel>;
    const Kernel& k = r.kernel;
    const cv::Matx33d& t = r.to_source;
    const int taps = k.taps, near_from = k.near_from, near_to = k.near_to, near_pairs = (near_to - near_from) / 2;
    const std::size_t step = r.padded.step1();
    const auto* source = r.padded.ptr<Channel>();
    for (int y = 0; y < out.rows; ++y) {
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < out.cols; ++x, to += 3) {
            const double w = t(2, 0) * x + t(2, 1) * y + t(2, 2);
            const double sx = within((t(0, 0) * x + t(0, 1) * y + t(0, 2)) / w, r.source.width, r.mirrored);
            const double sy = within((t(1, 0) * x + t(1, 1) * y + t(1, 2)) / w, r.source.height, r.mirrored);
            const int ix = int(sx + 1) - 1, iy = int(sy + 1) - 1; // of numbers from -1/2 on
            const float* across = k.across[std::size_t((sx - ix) * phases + 0.5)].data();
            const float* down = k.down[std::size_t((sy - iy) * phases + 0.5)].data();
            const Channel* corner =
                source + std::size_t(iy - k.before + r.pad) * step + 4 * std::size_t(ix - k.before + r.pad);
            Eight values;
            Floats sums[pairs] = {}, weights;
            const Channel* row = corner;
            for (int j = 0; j < taps; ++j, row += step)
#pragma GCC unroll 16
                for (int i = 0; i < pairs; ++i) {
                    load(values, row + 8 * i);
                    sums[i] +=
                        down[j] * __builtin_convertvector(
                                      __builtin_convertvector(__builtin_convertvector(values, Shorts), Ints), Floats);
                }
            Floats sum = {};
#pragma GCC unroll 16
            for (int i = 0; i < pairs; ++i) {
                load(weights, across + 8 * i);
                sum += sums[i] * weights;
            }
            // Between the values around: overshoot beside a hard edge is no part of the picture.
            const Channel* near_by = corner + std::size_t(near_from) * step + 4 * near_from;
            Eight low, high;
            load(low, near_by);
            high = low;
            for (int j = near_from; j < near_to; ++j, near_by += step)
                for (int i = 0; i < near_pairs; ++i) {
                    load(values, near_by + 8 * i);
                    low = values < low ? values : low;
                    high = values > high ? values : high;
                }
            for (int c = 0; c < 3; ++c) {
                const auto least = float(std::min(low[c], low[c + 4])), most = float(std::max(high[c], high[c + 4]));
                to[c] = Channel(std::clamp(sum[c] + sum[c + 4], least, most) + 0.5F);
            }
        }
    }
}

/// For so many taps as the kernel has.
template <class Channel, int pairs = most_taps / 2>
[[gnu::always_inline]] inline void warp_all(const Rows& r, cv::Mat& out)
{
    if constexpr (pairs > 4)
        if ((r.kernel.taps + 1) / 2 < pairs) {
            warp_all<Channel, pairs - 1>(r, out);
            return;
        }
    warp_rows<Channel, pairs>(r, out);
}

void warp_plain(const Rows& r, cv::Mat& out)
{
    out.depth() == CV_16U ? warp_all<std::uint16_t>(r, out) : warp_all<std::uint8_t>(r, out);
}

#ifdef __x86_64__
/// The same, in vectors twice as wide, without fused sums: the results are the same to the bit.
[[gnu::target("avx2")]] void warp_wide(const Rows& r, cv::Mat& out)
{
    out.depth() == CV_16U ? warp_all<std::uint16_t>(r, out) : warp_all<std::uint8_t>(r, out);
}
#endif

}

cv::Mat warped(const cv::Mat& source, const cv::Matx33d& to_source, cv::Size size, bool mirrored)
{
    CV_Assert(source.type() == CV_8UC3 || source.type() == CV_16UC3);
    const Kernel kernel(width_of(to_source, size));
    const int pad = kernel.taps + 3;
    cv::Mat four, padded, out(size, source.type());
    cv::cvtColor(source, four, cv::COLOR_BGR2BGRA);
    cv::copyMakeBorder(four, padded, pad, pad, pad, pad, mirrored ? cv::BORDER_REFLECT : cv::BORDER_REPLICATE);
    const Rows rows{padded, pad, source.size(), to_source, kernel, mirrored};
#ifdef __x86_64__
    static const bool wide = __builtin_cpu_supports("avx2");
    (wide ? warp_wide : warp_plain)(rows, out);
#else
    warp_plain(rows, out);
#endif
    return out;
}

}
