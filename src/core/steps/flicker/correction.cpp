#include "core/steps/flicker/correction.h"

#include "core/source/transfer.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace frenlo {

namespace {
constexpr double knee = 0.92; // of white; an encoded 245 of 255. A plain gain up to here
}

double brightened(double linear, double factor)
{
    const double from = factor > 1 ? knee / factor : knee; // where the plain gain ends
    if (linear <= from)
        return linear * factor;
    if (linear >= 1) // beyond white there is only light that later stages may want
        return linear;
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
    middles.reserve(std::size_t(n));
    for (int i = 0; i < n; ++i)
        middles.push_back((i + 0.5) / n);
    return middles;
}

namespace {

double value_at(std::span<const double> values, const Neighbours& b)
{
    return values[b.first] + (values[b.second] - values[b.first]) * b.share;
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
            const auto now =
                float(y * std::exp2(value_at(by_tone, neighbours_of(tone_knots, std::log2(std::max(y, 1e-6))))));
            lit_.push_back(lit_.empty() ? now : std::max(lit_.back(), now)); // lighter stays lighter
        }
    }

    /// Of linear light: Rec. ITU-R BT.709 luminance.
    [[nodiscard]] float factor(float luminance) const
    {
        if (lit_.empty() || luminance <= 0)
            return 1;
        const float at = std::sqrt(std::min(luminance, 1.0F)) * steps;
        const int i = std::min(int(at), steps);
        const float lit = lit_[std::size_t(i)] + (lit_[std::size_t(i) + 1] - lit_[std::size_t(i)]) * (at - float(i));
        return lit / std::min(luminance, 1.0F);
    }

private:
    static constexpr int steps = 1024; ///< of the root of luminance: fine enough in the darks
    static double luminance_at(int i) { return double(i) / steps * i / steps; }
    std::vector<float> lit_; ///< luminance after the correction
};

/// What a correction by place multiplies light by along a row. It changes slowly: worked out at every few pixels,
/// straight between them.
class ByPlace
{
public:
    ByPlace(const std::vector<double>& by_place, const StagePhoto& photo)
        : by_place_(by_place), to_plane_(photo.to_plane), width_(photo.size.width),
          apart_(std::clamp(photo.size.width / 96, 1, 16))
    {
        CV_Assert(by_place.empty() || by_place.size() == std::size_t(place_columns) * place_rows);
        if (!by_place_.empty())
            nodes_.resize(std::size_t((width_ - 1) / apart_) + 2);
    }
    [[nodiscard]] bool nothing() const { return by_place_.empty(); }

    void begin_row(int y, int begin, int end)
    {
        static const std::vector<double> across = cell_middles(place_columns), down = cell_middles(place_rows);
        const auto last = std::min(std::size_t(end / apart_) + 2, nodes_.size());
        for (auto n = std::size_t(begin / apart_); n < last; ++n) {
            const cv::Point2d at = moved(to_plane_, {double(n) * apart_, double(y)});
            const Neighbours column = neighbours_of(across, at.x), row = neighbours_of(down, at.y);
            const auto in_row = [&](std::size_t r) {
                return value_at(std::span(by_place_).subspan(r * place_columns, place_columns), column);
            };
            nodes_[n] = float(std::exp2(in_row(row.first) + (in_row(row.second) - in_row(row.first)) * row.share));
        }
    }
    [[nodiscard]] float factor(int x) const
    {
        const auto n = std::size_t(x / apart_);
        return nodes_[n] + (nodes_[n + 1] - nodes_[n]) * float(x % apart_) / float(apart_);
    }

private:
    std::vector<double> by_place_;
    Transform to_plane_;
    int width_;
    int apart_; ///< pixels between nodes
    std::vector<float> nodes_;
};

class CorrectedRows
{
public:
    CorrectedRows(const Correction& correction, const StagePhoto& photo)
        : tone_(correction.by_tone), place_(correction.by_place, photo), by_tone_(!correction.by_tone.empty())
    {
        for (std::size_t c = 0; c < 3; ++c)
            gain_[c] = float(std::exp2(correction.gain[2 - c]));
    }

