#include "core/picture/canvas.h"

#include "core/base/wide_loops.h"
#include "core/source/transfer.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

template <class Channel, int channels>
void linear_row(const Channel* from, int pixels, float* to)
{
    const float* linear = linear_table<Channel>().data();
    constexpr float one = std::numeric_limits<Channel>::max();
    for (int x = 0; x < pixels; ++x, from += channels, to += 4) {
        float b = linear[from[0]], g = linear[from[1]], r = linear[from[2]], a = 1;
        if constexpr (channels == 4) {
            a = float(from[3]) / one;
            b *= a;
            g *= a;
            r *= a;
        }
        to[0] = b;
        to[1] = g;
        to[2] = r;
        to[3] = a;
    }
}

/// Floats are linear already.
template <int channels>
CanvasRows rows_of_floats(const cv::Mat& pixels)
{
    return {pixels.size(),
            [pixels](int y, int begin, int end, float* to) {
                const float* from = pixels.ptr<float>(y) + std::ptrdiff_t(begin) * channels;
                for (int x = begin; x < end; ++x, from += channels, to += 4) {
                    to[3] = channels == 4 ? from[3] : 1;
                    for (int c = 0; c < 3; ++c)
                        to[c] = channels == 4 ? from[c] * to[3] : from[c];
                }
            },
            channels == 3,
            {}};
}

template <class Channel, int channels>
CanvasRows rows_of(const cv::Mat& pixels)
{
    return {pixels.size(),
            [pixels](int y, int begin, int end, float* to) {
                linear_row<Channel, channels>(pixels.ptr<Channel>(y) + std::ptrdiff_t(begin) * channels, end - begin,
                                              to);
            },
            channels == 3,
            {}};
}

/// The sRGB encoding as straight pieces, 256 in each doubling of light, found by the bits of the number: off by less
/// than a thirtieth of a step of sixteen bits. Scaled to this maximum.
struct Encoding
{
    static constexpr float darkest = 1.0F / 1024; // below, the encoding is a line: IEC 61966-2-1
    static constexpr std::int32_t first = std::bit_cast<std::int32_t>(darkest);
    static constexpr int step_bits = 15;
    static constexpr std::size_t pieces = std::size_t((std::bit_cast<std::int32_t>(1.0F) - first) >> step_bits);
    std::array<float, pieces> base{}, slope{};

    explicit Encoding(double most)
    {
        const auto value = [](std::size_t piece) {
            return double(std::bit_cast<float>(first + (std::int32_t(piece) << step_bits)));
        };
        for (std::size_t i = 0; i < pieces; ++i) {
            const double low = value(i), high = value(i + 1);
            const double a = encoded_of(low) * most, b = encoded_of(high) * most;
            slope[i] = float((b - a) / (high - low));
            base[i] = float(a - (b - a) / (high - low) * low);
        }
        base[0] = 0; // all that is darker is on this line
        slope[0] = float(12.92 * most);
    }
};

template <class Channel>
const Encoding& encoding()
{
    static const Encoding e(std::numeric_limits<Channel>::max());
    return e;
}

/// Codes with fractions, 0 to the maximum.
[[gnu::always_inline]] inline void encode_all(const Encoding& e, const float* light, int count, float* codes)
{
    constexpr float white = 1 - 6e-8F; // the number before 1
    const float *base = e.base.data(), *slope = e.slope.data();
    for (int i = 0; i < count; ++i) {
        float v = light[i] > 0 ? light[i] : 0; // what is no number is dark
        v = v < white ? v : white;
        std::int32_t piece = (std::bit_cast<std::int32_t>(v) - Encoding::first) >> Encoding::step_bits;
        piece = piece > 0 ? piece : 0;
        codes[i] = base[piece] + slope[piece] * v;
    }
}
FRENLO_WIDE void encode_wide(const Encoding& e, const float* light, int count, float* codes)
{
    encode_all(e, light, count, codes);
}
void encode_plain(const Encoding& e, const float* light, int count, float* codes)
{
    encode_all(e, light, count, codes);
}

/// A number of 32 bits that has nothing to do with its neighbours'. Jarzynski, Olano: Hash Functions for GPU Rendering,
/// JCGT 9 (3), 2020: PCG.
std::uint32_t scattered(std::uint32_t n)
{
    const std::uint32_t state = n * 747796405U + 2891336453U;
    const std::uint32_t word = ((state >> ((state >> 28U) + 4U)) ^ state) * 277803737U;
    return (word >> 22U) ^ word;
}

/// Straight colours in place of those multiplied by alpha.
void divide_by_alpha(const float* from, int pixels, float* to)
{
    for (int x = 0; x < pixels; ++x, from += 4, to += 4) {
        const float straight = from[3] > 0 ? 1 / std::min(from[3], 1.0F) : 0;
        for (int c = 0; c < 3; ++c)
            to[c] = from[c] * straight;
        to[3] = from[3];
    }
}

