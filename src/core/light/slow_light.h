#pragma once
#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// How the slow course of a shot's light is found: robust local polynomials (Cleveland 1979), as wide as one curve asks for,
/// over each stretch between the places where the light changes at once. The same smoothing serves other curves of the same
/// photos, so that what it does to red, green and blue, or to parts of the picture, is the same.
class SlowLight {
public:
    /// x: seconds, ascending. y: by which it is chosen, stops. breaks: where a new stretch begins, ascending, 0 and the number
    /// of photos among them. Changes that take longer than window_s stay; the curve may be slower than that where the photos
    /// speak for it: the less of the flicker is taken for the day's light.
    SlowLight(std::span<const double> x, std::span<const double> y, std::span<const std::size_t> breaks, double window_s);

    /// The slow course of values, one a photo.
    [[nodiscard]] std::vector<double> of(std::span<const double> y) const;

    /// With what weights the values from begin on are summed to one of the curve.
    struct Row
    {
        std::size_t begin = 0;
        std::vector<double> weights;
        [[nodiscard]] double sum(std::span<const double> y) const;
    };

private:
    std::vector<Row> rows_; ///< one a photo
};

/// Flicker: root mean square, stops, of brightness less its Gaussian smoothing with sigma of 5 photos, ends reflected.
double flicker_of(std::span<const double> stops);

/// That smoothing.
std::vector<double> gaussian_smoothed(std::span<const double> values, double sigma = 5);

/// The middle value, the upper one of two; 0 of none.
double middle_of(std::vector<double> values);

}
