#include "core/steps/steady/crop.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace frenlo {

namespace {

/// Points with a . p <= b.
struct HalfPlane
{
    cv::Point2d a;
    double b;
};

/// Left out: what lies on the wrong side (Sutherland, Hodgman 1974).
std::vector<cv::Point2d> clipped(const std::vector<cv::Point2d>& polygon, const HalfPlane& h)
{
    std::vector<cv::Point2d> out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const cv::Point2d p = polygon[i], q = polygon[(i + 1) % polygon.size()];
        const double dp = h.a.dot(p) - h.b, dq = h.a.dot(q) - h.b;
        if (dp <= 0)
            out.push_back(p);
        if ((dp < 0 && dq > 0) || (dp > 0 && dq < 0))
            out.push_back(p + dp / (dp - dq) * (q - p));
    }
    return out;
}

/// The half planes of a convex polygon, clockwise as seen with y down.
std::vector<HalfPlane> half_planes(std::span<const cv::Point2d> polygon)
{
    std::vector<HalfPlane> planes;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const cv::Point2d p = polygon[i], along = polygon[(i + 1) % polygon.size()] - p;
        const double length = std::hypot(along.x, along.y);
        if (length < 1e-9)
            continue;
        const cv::Point2d outwards(along.y / length, -along.x / length);
        planes.push_back({outwards, outwards.dot(p)});
    }
    return planes;
}

}

namespace {

/// The edges of a photo, clockwise.
std::array<cv::Point2d, 4> edges_of(cv::Size size)
{
    const double w = size.width - 0.5, h = size.height - 0.5;
    return {{{-0.5, -0.5}, {w, -0.5}, {w, h}, {-0.5, h}}};
}

}

std::vector<cv::Point2d> seen_by_all(std::span<const Transform> from_reference, cv::Size size)
{
    const auto frame = edges_of(size);
    return seen_by_all(from_reference, size, {frame.begin(), frame.end()});
}

std::vector<cv::Point2d> seen_by_all(std::span<const Transform> from_reference, cv::Size size,
                                     std::vector<cv::Point2d> polygon)
{
    if (polygon.size() < 3)
        return {};
    const auto frame = edges_of(size);
    for (const Transform& t : from_reference) {
        const Transform back = t.inv();
        std::vector<cv::Point2d> seen;
        seen.reserve(frame.size());
        for (const cv::Point2d& c : frame)
            seen.push_back(moved(back, c));
        for (const HalfPlane& plane : half_planes(seen)) {
            polygon = clipped(polygon, plane);
            if (polygon.size() < 3)
                return {};
        }
    }
    return polygon;
}

cv::Rect2d largest_box(std::span<const cv::Point2d> polygon, double shape)
{
    // Middle (x, y) and height s: a . (x, y) + s * (|ax| shape + |ay|) / 2 <= b for each edge; s is to be most. The
    // most is where three edges hold it; there are few, so all threes are tried.
    const auto planes = half_planes(polygon);
    const auto reach = [&](const HalfPlane& h) { return (std::abs(h.a.x) * shape + std::abs(h.a.y)) / 2; };
    std::optional<cv::Vec3d> best;
    int as_good = 0; // several are as large where the box can be slid: their middle is one of them, too
    const double tolerance = 1e-9 * (1 + (planes.empty() ? 0 : std::abs(planes[0].b)));
    for (std::size_t i = 0; i < planes.size(); ++i)
        for (std::size_t j = i + 1; j < planes.size(); ++j)
            for (std::size_t k = j + 1; k < planes.size(); ++k) {
                const cv::Matx33d m(planes[i].a.x, planes[i].a.y, reach(planes[i]), planes[j].a.x, planes[j].a.y,
                                    reach(planes[j]), planes[k].a.x, planes[k].a.y, reach(planes[k]));
                if (std::abs(cv::determinant(m)) < 1e-12)
                    continue;
                const cv::Vec3d at = m.inv() * cv::Vec3d(planes[i].b, planes[j].b, planes[k].b);
                if (at[2] <= 0 || (best && at[2] < (*best)[2] - tolerance))
                    continue;
                const bool inside = std::all_of(planes.begin(), planes.end(), [&](const HalfPlane& h) {
                    return h.a.x * at[0] + h.a.y * at[1] + reach(h) * at[2] <= h.b + tolerance;
                });
                if (!inside)
                    continue;
                const bool equal = best && at[2] <= (*best)[2] + tolerance;
                as_good = equal ? as_good + 1 : 1;
                best = equal ? *best + (at - *best) * (1.0 / as_good) : at;
            }
    if (!best)
        return {};
    const double height = (*best)[2], width = height * shape;
    return {(*best)[0] - width / 2, (*best)[1] - height / 2, width, height};
}

}
