#include "core/steps/frame/miniature.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <vector>

namespace frenlo {

namespace {

/// How far each point of the frame is from the band, and what that makes of it.
class FocusField
{
public:
    FocusField(const Miniature& m, cv::Size frame)
        : across_(-std::sin(m.angle * std::numbers::pi / 180) / frame.height),
          down_(std::cos(m.angle * std::numbers::pi / 180) / frame.height),
          from_((0.5 - m.x * frame.width) * across_ + (0.5 - m.y * frame.height) * down_), half_(m.width / 2),
          softness_(m.softness), most_(m.blur * frame.height)
    {
    }
    /// Pixels; centres on integers.
    [[nodiscard]] double radius(double x, double y) const
    {
        const double t = std::clamp((std::abs(x * across_ + y * down_ + from_) - half_) / softness_, 0.0, 1.0);
        return most_ * t * t * (3 - 2 * t);
    }
    [[nodiscard]] double most() const { return most_; }

private:
    double across_, down_, from_, half_, softness_, most_;
};

}

double disc_radius(const Miniature& miniature, cv::Size frame, double x, double y)
{
    return FocusField(miniature, frame).radius(x, y);
}

namespace {

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
            constexpr int parts = 16;
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

/// Four numbers a pixel: light and how much of it there is.
using Light = cv::Vec4f;
using Lights = cv::Mat4f;

/// A row's running sums, so that a run of any length is a difference. The picture goes on at its sides.
void sum_up(const Light* row, int columns, int beside, Light* sums)
{
    cv::Vec4d sum(0, 0, 0, 0);
    *sums++ = Light();
    for (int x = -beside; x < columns + beside; ++x) {
        const Light& p = row[std::clamp(x, 0, columns - 1)];
        for (int c = 0; c < 4; ++c)
            sum[c] += double(p[c]);
        *sums++ = Light(float(sum[0]), float(sum[1]), float(sum[2]), float(sum[3]));
    }
}

/// Adds to each pixel the run from x - half to x + half of a row, times share.
void add_runs(const Light* sums, int columns, int beside, float half, float share, Light* to)
{
    // Where a run begins and ends in a pixel is the same for all of them.
    const float begin = float(beside) + 0.5F - half, end = float(beside) + 0.5F + half;
    const int b = int(begin), e = int(end);
    const float in_b = begin - float(b), in_e = end - float(e);
    const float w0 = share * (in_b - 1), w1 = -share * in_b, w2 = share * (1 - in_e), w3 = share * in_e;
    const float *p0 = sums[b].val, *p2 = sums[e].val;
    float* out = to->val;
    for (int i = 0; i < columns * 4; ++i)
        out[i] += w0 * p0[i] + w1 * p0[i + 4] + w2 * p2[i] + w3 * p2[i + 4];
}

/// Adds the picture with each of its points spread over a disc.
void spread(const Lights& from, const Disc& disc, const std::vector<char>& has, Lights out)
{
    const int rows = from.rows, columns = from.cols, reach = disc.reach(), beside = reach + 1;
    Lights sums(rows, columns + 2 * beside + 1);
    tbb::parallel_for(0, rows, [&](int y) {
        if (has[std::size_t(y)])
            sum_up(from[y], columns, beside, sums[y]);
    });
    tbb::parallel_for(0, rows, [&](int y) {
        for (int dy = -reach; dy <= reach; ++dy) {
            const int row = std::clamp(y + dy, 0, rows - 1); // the picture goes on above and below
            if (has[std::size_t(row)] && disc.half(dy) > 0)
                add_runs(sums[row], columns, beside, disc.half(dy), disc.even(), out[y]);
        }
    });
}

/// Radii for which discs are made; a pixel between two is spread by both, each by its share.
std::vector<double> levels_for(double most)
{
    std::vector<double> levels{0};
    constexpr double first = 0.75, growth = 1.3;
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

/// A large disc looks the same made at a half or a quarter of the size.
int smaller_by(double radius)
{
    constexpr double fine = 5; // pixels that a radius must have where it is made
    return radius >= 4 * fine ? 4 : radius >= 2 * fine ? 2 : 1;
}

/// A little more colour and contrast, around middle grey.
void strengthen(Canvas& frame, double by)
{
    if (by <= 0)
        return;
    // What the light is multiplied by: a table over its root. The slope holds at middle grey and eases towards black
    // and white.
    constexpr int steps = 1024;
    constexpr double grey = 0.18;
    std::vector<float> gains(steps + 2, 1);
    for (int i = 1; i <= steps; ++i) {
        const double root = double(i) / steps;
        gains[std::size_t(i)] = float(std::pow(root * root / grey, 0.4 * by * 4 * root * (1 - root)));
    }
    const auto colour = float(1 + by);
    tbb::parallel_for(0, frame.rows, [&](int y) {
        auto* p = frame.ptr<float>(y);
        for (int x = 0; x < frame.cols; ++x, p += 4) {
            const float light = 0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2];
            const float at = std::sqrt(std::clamp(light, 0.0F, 1.0F)) * steps;
            const int i = int(at);
            const float gain =
                gains[std::size_t(i)] + (at - float(i)) * (gains[std::size_t(i) + 1] - gains[std::size_t(i)]);
            for (int c = 0; c < 3; ++c)
                p[c] = std::max(0.0F, (light + (p[c] - light) * colour) * gain);
        }
    });
}

/// Spreads the colours and how much of each pixel there is; weights: those of the pixels alone.
class Spreading
{
public:
    Spreading(const Canvas& frame, const FocusField& field)
        : frame_(frame), field_(field), levels_(levels_for(field.most()))
    {
        least_.resize(std::size_t(frame.rows));
        most_.resize(std::size_t(frame.rows));
        for (int y = 0; y < frame.rows; ++y) { // along a row it falls to the band, if at all, and rises behind it
            const double a = field.radius(0, y), b = field.radius(frame.cols - 1, y),
                         m = field.radius(frame.cols / 2.0, y);
            most_[std::size_t(y)] = std::max(a, b);
            least_[std::size_t(y)] = a == b && b == m ? a : 0;
        }
    }