    void operator()(int y, int begin, int end, float* p)
    {
        if (!place_.nothing())
            place_.begin_row(y, begin, end);
        for (int x = begin; x < end; x += some, p += values_of_some)
            if (x + some > end || !multiplied(x, p))
                for (int i = 0; i < std::min(some, end - x); ++i)
                    correct_one(x + i, p + std::ptrdiff_t(4) * i);
    }

private:
    static constexpr int some = 8; ///< pixels at once
    static constexpr std::size_t values_of_some = 4 * std::size_t(some);

    /// What nearly all pixels are: opaque, and below the knee before and after. False, and nothing done, where some are
    /// not.
    bool multiplied(int x, float* p) const
    {
        std::array<float, values_of_some> lit;
        float most = 0, alpha = 1;
        for (std::size_t i = 0; i < some; ++i) {
            const float* v = p + 4 * i;
            float here = place_.nothing() ? 1.0F : place_.factor(x + int(i));
            if (by_tone_)
                here *= tone_.factor(0.0722F * v[0] + 0.7152F * v[1] + 0.2126F * v[2]);
            for (std::size_t c = 0; c < 3; ++c) {
                lit[4 * i + c] = v[c] * here * gain_[c];
                most = std::max(most, std::max(v[c], lit[4 * i + c]));
            }
            lit[4 * i + 3] = v[3];
            alpha = std::min(alpha, v[3]);
        }
        if (most > float(knee) || alpha < 1)
            return false;
        std::copy(lit.begin(), lit.end(), p);
        return true;
    }

    void correct_one(int x, float* p) const
    {
        const float alpha = p[3];
        if (alpha <= 0)
            return;
        if (alpha < 1) // the light that the pixel has, not the part of it that is seen
            for (int c = 0; c < 3; ++c)
                p[c] /= alpha;
        float here = place_.nothing() ? 1.0F : place_.factor(x);
        if (by_tone_)
            here *= tone_.factor(0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2]);
        for (std::size_t c = 0; c < 3; ++c)
            p[c] = float(brightened(double(p[c]), double(here * gain_[c])));
        if (alpha < 1)
            for (int c = 0; c < 3; ++c)
                p[c] *= alpha;
    }

    ByTone tone_;
    ByPlace place_;
    bool by_tone_;
    std::array<float, 3> gain_{}; ///< B, G, R
};

/// Eight bits and a gain are a table: the same to a step, at a fraction of the time.
cv::Mat by_table(const cv::Mat& picture, const Correction& correction)
{
    const int channels = picture.channels();
    cv::Mat tables(1, 256, CV_8UC(channels));
    for (int c = 0; c < channels; ++c)
        for (int i = 0; i < 256; ++i) {
            const double linear = linear_table<std::uint8_t>()[std::size_t(i)];
            tables.ptr<std::uint8_t>(0)[i * channels + c] =
                c == 3
                    ? std::uint8_t(i)
                    : encoded_channel<std::uint8_t>(brightened(linear, std::exp2(correction.gain[std::size_t(2 - c)])));
        }
    cv::Mat out;
    cv::LUT(picture, tables, out);
    return out;
}

}

RowStage row_stage(const Correction& correction, const StagePhoto& photo)
{
    if (correction.nothing())
        return [](int, int, int, float*) {};
    return CorrectedRows(correction, photo);
}

cv::Mat apply_correction(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part)
{
    if (correction.nothing())
        return picture;
    if (picture.depth() == CV_8U && correction.by_place.empty() && correction.by_tone.empty())
        return by_table(picture, correction);
    const CanvasRows rows = linear_rows(picture);
    const RowStage stage = row_stage(correction, part_of_plane(picture.size(), part));
    Quantised out(picture.size(), {.depth = picture.depth() == CV_16U ? Depth::sixteen : Depth::eight,
                                   .alpha = picture.channels() == 4});
    std::vector<float> line(std::size_t(picture.cols) * 4);
    for (int y = 0; y < picture.rows; ++y) {
        rows.row(y, 0, picture.cols, line.data());
        stage(y, 0, picture.cols, line.data());
        out.take(y, 0, picture.cols, line.data());
    }
    return out.picture();
}

}
