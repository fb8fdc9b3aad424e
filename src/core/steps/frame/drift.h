#pragma once
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
    struct Knot
    {
        double frame;
        std::array<double, values> value;
        std::array<double, values> bend{}; ///< second derivative
    };
    std::vector<Knot> knots_;
    Ease ease_;
    double strength_;
    bool inside_; ///< all views lie within the undressed frame, and so does what is between
};

/// Time from 0 to 1 along a movement that is eased; strength: of 1, 0 is even.
double eased(double time, Ease ease, double strength);

}
