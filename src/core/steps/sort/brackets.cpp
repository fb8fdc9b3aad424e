#include "core/steps/sort/brackets.h"

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace frenlo {

namespace {

/// The light that a photo was given, stops (ISO 2720); nothing where the camera did not say.
std::optional<double> exposure_value(const Exposure& e)
{
    if (!e.seconds || !e.f_number || !e.iso || *e.iso <= 0)
        return std::nullopt;
    const double n = e.f_number->approx();
    return std::log2(n * n / e.seconds->approx()) - std::log2(double(*e.iso) / 100);
}

}

std::optional<std::size_t> middle_of_bracket(std::span<const Candidate* const> photos,
                                             std::span<const std::optional<double>> gaps)
{
    constexpr double least_step = 0.6, even = 0.25; // stops
    const auto at_once = [](const std::optional<double>& gap) {
        constexpr double moment = 2; // seconds
        return gap && *gap <= moment;
    };
    if (!std::all_of(gaps.begin(), gaps.end(), at_once))
        return std::nullopt;
    std::vector<std::pair<double, std::size_t>> exposures;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        const auto ev = exposure_value(photos[i]->photo->exposure);
        if (!ev)
            return std::nullopt;
        exposures.emplace_back(*ev, i);
    }
    std::sort(exposures.begin(), exposures.end());
    const double step = (exposures.back().first - exposures.front().first) / double(exposures.size() - 1);
    for (std::size_t k = 1; k < exposures.size(); ++k)
        if (step < least_step || std::abs(exposures[k].first - exposures[k - 1].first - step) > even)
            return std::nullopt;
    const PhotoSignature &a = photos[0]->look, &b = photos[1]->look;
    if (!a.empty() && !b.empty() &&
        match_scenes(a.scene, b.scene).agreement < 0.4) // over- and underexposed, less agrees
        return std::nullopt;
    return exposures[exposures.size() / 2].second;
}

}
