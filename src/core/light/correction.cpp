#include "core/light/correction.h"

#include "core/photo/transfer.h"

#include <tbb/parallel_for.h>

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace frenlo {

double lit(double linear, double factor)
{
    constexpr double knee = 0.92; // of white; an encoded 245 of 255
    const double from = factor > 1 ? knee / factor : knee; // where the plain gain ends
    if (linear <= from)
        return linear * factor;
    if (linear >= 1)
        return 1;
    // A cubic from there to white, its slopes limited so that it rises throughout (Fritsch, Carlson 1980).
    const double low = from * factor, wide = 1 - from, secant = (1 - low) / wide;
    const double begin = std::min(factor, 3 * secant), end = secant / 2, t = (linear - from) / wide;
    const double h00 = (1 + 2 * t) * (1 - t) * (1 - t), h10 = t * (1 - t) * (1 - t), h01 = t * t * (3 - 2 * t), h11 = t * t * (t - 1);
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

/// The factor for each value of a channel, without what hangs on the place.
template <class Channel>
std::vector<double> factors(double gain, std::span<const double> by_tone)
{
    constexpr int most = std::numeric_limits<Channel>::max();
    std::vector<double> f;
    f.reserve(std::size_t(most) + 1);
    if (by_tone.empty())
        return std::vector<double>(std::size_t(most) + 1, std::exp2(gain));
    for (int v = 0; v <= most; ++v) {
        const double stops = std::log2(std::max<double>(linear_table<Channel>()[std::size_t(v)], 1e-6));
        f.push_back(std::exp2(gain + value_at(by_tone, neighbours_of(tone_knots, stops))));
    }
    return f;
}

template <class Channel>
std::vector<Channel> table(double gain, std::span<const double> by_tone)
{
    std::vector<Channel> t;
    const auto factor = factors<Channel>(gain, by_tone);
    t.reserve(factor.size());
    for (std::size_t v = 0; v < factor.size(); ++v) {
        const auto value = encoded_channel<Channel>(lit(linear_table<Channel>()[v], factor[v]));
        t.push_back(t.empty() ? value : std::max(t.back(), value)); // lighter stays lighter
    }
    return t;
}

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
            tables[c] = table<Channel>(correction.gain[2 - c], correction.by_tone);
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

template <class Channel>
cv::Mat by_place(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part)
{
    CV_Assert(correction.by_place.size() == std::size_t(place_columns) * place_rows);
    const Tables alike = first_alike(correction.gain);
    std::array<std::vector<double>, 3> factor;
    for (std::size_t c = 0; c < 3; ++c)
        if (alike[c] == c)
            factor[c] = factors<Channel>(correction.gain[2 - c], correction.by_tone);
    const std::vector<double> across = cell_middles(place_columns), down = cell_middles(place_rows);
    std::vector<Neighbours> column;
    for (int x = 0; x < picture.cols; ++x)
        column.push_back(neighbours_of(across, part.x + part.width * (x + 0.5) / picture.cols));
    cv::Mat out(picture.size(), picture.type());
    tbb::parallel_for(0, picture.rows, [&](int y) {
        const Neighbours row = neighbours_of(down, part.y + part.height * (y + 0.5) / picture.rows);
        std::array<double, place_columns> stops{};
        for (std::size_t n = 0; n < stops.size(); ++n) {
            const double above = correction.by_place[row.first * place_columns + n], below = correction.by_place[row.second * place_columns + n];
            stops[n] = above + (below - above) * row.share;
        }
        const auto* from = picture.ptr<Channel>(y);
        auto* to = out.ptr<Channel>(y);
        for (int x = 0; x < picture.cols; ++x) {
            const double here = std::exp2(value_at(stops, column[std::size_t(x)]));
            for (int c = 0; c < 3; ++c) {
                const Channel v = from[3 * x + c];
                to[3 * x + c] = encoded_channel<Channel>(lit(linear_table<Channel>()[v], here * factor[alike[std::size_t(c)]][v]));
            }
        }
    });
    return out;
}

}

cv::Mat lit_by(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part)
{
    if (correction.nothing())
        return picture;
    CV_Assert(picture.type() == CV_8UC3 || picture.type() == CV_16UC3);
    const bool deep = picture.depth() == CV_16U;
    if (!correction.by_place.empty())
        return deep ? by_place<std::uint16_t>(picture, correction, part) : by_place<std::uint8_t>(picture, correction, part);
    return deep ? by_table<std::uint16_t>(picture, correction) : by_table<std::uint8_t>(picture, correction);
}

}
