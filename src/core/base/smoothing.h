#pragma once
#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// With what weights values from begin on are summed to one of a smoothed curve.
struct SmoothingRow
{
    std::size_t begin = 0;
    std::vector<double> weights;
    [[nodiscard]] double sum(std::span<const double> y) const;
};

/// Photo i of n by a local cubic with Gaussian weights over the photos around, one-sided at the ends.
SmoothingRow gaussian_cubic(std::ptrdiff_t i, std::ptrdiff_t n, double sigma);

/// Flicker: root mean square, stops, of brightness less its local cubic with Gaussian weights of sigma 5 photos,
/// one-sided at the ends (Cleveland 1979 without the robust part), so that a smooth day has none.
double flicker_of(std::span<const double> stops);

/// That smoothing.
std::vector<double> cubic_smoothed(std::span<const double> values, double sigma = 5);

}