    /// The sum of all levels: those of one size together, so that only three pictures are brought together.
    [[nodiscard]] Lights all() const
    {
        Lights sum(frame_.rows, frame_.cols, Light());
        for (const int by : {1, 2, 4}) {
            Lights part = by == 1 ? sum : Lights();
            for (std::size_t level = 0; level < levels_.size(); ++level)
                if ((level == 0 ? 1 : smaller_by(levels_[level])) == by) {
                    if (part.empty())
                        part = Lights((frame_.rows + by - 1) / by, (frame_.cols + by - 1) / by, Light());
                    add(level, by, part);
                }
            if (by > 1 && !part.empty())
                add_enlarged(part, by, sum);
        }
        return sum;
    }

private:
    [[nodiscard]] bool has(std::size_t level, int y) const
    {
        const double below = level == 0 ? -1 : levels_[level - 1];
        const double above = level + 1 == levels_.size() ? 1e9 : levels_[level + 1];
        return most_[std::size_t(y)] > below && least_[std::size_t(y)] < above;
    }

    /// Rows that have something of the level, and those that it is spread into. sum: so many times as small.
    void add(std::size_t level, int by, Lights& sum) const
    {
        const int rows = frame_.rows, columns = frame_.cols;
        int begin = rows, end = 0;
        for (int y = 0; y < rows; ++y)
            if (has(level, y)) {
                begin = std::min(begin, y);
                end = y + 1;
            }
        if (begin >= end)
            return;
        if (level == 0) {
            tbb::parallel_for(begin, end, [&](int y) { take(level, y, sum[y]); });
            return;
        }
        const Disc disc(levels_[level] / by);
        const int margin = (disc.reach() + 2) * by;
        const int top = std::max(0, (begin - margin) / by), bottom = std::min(sum.rows, (end + margin + by - 1) / by);
        Lights source(bottom - top, sum.cols, Light());
        std::vector<char> used(std::size_t(source.rows), 0);
        const auto width = std::size_t(columns);
        tbb::parallel_for(0, source.rows, [&](int y) {
            const int first = (top + y) * by, last = std::min(rows, first + by);
            bool any = false;
            for (int from = first; from < last; ++from)
                any = any || has(level, from);
            if (!any)
                return;
            used[std::size_t(y)] = 1;
            if (by == 1)
                return take(level, first, source[y]);
            std::vector<Light> row(width, Light());
            for (int from = first; from < last; ++from)
                if (has(level, from))
                    take(level, from, row.data());
            Light* to = source[y];
            for (int x = 0; x < source.cols; ++x) {
                const int begins = x * by, ends = std::min(columns, begins + by);
                Light mean;
                for (int k = begins; k < ends; ++k)
                    mean += row[std::size_t(k)];
                to[x] = mean * (1.0F / float((ends - begins) * (last - first)));
            }
        });
        spread(source, disc, used, sum.rowRange(top, bottom));
    }

