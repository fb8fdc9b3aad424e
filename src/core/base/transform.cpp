#include "core/base/transform.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <vector>

namespace frenlo {

std::string_view movement_name(Movement movement)
{
    return word_of(movement);
}

std::optional<Movement> parse_movement(std::string_view name)
{
    return from_word<Movement>(name);
}

cv::Point2d moved(const Transform& t, cv::Point2d p)
{
    const double w = t(2, 0) * p.x + t(2, 1) * p.y + t(2, 2);
    return {(t(0, 0) * p.x + t(0, 1) * p.y + t(0, 2)) / w, (t(1, 0) * p.x + t(1, 1) * p.y + t(1, 2)) / w};
}

std::array<cv::Point2d, 4> corners_of(cv::Size size)
{
    const double w = size.width - 1.0, h = size.height - 1.0;
    return {{{0, 0}, {w, 0}, {w, h}, {0, h}}};
}

double corner_distance(const Transform& a, const Transform& b, cv::Size size)
{
    double sum = 0;
    for (const cv::Point2d& c : corners_of(size)) {
        const cv::Point2d d = moved(a, c) - moved(b, c);
        sum += d.dot(d);
    }
    return std::sqrt(sum / 4);
}

Transform at_scale(const Transform& t, double factor)
{
    // Pixel centres: x of the copy is (x + 1/2) * factor - 1/2.
    const double off = (factor - 1) / 2;
    const Transform larger(factor, 0, off, 0, factor, off, 0, 0, 1);
    const Transform smaller(1 / factor, 0, -off / factor, 0, 1 / factor, -off / factor, 0, 0, 1);
    const Transform scaled = larger * t * smaller;
    return scaled * (1 / scaled(2, 2));
}

Motion motion_of(const Transform& t, cv::Size size)
{
    const cv::Point2d middle((size.width - 1) / 2.0, (size.height - 1) / 2.0);
    const cv::Point2d at = moved(t, middle), right = moved(t, middle + cv::Point2d(1, 0)) - at,
                      down = moved(t, middle + cv::Point2d(0, 1)) - at;
    // The similarity nearest to what happens around the middle.
    const double a = (right.x + down.y) / 2, b = (right.y - down.x) / 2;
    return {at - middle, std::atan2(b, a) * 180 / CV_PI, std::hypot(a, b)};
}

namespace {

struct Middles
{
    cv::Point2d from, to;
    double weight = 0;
    double spread = 0; ///< weighted mean square distance of from's points from their middle
};

Middles middles_of(std::span<const PointPair> pairs)
{
    Middles m;
    for (const PointPair& p : pairs) {
        m.from += p.weight * p.from;
        m.to += p.weight * p.to;
        m.weight += p.weight;
    }
    if (m.weight <= 0)
        return m;
    m.from *= 1 / m.weight;
    m.to *= 1 / m.weight;
    for (const PointPair& p : pairs) {
        const cv::Point2d d = p.from - m.from;
        m.spread += p.weight * d.dot(d);
    }
    m.spread /= m.weight;
    return m;
}

std::optional<Transform> fit_similar(Movement movement, std::span<const PointPair> pairs)
{
    const Middles m = middles_of(pairs);
    if (m.weight <= 0)
        return std::nullopt;
    if (movement == Movement::shift)
        return Transform(1, 0, m.to.x - m.from.x, 0, 1, m.to.y - m.from.y, 0, 0, 1);
    if (pairs.size() < 2 || m.spread < 1e-9)
        return std::nullopt;
    double a = 0, b = 0;
    for (const PointPair& p : pairs) {
        const cv::Point2d f = p.from - m.from, t = p.to - m.to;
        a += p.weight * (f.x * t.x + f.y * t.y);
        b += p.weight * (f.x * t.y - f.y * t.x);
    }
    a /= m.weight * m.spread;
    b /= m.weight * m.spread;
    if (movement == Movement::turn) {
        const double length = std::hypot(a, b);
        if (length < 1e-9)
            return std::nullopt;
        a /= length;
        b /= length;
    }
    return Transform(a, -b, m.to.x - a * m.from.x + b * m.from.y, b, a, m.to.y - b * m.from.x - a * m.from.y, 0, 0, 1);
}

/// To middle 0 and mean distance sqrt(2), so that the equations are well conditioned (Hartley 1997).
Transform normalising(cv::Point2d middle, double spread)
{
    const double s = std::sqrt(2 / std::max(spread, 1e-12));
    return {s, 0, -s * middle.x, 0, s, -s * middle.y, 0, 0, 1};
}

std::optional<Transform> linear_perspective(std::span<const PointPair> pairs)
{
    cv::Matx<double, 8, 8> ata = cv::Matx<double, 8, 8>::zeros();
    cv::Matx<double, 8, 1> atb = cv::Matx<double, 8, 1>::zeros();
    for (const PointPair& p : pairs) {
        const double x = p.from.x, y = p.from.y;
        for (const bool row : {false, true}) {
            const double v = row ? p.to.y : p.to.x;
            const cv::Matx<double, 8, 1> a = row ? cv::Matx<double, 8, 1>(0, 0, 0, x, y, 1, -v * x, -v * y)
                                                 : cv::Matx<double, 8, 1>(x, y, 1, 0, 0, 0, -v * x, -v * y);
            ata += p.weight * (a * a.t());
            atb += p.weight * v * a;
        }
    }
    bool solved = false;
    const cv::Matx<double, 8, 8> inverse = ata.inv(cv::DECOMP_CHOLESKY, &solved);
    if (!solved)
        return std::nullopt;
    const cv::Matx<double, 8, 1> h = inverse * atb;
    return Transform(h(0), h(1), h(2), h(3), h(4), h(5), h(6), h(7), 1);
}

/// One step of Gauss-Newton on the distances in the second photo.
bool improve_perspective(Transform& t, std::span<const PointPair> pairs)
{
    cv::Matx<double, 8, 8> jtj = cv::Matx<double, 8, 8>::zeros();
    cv::Matx<double, 8, 1> jtr = cv::Matx<double, 8, 1>::zeros();
    for (const PointPair& p : pairs) {
        const double x = p.from.x, y = p.from.y, w = t(2, 0) * x + t(2, 1) * y + 1;
        const cv::Point2d at = moved(t, p.from), off = p.to - at;
        const cv::Matx<double, 8, 1> jx(x / w, y / w, 1 / w, 0, 0, 0, -at.x * x / w, -at.x * y / w);
        const cv::Matx<double, 8, 1> jy(0, 0, 0, x / w, y / w, 1 / w, -at.y * x / w, -at.y * y / w);
        jtj += p.weight * (jx * jx.t() + jy * jy.t());
        jtr += p.weight * (off.x * jx + off.y * jy);
    }
    bool solved = false;
    const cv::Matx<double, 8, 8> inverse = jtj.inv(cv::DECOMP_CHOLESKY, &solved);
    if (!solved)
        return false;
    const cv::Matx<double, 8, 1> step = inverse * jtr;
    for (int i = 0; i < 8; ++i)
        t.val[i] += step(i);
    return true;
}

std::optional<Transform> fit_perspective(std::span<const PointPair> pairs)
{
    if (pairs.size() < 4)
        return std::nullopt;
    const Middles m = middles_of(pairs);
    double to_spread = 0;
    for (const PointPair& p : pairs)
        to_spread += p.weight * (p.to - m.to).dot(p.to - m.to);
    if (m.weight <= 0 || m.spread < 1e-9 || to_spread <= 0)
        return std::nullopt;
    const Transform from = normalising(m.from, m.spread), to = normalising(m.to, to_spread / m.weight);
    std::vector<PointPair> normal(pairs.begin(), pairs.end());
    for (PointPair& p : normal)
        p = {moved(from, p.from), moved(to, p.to), p.weight};
    auto t = linear_perspective(normal);
    constexpr int steps = 3; // from the linear solution the distances are as good as least after two
    for (int i = 0; t && i < steps; ++i)
        if (!improve_perspective(*t, normal))
            return std::nullopt;
    if (!t)
        return std::nullopt;
    const Transform whole = to.inv() * *t * from;
    if (std::abs(whole(2, 2)) < 1e-12)
        return std::nullopt;
    return whole * (1 / whole(2, 2));
}

}

std::optional<Transform> fit(Movement movement, std::span<const PointPair> pairs)
{
    return movement == Movement::perspective ? fit_perspective(pairs) : fit_similar(movement, pairs);
}

Transform partly(const Transform& t, double share, Movement movement, cv::Size size)
{
    std::vector<PointPair> corners;
    for (const cv::Point2d& c : corners_of(size))
        corners.push_back({c, c + share * (moved(t, c) - c)});
    return fit(movement, corners).value_or(Transform::eye());
}

}
