#pragma once
#include "core/base/smoothing.h"
#include "core/steps/flicker/adaptive_course.h"

#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// How the slow course of a shot's light is found: robust local polynomials (Cleveland 1979), as wide as one curve asks
/// for, over each stretch between the places where the light changes at once. The same smoothing serves other curves of
/// the same photos, so that what it does to red, green and blue, or to parts of the picture, is the same.
class Trend
{
public:
    /// x: seconds, ascending. y: by which it is chosen, stops. breaks: where a new stretch begins, ascending, 0 and the
    /// number of photos among them. Changes that take longer than window_s stay; the curve may be slower than that
    /// where the photos speak for it: the less of the flicker is taken for the day's light. window_s 0: how fast the
    /// light may change is found from the photos, at each by itself (adaptive_course.h).
    Trend(std::span<const double> x, std::span<const double> y, std::span<const std::size_t> breaks, double window_s);

    /// The slow course of values, one a photo.
    [[nodiscard]] std::vector<double> of(std::span<const double> y) const;

    /// What takes longer than about so many seconds stays, in the middle over the photos.
    [[nodiscard]] double window_s() const { return window_s_; }

private:
    std::vector<SmoothingRow> rows_;      ///< one a photo, where the window was given
    std::vector<AdaptiveCourse> courses_; ///< one a stretch, where it was not
    std::vector<std::size_t> breaks_;
    double window_s_ = 0;
};

/// The middle value, the upper one of two; 0 of none.
double middle_of(std::vector<double> values);

}
