#include "core/steps/frame/miniature.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

namespace frenlo {

double disc_radius(const Miniature& m, cv::Size frame, double x, double y)
{
    const double a = m.angle * std::numbers::pi / 180;
    const double across = x + 0.5 - m.x * frame.width, down = y + 0.5 - m.y * frame.height;
    const double away = std::abs(-std::sin(a) * across + std::cos(a) * down) / frame.height;
    const double t = std::clamp((away - m.width / 2) / m.softness, 0.0, 1.0);
    return m.blur * frame.height * t * t * (3 - 2 * t);
}

namespace {

/// Light and how much of it there is: blue, green, red, alpha, weight.
constexpr int values = 5;

/// A disc as one run of pixels a row, its ends in parts of a pixel, evened to a sum of 1.
class Disc
{
public:
    explicit Disc(double radius) : reach_(int(std::ceil(radius)))
    {
        double area = 0;
        for (int dy = -reach_; dy <= reach_; ++dy) {
            // The mean half width over the height of the row.
            double half = 0;
            constexpr int parts = 8;
            for (int i = 0; i < parts; ++i) {
                const double d = dy - 0.5 + (i + 0.5) / parts;
                half += std::sqrt(std::max(0.0, radius * radius - d * d)) / parts;
            }
            halves_.push_back(float(half));
            area += 2 * half;
        }
        even_ = float(1 / area);
    }
    [[nodiscard]] int reach() const { return reach_; }
    [[nodiscard]] float half(int dy) const { return halves_[std::size_t(dy + reach_)]; }
    [[nodiscard]] float even() const { return even_; }

private:
    int reach_;
    std::vector<float> halves_;
    float even_ = 1;
};

/// Rows of running sums, so that a run of any length is a difference. The picture goes on at its sides.
class RunningSums
{
public:
    RunningSums(int rows, int columns, int beside)
        : columns_(columns), beside_(beside), step_((std::size_t(columns) + 2 * std::size_t(beside) + 1) * values),
          sums_(std::size_t(rows) * step_)
    {
    }
    /// row: columns pixels of values each.
    void fill(int y, const float* row)
    {
        double sum[values] = {};
        float* to = sums_.data() + std::size_t(y) * step_;
        std::fill_n(to, values, 0.0F);
        for (int x = -beside_; x < columns_ + beside_; ++x) {
            const float* p = row + std::ptrdiff_t(std::clamp(x, 0, columns_ - 1)) * values;
            to += values;
            for (int c = 0; c < values; ++c)
                to[c] = float(sum[c] += double(p[c]));
        }
    }
    /// Adds the run from x - half to x + half, centres on integers, times share.
    void add(int y, int x, float half, float share, float* to) const
    {
        const float* row = sums_.data() + std::size_t(y) * step_;
        const float begin = float(x + beside_) + 0.5F - half, end = float(x + beside_) + 0.5F + half;
        const int b = int(begin), e = int(end);
        const float from_b = begin - float(b), from_e = end - float(e);
        const float *pb = row + std::ptrdiff_t(b) * values, *pe = row + std::ptrdiff_t(e) * values;
        for (int c = 0; c < values; ++c) {
            const float left = pb[c] + from_b * (pb[c + values] - pb[c]);
            const float right = pe[c] + from_e * (pe[c + values] - pe[c]);
            to[c] += share * (right - left);
        }
    }

private:
    int columns_, beside_;
    std::size_t step_;
    std::vector<float> sums_;
};

/// Radii for which discs are made; a pixel between two is spread by both, each by its share.
std::vector<double> levels_for(double most)
{
    std::vector<double> levels{0};
    constexpr double first = 0.75, growth = 1.25;
    const int between = most > first ? int(std::ceil(std::log(most / first) / std::log(growth))) : 0;
    for (int i = 0; i < between; ++i)
        levels.push_back(first * std::pow(growth, i));
    levels.push_back(std::max(first, most));
    return levels;
}

/// How much of a pixel of this radius belongs to a level.
float share_of(const std::vector<double>& levels, std::size_t level, double radius)
{
    const double at = levels[level];
    if (radius >= at) {
        if (level + 1 == levels.size())
            return 1;
        return radius >= levels[level + 1] ? 0.0F : float(1 - (radius - at) / (levels[level + 1] - at));
    }
    return level == 0 || radius <= levels[level - 1] ? 0.0F
                                                     : float((radius - levels[level - 1]) / (at - levels[level - 1]));
}

/// A little more colour and contrast, around middle grey.
void strengthen(Canvas& frame, double by)
{
    if (by <= 0)
        return;
    const float colour = float(1 + by), slope = float(1 + 0.4 * by);
    constexpr float grey = 0.18F;
    tbb::parallel_for(0, frame.rows, [&](int y) {
        auto* p = frame.ptr<float>(y);
        for (int x = 0; x < frame.cols; ++x, p += 4) {
            const float light = 0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2];
            if (light <= 1e-6F)
                continue;
            // The slope holds at middle grey and eases towards black and white.
            const float t = std::clamp(light, 0.0F, 1.0F), near = 4 * std::sqrt(t) * (1 - std::sqrt(t));
            const float gain = std::pow(light / grey, (slope - 1) * near);
            for (int c = 0; c < 3; ++c)
                p[c] = std::max(0.0F, (light + (p[c] - light) * colour) * gain);
        }
    });
}

}

