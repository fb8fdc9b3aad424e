#include "core/steps/frame/level.h"

#include "core/base/transform.h"
#include "core/picture/frame_view.h"
#include "core/steps/frame/frame_values.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vector>

namespace frenlo {

namespace {

struct LongLine
{
    cv::Point2d a, b;
    [[nodiscard]] double length() const { return cv::norm(b - a); }
};

struct LongLines
{
    std::vector<LongLine> lines;
    cv::Size size;    ///< of the picture that they were found in
    double least = 0; ///< no line is shorter
};

LongLines long_lines(const cv::Mat& bgr)
{
    constexpr int side = 1024;
    cv::Mat grey;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    const double by = double(side) / std::max(grey.cols, grey.rows);
    if (by < 1)
        cv::resize(grey, grey, {}, by, by, cv::INTER_AREA);
    std::vector<cv::Vec4f> found;
    cv::createLineSegmentDetector()->detect(grey, found);
    LongLines all{{}, grey.size(), 0.06 * std::max(grey.cols, grey.rows)};
    for (const cv::Vec4f& l : found)
        if (const LongLine line{{l[0], l[1]}, {l[2], l[3]}}; line.length() >= all.least)
            all.lines.push_back(line);
    return all;
}

/// Clockwise from upright, degrees within 90 both ways.
double leaning(const LongLine& l)
{
    cv::Point2d d = l.b - l.a;
    if (d.y > 0)
        d = -d;
    return std::atan2(d.x, -d.y) * 180 / std::numbers::pi;
}

}

std::optional<double> find_level(const cv::Mat& bgr)
{
    const LongLines found = long_lines(bgr);
    struct Slope
    {
        double degrees, length;
    };
    std::vector<Slope> slopes;
    for (const LongLine& l : found.lines) {
        double degrees = std::atan2(l.b.y - l.a.y, l.b.x - l.a.x) * 180 / std::numbers::pi;
        degrees -= 90 * std::round(degrees / 90);
        constexpr double most = 20;
        if (std::abs(degrees) <= most)
            slopes.push_back({degrees, l.length()});
    }
    // The place where most length lies together, then the mean of what is near it.
    constexpr double near = 1.0;
    double best = 0, all = 0, at = 0;
    for (const Slope& s : slopes) {
        all += s.length;
        double together = 0;
        for (const Slope& o : slopes)
            together += o.length * std::max(0.0, 1 - std::abs(o.degrees - s.degrees) / near);
        if (together > best) {
            best = together;
            at = s.degrees;
        }
    }
    if (slopes.size() < 3 || best < 2 * found.least || best < 0.25 * all)
        return std::nullopt;
    double sum = 0, weights = 0;
    for (int pass = 0; pass < 3; ++pass, at = sum / weights, sum = weights = 0) {
        for (const Slope& s : slopes) {
            const double w = s.length * s.length * std::max(0.0, 1 - std::abs(s.degrees - at) / near);
            sum += w * s.degrees;
            weights += w;
        }
        if (weights <= 0)
            return std::nullopt;
    }
    return -at;
}

namespace {

/// How a line leans once the photo is made upright, degrees.
double leaning(const LongLine& l, const Upright& u, cv::Size size)
{
    const Transform upright = out_of_upright(u.turn, u.uprights, cv::Size2d(size)).inv();
    return leaning(LongLine{moved(upright, l.a), moved(upright, l.b)});
}

/// The turn and the drawing apart with which these two lines are upright; by the steps of Newton. Nothing where they
/// say the same, or it takes too much.
std::optional<Upright> upright_by(const LongLine& a, const LongLine& b, cv::Size size)
{
    Upright u;
    for (int step = 0; step < 6; ++step) {
        const double off_a = leaning(a, u, size), off_b = leaning(b, u, size);
        constexpr double by_turn = 0.1, by_share = 0.005;
        const Upright turned{u.turn + by_turn, u.uprights}, apart{u.turn, u.uprights + by_share};
        const cv::Matx22d slopes{
            (leaning(a, turned, size) - off_a) / by_turn, (leaning(a, apart, size) - off_a) / by_share,
            (leaning(b, turned, size) - off_b) / by_turn, (leaning(b, apart, size) - off_b) / by_share};
        const double determinant = slopes(0, 0) * slopes(1, 1) - slopes(0, 1) * slopes(1, 0);
        if (!(std::abs(determinant) > 1))
            return std::nullopt;
        const cv::Vec2d move = slopes.inv() * cv::Vec2d(-off_a, -off_b);
        u = {u.turn + move[0], u.uprights + move[1]};
        constexpr double most_turn = 20;
        if (!(std::abs(u.turn) <= most_turn) || !(std::abs(u.uprights) <= uprights_limits.high))
            return std::nullopt;
    }
    return u;
}

/// Least squares of how lines lean, longer ones counting more, those far off not at all.
Upright refined(Upright u, const std::vector<LongLine>& lines, cv::Size size, double near)
{
    for (int step = 0; step < 8; ++step) {
        cv::Matx22d normal = cv::Matx22d::zeros();
        cv::Vec2d right;
        for (const LongLine& l : lines) {
            const double off = leaning(l, u, size);
            const double w = l.length() * l.length() * std::max(0.0, 1 - std::abs(off) / near);
            constexpr double by_turn = 0.1, by_share = 0.005;
            const cv::Vec2d slope((leaning(l, {u.turn + by_turn, u.uprights}, size) - off) / by_turn,
                                  (leaning(l, {u.turn, u.uprights + by_share}, size) - off) / by_share);
            normal += w * slope * slope.t();
            right -= w * off * slope;
        }
        bool solved = false;
        const cv::Matx22d inverse = normal.inv(cv::DECOMP_LU, &solved);
        if (!solved)
            return u;
        const cv::Vec2d move = inverse * right;
        u = {u.turn + move[0], std::clamp(u.uprights + move[1], uprights_limits.low, uprights_limits.high)};
    }
    return u;
}

}

std::optional<Upright> find_uprights(const cv::Mat& bgr)
{
    const LongLines found = long_lines(bgr);
    std::vector<LongLine> lines;
    constexpr double most = 30;
    for (const LongLine& l : found.lines)
        if (std::abs(leaning(l)) <= most)
            lines.push_back(l);
    std::sort(lines.begin(), lines.end(), [](const auto& a, const auto& b) { return a.length() > b.length(); });
    constexpr std::size_t longest = 40;
    constexpr double near = 0.8;
    double all = 0, best = 0;
    for (const LongLine& l : lines)
        all += l.length();
    Upright at;
    double left = 0, right = 0;
    for (std::size_t i = 0; i < std::min(lines.size(), longest); ++i)
        for (std::size_t k = i + 1; k < std::min(lines.size(), longest); ++k) {
            constexpr double least_apart = 0.12; // shares of the width
            if (std::abs((lines[i].a.x + lines[i].b.x - lines[k].a.x - lines[k].b.x) / 2) <
                least_apart * found.size.width)
                continue;
            const auto u = upright_by(lines[i], lines[k], found.size);
            if (!u)
                continue;
            double together = 0, low = found.size.width, high = 0;
            for (const LongLine& l : lines)
                if (const double share = 1 - std::abs(leaning(l, *u, found.size)) / near; share > 0) {
                    together += l.length() * share;
                    low = std::min(low, (l.a.x + l.b.x) / 2);
                    high = std::max(high, (l.a.x + l.b.x) / 2);
                }
            if (together > best) {
                best = together;
                at = *u;
                left = low;
                right = high;
            }
        }
    constexpr double least_wide = 0.2;
    if (lines.size() < 3 || best < 3 * found.least || best < 0.3 * all || right - left < least_wide * found.size.width)
        return std::nullopt;
    return refined(at, lines, found.size, near);
}

}
