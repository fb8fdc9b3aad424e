#include "core/steps/shoot/path_marks.h"

#include "core/base/problem.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

using Point = cv::Point2d;

/// Between b and c, by the scheme of Barry and Goldman (1988).
Point centripetal(const Point& a, const Point& b, const Point& c, const Point& d, double share)
{
    const auto knot = [](const Point& p, const Point& q) { return std::max(1e-6, std::sqrt(cv::norm(q - p))); };
    const double t0 = 0, t1 = knot(a, b), t2 = t1 + knot(b, c), t3 = t2 + knot(c, d);
    const double t = t1 + share * (t2 - t1);
    const auto mix = [](const Point& p, const Point& q, double from, double to, double at) {
        return p * ((to - at) / (to - from)) + q * ((at - from) / (to - from));
    };
    const Point ab = mix(a, b, t0, t1, t), bc = mix(b, c, t1, t2, t), cd = mix(c, d, t2, t3, t);
    return mix(mix(ab, bc, t0, t2, t), mix(bc, cd, t1, t3, t), t1, t2, t);
}

}

std::vector<cv::Point2d> curve_of(const MarkPath& path)
{
    const auto& p = path.points;
    if (p.size() < 3)
        return p;
    constexpr int pieces = 24;
    std::vector<Point> curve;
    curve.reserve(p.size() * pieces);
    for (std::size_t i = 0; i + 1 < p.size(); ++i) {
        const Point before = i > 0 ? p[i - 1] : p[i] * 2 - p[i + 1];
        const Point after = i + 2 < p.size() ? p[i + 2] : p[i + 1] * 2 - p[i];
        for (int k = 0; k < pieces; ++k)
            curve.push_back(centripetal(before, p[i], p[i + 1], after, double(k) / pieces));
    }
    curve.push_back(p.back());
    return curve;
}

std::vector<cv::Point2d> marks_of(const MarkPath& path)
{
    const std::vector<Point> curve = curve_of(path);
    if (curve.empty())
        return {};
    std::vector<double> length{0};
    length.reserve(curve.size());
    for (std::size_t i = 1; i < curve.size(); ++i)
        length.push_back(length.back() + cv::norm(curve[i] - curve[i - 1]));
    std::vector<Point> marks;
    marks.reserve(std::size_t(path.steps) + 1);
    std::size_t at = 0;
    for (std::int64_t k = 0; k <= path.steps; ++k) {
        const double wanted =
            length.back() * eased(double(k) / double(std::max<std::int64_t>(1, path.steps)), path.ease);
        while (at + 2 < curve.size() && length[at + 1] < wanted)
            ++at;
        if (curve.size() < 2) {
            marks.push_back(curve.front());
            continue;
        }
        const double piece = length[at + 1] - length[at];
        const double share = piece > 0 ? std::clamp((wanted - length[at]) / piece, 0.0, 1.0) : 0;
        marks.push_back(curve[at] + (curve[at + 1] - curve[at]) * share);
    }
    return marks;
}

std::optional<cv::Point2d> mark_at(const MarkPath& path, std::int64_t photo)
{
    if (photo < path.first || photo > path.first + path.steps || path.points.empty())
        return std::nullopt;
    return marks_of(path)[std::size_t(photo - path.first)];
}

namespace {

MarkPath checked(MarkPath path)
{
    if (path.points.size() < 2)
        throw Failure({"a path needs two points at least", {}, "Drag over the picture from where it begins"});
    if (path.points.size() > most_path_points)
        throw Failure({"a path can have " + std::to_string(most_path_points) + " points", {}, ""});
    path.steps = std::clamp<std::int64_t>(path.steps, 1, most_path_steps);
    path.first = std::max<std::int64_t>(0, path.first);
    return path;
}

template <class Change>
Project with_paths(const Project& project, ShotIndex shot, Change change)
{
    return with_shot(project, shot, [&](Shot& s) {
        auto marks = s.steps.get<PathMarks>();
        change(marks.paths);
        if (marks.paths.empty())
            s.steps.drop<PathMarks>();
        else
            s.steps.set(marks);
    });
}

}

Project add_path(const Project& project, ShotIndex shot, MarkPath path)
{
    return with_paths(project, shot, [&](std::vector<MarkPath>& paths) {
        if (paths.size() >= most_paths)
            throw Failure({"a shot can have " + std::to_string(most_paths) + " paths", {}, "Remove one"});
        paths.push_back(checked(std::move(path)));
    });
}

Project change_path(const Project& project, ShotIndex shot, std::size_t path, const MarkPath& to)
{
    return with_paths(project, shot, [&](std::vector<MarkPath>& paths) { paths.at(path) = checked(to); });
}

Project remove_path(const Project& project, ShotIndex shot, std::size_t path)
{
    return with_paths(project, shot, [&](std::vector<MarkPath>& paths) {
        paths.erase(paths.begin() + std::ptrdiff_t(std::min(path, paths.size() - 1)));
    });
}

}
