#include "core/steps/flicker/exposure_steps.h"

#include <cmath>

namespace frenlo {

double snapped_stops(double stops, double tolerance)
{
    const double third = std::round(stops * 3) / 3, half = std::round(stops * 2) / 2;
    const double nearest = std::abs(third - stops) <= std::abs(half - stops) ? third : half;
    return std::abs(nearest - stops) <= tolerance ? nearest : stops;
}

std::optional<double> exposure_stops(const Exposure& e)
{
    if (!e.seconds || !e.iso || *e.iso <= 0 || e.seconds->approx() <= 0)
        return std::nullopt;
    // Printed values are off by up to: 1/60 s for 2^-6 s, 0.093; f/11 for 2^(7/2), 0.081 of 2 log2 N; ISO 1250, 0.023.
    constexpr double of_time = 0.1, of_aperture = 0.085, of_sensitivity = 0.04;
    double stops = snapped_stops(std::log2(e.seconds->approx()), of_time) +
                   snapped_stops(std::log2(*e.iso / 100.0), of_sensitivity);
    if (e.f_number && e.f_number->approx() > 0)
        stops -= snapped_stops(2 * std::log2(e.f_number->approx()), of_aperture);
    return stops;
}

}
