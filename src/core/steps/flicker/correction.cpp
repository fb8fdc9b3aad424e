#include "core/steps/flicker/correction.h"

#include "core/source/transfer.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace frenlo {

double brightened(double linear, double factor)
{
    constexpr double knee = 0.92;                          // of white; an encoded 245 of 255
    const double from = factor > 1 ? knee / factor : knee; // where the plain gain ends
    if (linear <= from)
        return linear * factor;
    if (linear >= 1)
        return 1;
    // A cubic from there to white, its slopes limited so that it rises throughout (Fritsch, Carlson 1980).
    const double low = from * factor, wide = 1 - from, secant = (1 - low) / wide;
    const double begin = std::min(factor, 3 * secant), end = secant / 2, t = (linear - from) / wide;
    const double h00 = (1 + 2 * t) * (1 - t) * (1 - t), h10 = t * (1 - t) * (1 - t), h01 = t * t * (3 - 2 * t),
                 h11 = t * t * (t - 1);
    return h00 * low + h10 * wide * begin + h01 + h11 * wide * end;
}

Neighbours neighbours_of(std::span<const double> positions, double x)
{
    if (x <= positions.front())
        return {};
    const auto next = std::size_t(std::upper_bound(positions.begin(), positions.end(), x) - positions.begin());
    if (next == positions.size())
        return {next - 1, next - 1, 0};
    return {next - 1, next, (x - positions[next - 1]) / (positions[next] - positions[next - 1])};
}

std::vector<double> cell_middles(int n)
{
    std::vector<double> middles;
    for (int i = 0; i < n; ++i)
        middles.push_back((i + 0.5) / n);
    return middles;
}

namespace {

double value_at(std::span<const double> values, const Neighbours& b)
{
    return values[b.first] + (values[b.second] - values[b.first]) * b.share;
}

template <class Channel>
std::vector<Channel> table(double gain)
{
    std::vector<Channel> t;
    for (const double linear : linear_table<Channel>()) {
        const auto value = encoded_channel<Channel>(brightened(linear, std::exp2(gain)));
        t.push_back(t.empty() ? value : std::max(t.back(), value)); // lighter stays lighter
    }
    return t;
}

/// A correction by tone: by the luminance of a pixel, for all its colours alike, so that none changes its hue.
class ByTone
{
public:
    explicit ByTone(std::span<const double> by_tone)
    {
        if (by_tone.empty())
            return;
        lit_.reserve(steps + 2);
        for (int i = 0; i <= steps + 1; ++i) {
            const double y = luminance_at(i);
            const double now =
                y * std::exp2(value_at(by_tone, neighbours_of(tone_knots, std::log2(std::max(y, 1e-6)))));
            lit_.push_back(lit_.empty() ? now : std::max(lit_.back(), now)); // lighter stays lighter
        }
    }

    /// Of linear light: Rec. ITU-R BT.709 luminance.
    [[nodiscard]] double factor(double luminance) const
    {
        if (lit_.empty() || luminance <= 0)
            return 1;
        const double at = std::sqrt(luminance) * steps;
        const int i = std::min(int(at), steps);
        return (lit_[std::size_t(i)] + (lit_[std::size_t(i) + 1] - lit_[std::size_t(i)]) * (at - i)) / luminance;
    }

private:
    static constexpr int steps = 1024; ///< of the root of luminance: fine enough in the darks
    static double luminance_at(int i) { return double(i) / steps * i / steps; }
    std::vector<double> lit_; ///< luminance after the correction
};

using Tables = std::array<std::size_t, 3>; // B, G, R: which of the three is the first of its kind

Tables first_alike(const Stops3& gain)
{
    Tables t{};
    for (std::size_t c = 0; c < 3; ++c)
        for (t[c] = 0; gain[2 - t[c]] != gain[2 - c];)
            ++t[c];
    return t;
}

template <class Channel>
cv::Mat by_table(const cv::Mat& picture, const Correction& correction)
{
    const Tables alike = first_alike(correction.gain);
    std::array<std::vector<Channel>, 3> tables;
    for (std::size_t c = 0; c < 3; ++c)
        if (alike[c] == c)
            tables[c] = table<Channel>(correction.gain[2 - c]);
    const std::array<const Channel*, 3> of{tables[alike[0]].data(), tables[alike[1]].data(), tables[alike[2]].data()};
    cv::Mat out(picture.size(), picture.type());
    for (int y = 0; y < picture.rows; ++y) {
        const auto* from = picture.ptr<Channel>(y);
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < picture.cols * 3; x += 3)
            for (int c = 0; c < 3; ++c)
                to[x + c] = of[std::size_t(c)][from[x + c]];
    }
    return out;
}

