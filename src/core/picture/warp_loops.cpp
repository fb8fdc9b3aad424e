#include "core/picture/warp_loops.h"

#include "core/base/wide_loops.h"

#include <opencv2/core/cvdef.h>

#include <algorithm>
#include <cmath>
#include <numeric>

namespace frenlo {

namespace {

constexpr double lobes = 3;

/// Four channels of one pixel, and of two beside each other.
using Pixel = float __attribute__((vector_size(16)));
using TwoPixels = float __attribute__((vector_size(32)));

// By reference: vectors as wide as these are returned in other ways by machines of other ages.
template <class Vector>
[[gnu::always_inline]] inline void load(Vector& v, const float* from)
{
    __builtin_memcpy(&v, from, sizeof v);
}
template <class Vector>
[[gnu::always_inline]] inline void add_product(Vector& sum, const float* from, const float* weights)
{
    Vector v, w;
    load(v, from);
    load(w, weights);
    sum += v * w;
}
double lanczos(double x)
{
    if (std::abs(x) < 1e-9)
        return 1;
    if (std::abs(x) >= lobes)
        return 0;
    const double p = CV_PI * x;
    return lobes * std::sin(p) * std::sin(p / lobes) / (p * p);
}

[[gnu::always_inline]] inline void locate(const Line& l, int count, std::int32_t* pixel, std::int32_t* phase)
{
    constexpr double nearest = 0.5, up = 1 << 20; // so that dropping the fraction is rounding down
    const auto put = [&](int x, double at) {
        at = at > l.low ? at : l.low; // what is no number, as where a transform lets a point vanish, lands there too
        at = at < l.high ? at : l.high;
        const auto whole = std::int32_t(at + up);
        pixel[x] = whole - (1 << 20) + l.moved;
        phase[x] = std::int32_t((at + up - whole) * phases + nearest);
    };
    if (l.c == 0) {
        const double a = l.a / l.d, b = l.b / l.d;
        for (int x = 0; x < count; ++x)
            put(x, a * x + b);
    } else {
        for (int x = 0; x < count; ++x)
            put(x, (l.a * x + l.b) / (l.c * x + l.d));
    }
}

/// One row of the source, with room at both ends, into one of the result's width. places: in the padded row, at the
/// first tap.
[[gnu::always_inline]] inline void across(const Kernel& k, const Places& places, const float* padded, float* to)
{
    const int pairs = k.taps / 2;
    const std::size_t count = places.pixel.size();
    for (std::size_t x = 0; x < count; ++x, to += 4) {
        const float* from = padded + 4 * std::ptrdiff_t(places.pixel[x]);
        const float* weights = k.across_at(places.phase[x]);
        TwoPixels even{}, odd{};
        std::ptrdiff_t i = 0;
        for (; i + 2 <= pairs; i += 2) { // two sums, so that none waits for the other
            add_product(even, from + 8 * i, weights + 8 * i);
            add_product(odd, from + 8 * i + 8, weights + 8 * i + 8);
        }
        if (i < pairs)
            add_product(even, from + 8 * i, weights + 8 * i);
        even += odd;
        for (int c = 0; c < 4; ++c)
            to[c] = even[c] + even[c + 4];
    }
}

/// The same down the rows, one place for the whole row.
[[gnu::always_inline]] inline void down_straight(const Kernel& k, int phase, const float* const* rows, int width,
                                                 float* to)
{
    const float* weights = k.at(phase);
    for (int x = 0; x + 8 <= width * 4 + 7; x += 8) { // rows have room for one pixel more
        TwoPixels sum{}, value;
        for (int i = 0; i < k.taps; ++i) {
            load(value, rows[i] + x);
            sum += value * weights[i];
        }
        __builtin_memcpy(to + x, &sum, sizeof sum);
    }
}

/// The same, a place for each pixel; rows: that at the first tap of the smallest place.
[[gnu::always_inline]] inline void down_slanted(const Kernel& k, const Places& places, int first,
                                                const float* const* rows, float* to)
{
    const std::size_t count = places.pixel.size();
    for (std::size_t n = 0, x = 0; n < count; ++n, x += 4) {
        const float* weights = k.at(places.phase[n]);
        const float* const* from = rows + (places.pixel[n] - first);
        Pixel sum{}, odd{}, value;
        for (int i = 0; i < k.taps; i += 2) {
            load(value, from[i] + x);
            sum += value * weights[i];
            load(value, from[i + 1] + x);
            odd += value * weights[i + 1];
        }
        sum += odd;
        __builtin_memcpy(to + x, &sum, sizeof sum);
    }
}

/// Pixels that lie anywhere: across each of its rows, then down.
[[gnu::always_inline]] inline void bent(const Kernel& k, const Places& over, const Places& down, int first,
                                        const float* const* rows, float* to)
{
    const int pairs = k.taps / 2;
    const std::size_t count = over.pixel.size();
    for (std::size_t n = 0; n < count; ++n, to += 4) {
        const float* along = k.across_at(over.phase[n]);
        const float* weights = k.at(down.phase[n]);
        const float* const* from = rows + (down.pixel[n] - first);
        const std::ptrdiff_t left = 4 * std::ptrdiff_t(over.pixel[n]);
        TwoPixels sum{};
        for (int i = 0; i < k.taps; ++i) {
            TwoPixels row{};
            for (std::ptrdiff_t p = 0; p < pairs; ++p)
                add_product(row, from[i] + left + 8 * p, along + 8 * p);
            sum += row * weights[i];
        }
        for (int c = 0; c < 4; ++c)
            to[c] = sum[c] + sum[c + 4];
    }
}

struct Plain
{
    static void locate_all(const Line& l, int count, std::int32_t* pixel, std::int32_t* phase)
    {
        locate(l, count, pixel, phase);
    }
    static void row_across(const Kernel& k, const Places& p, const float* from, float* to) { across(k, p, from, to); }
    static void row_straight(const Kernel& k, int phase, const float* const* rows, int width, float* to)
    {
        down_straight(k, phase, rows, width, to);
    }
    static void row_slanted(const Kernel& k, const Places& p, int first, const float* const* rows, float* to)
    {
        down_slanted(k, p, first, rows, to);
    }
    static void row_bent(const Kernel& k, const Places& over, const Places& down, int first, const float* const* rows,
                         float* to)
    {
        bent(k, over, down, first, rows, to);
    }
};
struct Wide
{
    FRENLO_WIDE static void locate_all(const Line& l, int count, std::int32_t* pixel, std::int32_t* phase)
    {
        locate(l, count, pixel, phase);
    }
    FRENLO_WIDE static void row_across(const Kernel& k, const Places& p, const float* from, float* to)
    {
        across(k, p, from, to);
    }
    FRENLO_WIDE static void row_straight(const Kernel& k, int phase, const float* const* rows, int width, float* to)
    {
        down_straight(k, phase, rows, width, to);
    }
    FRENLO_WIDE static void row_slanted(const Kernel& k, const Places& p, int first, const float* const* rows,
                                        float* to)
    {
        down_slanted(k, p, first, rows, to);
    }
    FRENLO_WIDE static void row_bent(const Kernel& k, const Places& over, const Places& down, int first,
                                     const float* const* rows, float* to)
    {
        bent(k, over, down, first, rows, to);
    }
};

template <class Of>
constexpr Loops loops_of{Of::locate_all, Of::row_across, Of::row_straight, Of::row_slanted, Of::row_bent};

}

Kernel::Kernel(double wide)
{
    const double stretch = std::max(1.0, wide);
    taps = (int(std::ceil(2 * lobes * stretch)) + 2) / 2 * 2;
    before = taps / 2 - 1;
    for (int p = 0; p <= phases; ++p) {
        std::vector<double> w;
        double sum = 0;
        for (int i = 0; i < taps; ++i)
            sum += w.emplace_back(lanczos((i - before - double(p) / phases) / stretch));
        // Lanczos leaves a slope up to a fiftieth of a pixel from its place: what is missing is put on the nearest.
        double moment = 0, lever = 0;
        const auto near_by = [&](double d) { return std::max(0.0, 1 - std::abs(d) / (2 * stretch)) * d; };
        for (int i = 0; i < taps; ++i) {
            const double d = i - before - double(p) / phases;
            moment += w[std::size_t(i)] / sum * d;
            lever += near_by(d) * d;
        }
        for (int i = 0; i < taps; ++i) {
            const double d = i - before - double(p) / phases;
            w[std::size_t(i)] = w[std::size_t(i)] / sum - moment / lever * near_by(d);
        }
        sum = std::accumulate(w.begin(), w.end(), 0.0);
        for (const double v : w) {
            weights.push_back(float(v / sum));
            across.insert(across.end(), 4, weights.back());
        }
    }
}

const Loops& loops()
{
    return has_wide_vectors() ? loops_of<Wide> : loops_of<Plain>;
}

}