void frame_stage(const MiniatureLook& miniature, Canvas& frame)
{
    const Miniature& m = miniature.look;
    const int rows = frame.rows, columns = frame.cols;
    strengthen(frame, m.stronger);
    const double most = m.blur * rows;
    if (most < 0.3)
        return;
    const std::vector<double> levels = levels_for(most);
    cv::Mat1f radius(rows, columns);
    tbb::parallel_for(0, rows, [&](int y) {
        for (int x = 0; x < columns; ++x)
            radius(y, x) = float(disc_radius(m, frame.size(), x, y));
    });
    std::vector<float> sum(std::size_t(rows) * std::size_t(columns) * values, 0.0F);
    for (std::size_t level = 0; level < levels.size(); ++level) {
        // Rows in which there is something of this level.
        std::vector<char> has(std::size_t(rows), 0);
        tbb::parallel_for(0, rows, [&](int y) {
            const float* r = radius[y];
            for (int x = 0; x < columns && !has[std::size_t(y)]; ++x)
                has[std::size_t(y)] = share_of(levels, level, double(r[x])) > 0;
        });
        const Disc disc(std::max(0.5, levels[level]));
        const int reach = level == 0 ? 0 : disc.reach();
        RunningSums sums(level == 0 ? 0 : rows, columns, reach + 1);
        tbb::parallel_for(0, rows, [&](int y) {
            if (!has[std::size_t(y)])
                return;
            std::vector<float> row(std::size_t(columns) * values);
            const auto* p = frame.ptr<float>(y);
            for (int x = 0; x < columns; ++x) {
                const float share = share_of(levels, level, double(radius(y, x)));
                float* to = row.data() + std::size_t(x) * values;
                for (int c = 0; c < 4; ++c)
                    to[c] = share * p[4 * std::ptrdiff_t(x) + c];
                to[4] = share;
            }
            if (level > 0)
                return sums.fill(y, row.data());
            float* to = sum.data() + std::size_t(y) * std::size_t(columns) * values;
            for (std::size_t i = 0; i < row.size(); ++i)
                to[i] += row[i];
        });
        if (level == 0)
            continue;
        tbb::parallel_for(0, rows, [&](int y) {
            float* to = sum.data() + std::size_t(y) * std::size_t(columns) * values;
            for (int dy = -reach; dy <= reach; ++dy) {
                const int from = std::clamp(y + dy, 0, rows - 1); // the picture goes on above and below
                if (!has[std::size_t(from)] || disc.half(dy) <= 0)
                    continue;
                for (int x = 0; x < columns; ++x)
                    sums.add(from, x, disc.half(dy), disc.even(), to + std::ptrdiff_t(x) * values);
            }
        });
    }
    tbb::parallel_for(0, rows, [&](int y) {
        auto* p = frame.ptr<float>(y);
        const float* from = sum.data() + std::size_t(y) * std::size_t(columns) * values;
        for (int x = 0; x < columns; ++x, p += 4, from += values) {
            const float even = 1 / std::max(1e-6F, from[4]);
            for (int c = 0; c < 4; ++c)
                p[c] = from[c] * even;
        }
    });
}

}
