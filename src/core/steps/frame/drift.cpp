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

double eased(double time, Ease ease, double strength)
{
    const double u = std::clamp(time, 0.0, 1.0);
    double e = u;
    switch (ease) { // from rest, or to it, without a jump of the acceleration either
    case Ease::none:
        break;
    case Ease::in:
        e = u * u * (3 - u) / 2;
        break;
    case Ease::out:
        e = 1 - (1 - u) * (1 - u) * (2 + u) / 2;
        break;
    case Ease::both:
        e = u * u * u * (10 + u * (6 * u - 15));
        break;
    }
    return u + strength * (e - u);
}

DriftPath::DriftPath(std::span<const DriftKnot> knots, Ease ease, double strength) : ease_(ease), strength_(strength)
{
    for (const DriftKnot& k : knots)
        knots_.push_back({k.frame, values_of(k.view)});
    inside_ = std::all_of(knots.begin(), knots.end(), [](const DriftKnot& k) { return lies_inside(k.view.box); });
    const std::size_t n = knots_.size();
    if (n < 3)
        return;
    // The natural spline's second derivatives: a tridiagonal system, solved forwards and back.
    for (std::size_t c = 0; c < values; ++c) {
        std::vector<double> factor(n, 0), right(n, 0);
        for (std::size_t i = 1; i + 1 < n; ++i) {
            const double before = knots_[i].frame - knots_[i - 1].frame, after = knots_[i + 1].frame - knots_[i].frame;
            const double slope_before = (knots_[i].value[c] - knots_[i - 1].value[c]) / before;
            const double slope_after = (knots_[i + 1].value[c] - knots_[i].value[c]) / after;
            const double pivot = 2 * (before + after) - before * factor[i - 1];
            factor[i] = after / pivot;
            right[i] = (6 * (slope_after - slope_before) - before * right[i - 1]) / pivot;
        }
        for (std::size_t i = n - 1; i-- > 1;)
            knots_[i].bend[c] = right[i] - factor[i] * knots_[i + 1].bend[c];
    }
}

DriftView DriftPath::at(double frame) const
{
    const double first = knots_.front().frame, last = knots_.back().frame;
    const double t =
        last > first ? first + (last - first) * eased((frame - first) / (last - first), ease_, strength_) : first;
    std::size_t i = 0;
    while (i + 2 < knots_.size() && t >= knots_[i + 1].frame)
        ++i;
    std::array<double, values> v = knots_[i].value;
    if (knots_.size() > 1) {
        const Knot &a = knots_[i], &b = knots_[i + 1];
        const double h = b.frame - a.frame, p = (b.frame - t) / h, q = (t - a.frame) / h;
        for (std::size_t c = 0; c < values; ++c)
            v[c] = p * a.value[c] + q * b.value[c] +
                   ((p * p * p - p) * a.bend[c] + (q * q * q - q) * b.bend[c]) * h * h / 6;
    }
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
