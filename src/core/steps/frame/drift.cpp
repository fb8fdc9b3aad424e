#include "core/steps/frame/drift.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

std::array<double, 5> values_of(const DriftView& v)
{
    return {v.box.x, v.box.y, v.box.width, v.box.height, v.turn};
}

bool lies_inside(const cv::Rect2d& box)
{
    constexpr double nothing = 1e-9;
    return box.x >= -nothing && box.y >= -nothing && box.br().x <= 1 + nothing && box.br().y <= 1 + nothing;
}

}

DriftPath::DriftPath(std::span<const DriftKnot> knots, Ease ease, double strength)
    : ease_(ease), strength_(strength),
      inside_(std::all_of(knots.begin(), knots.end(), [](const DriftKnot& k) { return lies_inside(k.view.box); }))
{
    std::vector<double> times;
    std::vector<std::array<double, values>> points;
    for (const DriftKnot& k : knots) {
        times.push_back(k.frame);
        points.push_back(values_of(k.view));
    }
    spline_ = NaturalSpline<values>(std::move(times), std::move(points));
}

DriftView DriftPath::at(double frame) const
{
    const double first = spline_.first(), last = spline_.last();
    const double t =
        last > first ? first + (last - first) * eased((frame - first) / (last - first), ease_, strength_) : first;
    const auto v = spline_.at(t);
    DriftView view{{v[0], v[1], std::max(1e-6, v[2]), std::max(1e-6, v[3])}, v[4]};
    if (inside_) { // between its knots a spline may swing out a little
        view.box.width = std::min(view.box.width, 1.0);
        view.box.height = std::min(view.box.height, 1.0);
        view.box.x = std::clamp(view.box.x, 0.0, 1 - view.box.width);
        view.box.y = std::clamp(view.box.y, 0.0, 1 - view.box.height);
    }
    return view;
}

}
