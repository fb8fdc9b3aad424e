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

/// The sRGB encoding to sixteen bits as straight pieces, 256 in each doubling of light, found by the bits of the
/// number: off by less than a thirtieth of a step.
struct Encoding
{
    static constexpr float darkest = 1.0F / 1024; // below, the encoding is a line: IEC 61966-2-1
    static constexpr std::int32_t first = std::bit_cast<std::int32_t>(darkest);
    static constexpr int step_bits = 15;
    static constexpr std::size_t pieces = std::size_t((std::bit_cast<std::int32_t>(1.0F) - first) >> step_bits);
    std::array<float, pieces> base{}, slope{};

    Encoding()
    {
        constexpr double most = std::numeric_limits<std::uint16_t>::max();
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

constexpr float white = 1 - 6e-8F; ///< the number before 1

/// Codes of sixteen bits. added: before the fraction is dropped, for each of them, or a half.
[[gnu::always_inline]] inline void encode_all(const float* light, const float* added, int count, std::int32_t* codes)
{
    static const Encoding e;
    const float *base = e.base.data(), *slope = e.slope.data();
    const auto code = [&](int i, float more) {
        float v = light[i] > 0 ? light[i] : 0; // what is no number is dark
        v = v < white ? v : white;
        std::int32_t piece = (std::bit_cast<std::int32_t>(v) - Encoding::first) >> Encoding::step_bits;
        piece = piece > 0 ? piece : 0;
        codes[i] = std::int32_t(base[piece] + slope[piece] * v + more);
    };
    if (added)
        for (int i = 0; i < count; ++i)
            code(i, added[i]);
    else
        for (int i = 0; i < count; ++i)
            code(i, 0.5F);
}
FRENLO_WIDE void encode_wide(const float* light, const float* added, int count, std::int32_t* codes)
{
    encode_all(light, added, count, codes);
}
void encode_plain(const float* light, const float* added, int count, std::int32_t* codes)
{
    encode_all(light, added, count, codes);
}

/// Linear light in steps of 65,535, of which eight bits are found in a table.
[[gnu::always_inline]] inline void step_all(const float* light, int count, std::int32_t* steps)
{
    constexpr float most = 65'535, nearest = 0.5F; // so that dropping the fraction is rounding
    for (int i = 0; i < count; ++i) {
        float v = light[i] > 0 ? light[i] : 0; // what is no number is dark
        v = v < 1 ? v : 1;
        steps[i] = std::int32_t(v * most + nearest);
    }
}
FRENLO_WIDE void step_wide(const float* light, int count, std::int32_t* steps)
{
    step_all(light, count, steps);
}
void step_plain(const float* light, int count, std::int32_t* steps)
{
    step_all(light, count, steps);
}

/// Codes of eight bits with eight more behind the point, of each of these steps. The step that is nearest to a whole
/// code is that one, so that what was read from eight bits gets no noise.
const std::vector<std::uint16_t>& fine_codes()
{
    static const std::vector<std::uint16_t> table = [] {
        std::vector<std::uint16_t> t;
        for (int step = 0; step <= 65'535; ++step)
            t.push_back(std::uint16_t(std::lround(encoded_of(step / 65'535.0) * 255 * 256)));
        for (int code = 0; code < 256; ++code)
            t[std::size_t(std::lround(linear_of(code / 255.0) * 65'535))] = std::uint16_t(code * 256);
        return t;
    }();
    return table;
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

/// Noise for a row, three numbers a pixel: from any place of a long list on, round and round.
class RowNoise
{
public:
    RowNoise(std::uint32_t seed, int y, int begin)
        : list_(list().data()), at_((scattered(scattered(seed) + std::uint32_t(y)) + 3 * std::size_t(begin)) % many)
    {
    }
    /// 0 to 4095, of the next pixel.
    const std::uint16_t* next()
    {
        const std::uint16_t* three = list_ + at_;
        at_ = at_ + 3 < many ? at_ + 3 : at_ + 3 - many;
        return three;
    }

private:
    static constexpr std::size_t many = 1U << 16U;
    static const std::vector<std::uint16_t>& list()
    {
        static const std::vector<std::uint16_t> all = [] {
            std::vector<std::uint16_t> numbers;
            for (std::size_t i = 0; i < many + 2; ++i) // a pixel may begin at the last of them
                numbers.push_back(std::uint16_t(scattered(std::uint32_t(i % many)) & 4095U));
            return numbers;
        }();
        return all;
    }

    const std::uint16_t* list_;
    std::size_t at_;
};

template <class Channel>
Channel whole_alpha(float alpha)
{
    constexpr float most = std::numeric_limits<Channel>::max();
    return Channel(std::lround(std::clamp(alpha, 0.0F, 1.0F) * most));
}

/// alpha: of pixels of four, or none.
void write_eight(const std::int32_t* steps, RowNoise* noise, const float* alpha, int pixels, std::uint8_t* to)
{
    const std::uint8_t* encoded = encoded_table().data();
    const std::uint16_t* fine = noise ? fine_codes().data() : nullptr;
    for (int x = 0; x < pixels; ++x, steps += 4) {
        if (noise) {
            const std::uint16_t* three = noise->next();
            for (int c = 0; c < 3; ++c)
                *to++ = std::uint8_t((fine[steps[c]] + (three[c] >> 4U)) >> 8U);
        } else {
            for (int c = 0; c < 3; ++c)
                *to++ = encoded[steps[c]];
        }
        if (alpha)
            *to++ = whole_alpha<std::uint8_t>(alpha[4 * x + 3]);
    }
}

void write_sixteen(const std::int32_t* codes, const float* alpha, int pixels, std::uint16_t* to)
{
    for (int x = 0; x < pixels; ++x, codes += 4) {
        for (int c = 0; c < 3; ++c)
            *to++ = std::uint16_t(codes[c]);
        if (alpha)
            *to++ = whole_alpha<std::uint16_t>(alpha[4 * x + 3]);
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
      straight_(how.alpha ? std::size_t(size.width) * 4 : 0),
      noise_(how.dither && how.depth == Depth::sixteen ? std::size_t(size.width) * 4 : 0),
      codes_(std::size_t(size.width) * 4)
{
}

void Quantised::take(int y, int begin, int end, const float* bgra, Rounding rounding)
{
    const int pixels = end - begin;
    const float* colours = bgra;
    if (how_.alpha) {
        divide_by_alpha(bgra, pixels, straight_.data());
        colours = straight_.data();
    }
    const float* alpha = how_.alpha ? bgra : nullptr;
    const auto at = std::ptrdiff_t(begin) * picture_.channels();
    std::optional<RowNoise> noise;
    if (how_.dither && rounding == Rounding::as_asked)
        noise.emplace(*how_.dither, y, begin);
    if (how_.depth == Depth::eight) {
        (has_wide_vectors() ? step_wide : step_plain)(colours, pixels * 4, codes_.data());
        write_eight(codes_.data(), noise ? &*noise : nullptr, alpha, pixels, picture_.ptr<std::uint8_t>(y) + at);
        return;
    }
    if (noise)
        for (int x = 0; x < pixels; ++x) {
            const std::uint16_t* three = noise->next();
            for (int c = 0; c < 3; ++c)
                noise_[4 * std::size_t(x) + std::size_t(c)] = (float(three[c]) + 0.5F) / 4096;
        }
    (has_wide_vectors() ? encode_wide : encode_plain)(colours, noise ? noise_.data() : nullptr, pixels * 4,
                                                      codes_.data());
    write_sixteen(codes_.data(), alpha, pixels, picture_.ptr<std::uint16_t>(y) + at);
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
