#pragma once
#include "core/base/natural_spline.h"
#include "core/steps/frame/frame_values.h"

#include <span>
#include <vector>

namespace frenlo {

/// A view at a time, in frames.
struct DriftKnot
{
    double frame = 0;
    DriftView view;
};

/// A way through views: two are joined by a straight line, more by a natural cubic spline of each value over time,
/// which has no jerk: its second derivative has no jump. Eased, the time along it is. Before the first view and after
/// the last it stays.
class DriftPath
{
public:
    /// In order of time, apart; at least one.
    DriftPath(std::span<const DriftKnot> knots, Ease ease, double strength);
    [[nodiscard]] DriftView at(double frame) const;

private:
    static constexpr std::size_t values = 5; ///< x, y, width, height, turn
    NaturalSpline<values> spline_;
    Ease ease_;
    double strength_;
    bool inside_; ///< all views lie within the undressed frame, and so does what is between
};

}