/// What a correction by place adds along one row, stops; nothing where there is none.
class ByPlace
{
public:
    ByPlace(const std::vector<double>& by_place, const cv::Rect2d& part, cv::Size size)
        : by_place_(by_place), part_(part), size_(size)
    {
        CV_Assert(by_place.empty() || by_place.size() == std::size_t(place_columns) * place_rows);
        const std::vector<double> across = cell_middles(place_columns);
        for (int x = 0; x < size.width && !by_place.empty(); ++x)
            columns_.push_back(neighbours_of(across, part.x + part.width * (x + 0.5) / size.width));
    }

    using Row = std::array<double, place_columns>;
    [[nodiscard]] Row row(int y) const
    {
        Row stops{};
        if (by_place_.empty())
            return stops;
        static const std::vector<double> down = cell_middles(place_rows);
        const Neighbours at = neighbours_of(down, part_.y + part_.height * (y + 0.5) / size_.height);
        for (std::size_t n = 0; n < stops.size(); ++n) {
            const double above = by_place_[at.first * place_columns + n],
                         below = by_place_[at.second * place_columns + n];
            stops[n] = above + (below - above) * at.share;
        }
        return stops;
    }
    [[nodiscard]] double factor(const Row& row, int x) const
    {
        return columns_.empty() ? 1 : std::exp2(value_at(row, columns_[std::size_t(x)]));
    }

private:
    const std::vector<double>& by_place_;
    cv::Rect2d part_;
    cv::Size size_;
    std::vector<Neighbours> columns_;
};

template <class Channel>
cv::Mat by_pixel(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part)
{
    const ByTone tone(correction.by_tone);
    const ByPlace place(correction.by_place, part, picture.size());
    const auto& linear = linear_table<Channel>();
    const std::array<double, 3> gain{std::exp2(correction.gain[2]), std::exp2(correction.gain[1]),
                                     std::exp2(correction.gain[0])}; // B, G, R
    cv::Mat out(picture.size(), picture.type());
    tbb::parallel_for(0, picture.rows, [&](int y) {
        const ByPlace::Row row = place.row(y);
        const auto* from = picture.ptr<Channel>(y);
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < picture.cols; ++x, from += 3, to += 3) {
            const double b = linear[from[0]], g = linear[from[1]], r = linear[from[2]];
            const double here = place.factor(row, x) * tone.factor(0.0722 * b + 0.7152 * g + 0.2126 * r);
            to[0] = encoded_channel<Channel>(brightened(b, here * gain[0]));
            to[1] = encoded_channel<Channel>(brightened(g, here * gain[1]));
            to[2] = encoded_channel<Channel>(brightened(r, here * gain[2]));
        }
    });
    return out;
}

}

cv::Mat apply_correction(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part)
{
    if (correction.nothing())
        return picture;
    CV_Assert(picture.type() == CV_8UC3 || picture.type() == CV_16UC3);
    const bool deep = picture.depth() == CV_16U;
    if (!correction.by_place.empty() || !correction.by_tone.empty())
        return deep ? by_pixel<std::uint16_t>(picture, correction, part)
                    : by_pixel<std::uint8_t>(picture, correction, part);
    return deep ? by_table<std::uint16_t>(picture, correction) : by_table<std::uint8_t>(picture, correction);
}

}
