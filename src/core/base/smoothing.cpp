#include "core/base/smoothing.h"

#include "core/base/local_fit.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace frenlo {

SmoothingRow gaussian_cubic(std::ptrdiff_t i, std::ptrdiff_t n, double sigma)
{
    const auto reach = std::ptrdiff_t(std::ceil(4 * sigma));
    const std::ptrdiff_t begin = std::max<std::ptrdiff_t>(0, i - reach), end = std::min(n, i + reach + 1);
    std::vector<double> positions, weights;
    for (std::ptrdiff_t k = begin; k < end; ++k) {
        const double d = double(k - i) / sigma;
        positions.push_back(double(k));
        weights.push_back(std::exp(-0.5 * d * d));
    }
    return {std::size_t(begin), local_weights(positions, double(i), double(reach) + 1, 3, LocalKernel::even, weights)};
}

double SmoothingRow::sum(std::span<const double> y) const
{
    return std::inner_product(weights.begin(), weights.end(), y.begin() + std::ptrdiff_t(begin), 0.0);
}

std::vector<double> cubic_smoothed(std::span<const double> values, double sigma)
{
    std::vector<double> smooth;
    for (std::size_t i = 0; i < values.size(); ++i)
        smooth.push_back(gaussian_cubic(std::ptrdiff_t(i), std::ptrdiff_t(values.size()), sigma).sum(values));
    return smooth;
}

double flicker_of(std::span<const double> stops)
{
    const auto smooth = cubic_smoothed(stops);
    double sum = 0;
    for (std::size_t i = 0; i < stops.size(); ++i)
        sum += (stops[i] - smooth[i]) * (stops[i] - smooth[i]);
    return stops.empty() ? 0 : std::sqrt(sum / double(stops.size()));
}

}