/// What is added before the fraction is dropped.
void noise_row(std::uint32_t seed, int begin, int end, int y, float* noise)
{
    constexpr std::size_t many = 1U << 16U; // a row takes its numbers from any place of a long list
    static const std::vector<float> list = [] {
        std::vector<float> all;
        for (std::uint32_t i = 0; i < many; ++i)
            all.push_back((float(scattered(i) & 4095U) + 0.5F) / 4096.0F);
        return all;
    }();
    std::size_t at = (scattered(scattered(seed) + std::uint32_t(y)) + 3 * std::size_t(begin)) % many;
    for (auto left = 3 * std::size_t(end - begin); left > 0; at = 0) {
        const std::size_t some = std::min(left, many - at);
        noise = std::copy_n(list.begin() + std::ptrdiff_t(at), some, noise);
        left -= some;
    }
}

template <class Channel>
void write_row(const float* codes, const float* noise, const float* alpha, int pixels, Channel* to)
{
    constexpr float most = std::numeric_limits<Channel>::max();
    for (int x = 0; x < pixels; ++x, codes += 4) {
        for (int c = 0; c < 3; ++c)
            *to++ = Channel(std::int32_t(codes[c] + (noise ? *noise++ : 0.5F)));
        if (alpha)
            *to++ = Channel(std::lround(std::clamp(alpha[4 * x + 3], 0.0F, 1.0F) * most));
    }
}

}

CanvasRows linear_rows(const cv::Mat& pixels, Depth result)
{
    switch (pixels.type()) {
    case CV_8UC3: {
        CanvasRows rows = rows_of<std::uint8_t, 3>(pixels);
        if (result == Depth::eight)
            rows.eight = pixels;
        return rows;
    }
    case CV_8UC4:
        return rows_of<std::uint8_t, 4>(pixels);
    case CV_16UC3:
        return rows_of<std::uint16_t, 3>(pixels);
    case CV_16UC4:
        return rows_of<std::uint16_t, 4>(pixels);
    case CV_32FC3:
        return rows_of_floats<3>(pixels);
    case CV_32FC4:
        return rows_of_floats<4>(pixels);
    default:
        CV_Error(cv::Error::StsUnsupportedFormat, "pixels of another kind");
    }
}

Canvas to_canvas(const cv::Mat& pixels)
{
    const CanvasRows rows = linear_rows(pixels);
    Canvas canvas(rows.size);
    for (int y = 0; y < canvas.rows; ++y)
        rows.row(y, 0, canvas.cols, canvas.ptr<float>(y));
    return canvas;
}

Quantised::Quantised(cv::Size size, const Quantising& how)
    : how_(how), picture_(size, CV_MAKETYPE(how.depth == Depth::sixteen ? CV_16U : CV_8U, how.alpha ? 4 : 3)),
      straight_(how.alpha ? std::size_t(size.width) * 4 : 0), codes_(std::size_t(size.width) * 4),
      noise_(how.dither ? std::size_t(size.width) * 3 : 0)
{
}

void Quantised::take(int y, int begin, int end, const float* bgra)
{
    const int pixels = end - begin;
    const float* colours = bgra;
    if (how_.alpha) {
        divide_by_alpha(bgra, pixels, straight_.data());
        colours = straight_.data();
    }
    const bool deep = how_.depth == Depth::sixteen;
    (has_wide_vectors() ? encode_wide : encode_plain)(deep ? encoding<std::uint16_t>() : encoding<std::uint8_t>(),
                                                      colours, pixels * 4, codes_.data());
    if (how_.dither)
        noise_row(*how_.dither, begin, end, y, noise_.data());
    const float *noise = how_.dither ? noise_.data() : nullptr, *alpha = how_.alpha ? bgra : nullptr;
    const auto at = std::ptrdiff_t(begin) * picture_.channels();
    deep ? write_row(codes_.data(), noise, alpha, pixels, picture_.ptr<std::uint16_t>(y) + at)
         : write_row(codes_.data(), noise, alpha, pixels, picture_.ptr<std::uint8_t>(y) + at);
}

cv::Mat quantised(const Canvas& canvas, const Quantising& how)
{
    Quantised out(canvas.size(), how);
    for (int y = 0; y < canvas.rows; ++y)
        out.take(y, 0, canvas.cols, canvas.ptr<float>(y));
    return out.picture();
}

void lay_over(float* bgra, int pixels, const std::array<std::uint8_t, 3>& rgb)
{
    const auto& linear = linear_table<std::uint8_t>();
    const std::array<float, 4> behind{linear[rgb[2]], linear[rgb[1]], linear[rgb[0]], 1};
    for (int x = 0; x < pixels; ++x, bgra += 4)
        if (const float through = 1 - bgra[3]; through > 0)
            for (std::size_t c = 0; c < 4; ++c)
                bgra[c] += behind[c] * through;
}

}