    /// Adds a picture that is so many times as small, by straight lines between its pixels.
    static void add_enlarged(const Lights& small, int by, Lights& sum)
    {
        struct Place
        {
            int before;
            int after;
            float share;
        };
        const auto place = [by](int at, int size) {
            const float p = (float(at) + 0.5F) / float(by) - 0.5F;
            const int before = std::clamp(int(std::floor(p)), 0, size - 1);
            return Place{before, std::min(size - 1, before + 1), std::clamp(p - float(before), 0.0F, 1.0F)};
        };
        std::vector<Place> columns;
        columns.reserve(std::size_t(sum.cols));
        for (int x = 0; x < sum.cols; ++x)
            columns.push_back(place(x, small.cols));
        tbb::parallel_for(0, sum.rows, [&](int y) {
            const Place row = place(y, small.rows);
            std::vector<Light> line(std::size_t(small.cols), Light());
            const float *upper = small[row.before]->val, *lower = small[row.after]->val;
            float* between = line.data()->val;
            for (int i = 0; i < small.cols * 4; ++i)
                between[i] = upper[i] + row.share * (lower[i] - upper[i]);
            Light* to = sum[y];
            for (int x = 0; x < sum.cols; ++x) {
                const Place& c = columns[std::size_t(x)];
                const float *p = line[std::size_t(c.before)].val, *q = line[std::size_t(c.after)].val;
                for (int k = 0; k < 4; ++k)
                    to[x].val[k] += p[k] + c.share * (q[k] - p[k]);
            }
        });
    }

    /// Adds the level's share of a row of the frame.
    void take(std::size_t level, int y, Light* to) const
    {
        const auto* p = frame_[y];
        const bool even = least_[std::size_t(y)] == most_[std::size_t(y)];
        float share = even ? share_of(levels_, level, most_[std::size_t(y)]) : 0;
        for (int x = 0; x < frame_.cols; ++x) {
            if (!even)
                share = share_of(levels_, level, field_.radius(x, y));
            for (int c = 0; c < 4; ++c)
                to[x][c] += share * p[x][c];
        }
    }

    const Canvas& frame_;
    const FocusField& field_;
    std::vector<double> levels_;
    std::vector<double> least_, most_; ///< radii of each row
};

}

void frame_stage(const MiniatureLook& miniature, Canvas& frame)
{
    strengthen(frame, miniature.look.stronger);
    const FocusField field(miniature.look, frame.size());
    if (field.most() < 0.3)
        return;
    // How much light comes together where: what is opaque is spread with its alpha of 1, the rest needs a picture of
    // ones.
    bool opaque = true;
    for (int y = 0; y < frame.rows && opaque; ++y)
        for (int x = 0; x < frame.cols && opaque; ++x)
            opaque = frame(y, x)[3] > 0.9999F;
    const Lights light = Spreading(frame, field).all();
    Lights ones;
    if (!opaque)
        ones = Spreading(Canvas(frame.size(), cv::Vec4f(1, 1, 1, 1)), field).all();
    tbb::parallel_for(0, frame.rows, [&](int y) {
        for (int x = 0; x < frame.cols; ++x) {
            const Light& l = light(y, x);
            frame(y, x) = l * (1 / std::max(1e-6F, opaque ? l[3] : ones(y, x)[3]));
        }
    });
}

}
