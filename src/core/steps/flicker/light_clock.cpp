#include "core/steps/flicker/light_clock.h"

#include "core/steps/flicker/trend.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

std::vector<double> light_clock(std::span<const double> film, std::span<const std::optional<double>> gaps)
{
    constexpr double told_apart = 3, most = 5; // seconds; times the usual interval
    const std::vector<double> as_it_is(film.begin(), film.end());
    std::vector<double> known;
    for (const auto& g : gaps)
        if (g && *g > 0)
            known.push_back(*g);
    if (film.size() != gaps.size() || film.size() < 4 || known.size() * 10 < (film.size() - 1) * 9)
        return as_it_is;
    const double usual = middle_of(known);
    const auto off = std::count_if(known.begin(), known.end(),
                                   [&](double g) { return std::abs(g - usual) > std::max(1.0, usual / 4); });
    if (usual < told_apart || std::size_t(off) * 10 <= known.size()) // a few pauses are no other rhythm
        return as_it_is;
    std::vector<double> clock{film.front()};
    for (std::size_t i = 1; i < film.size(); ++i) {
        const double times = gaps[i] && *gaps[i] > 0 ? std::clamp(*gaps[i] / usual, 1 / most, most) : 1;
        clock.push_back(clock.back() + (film[i] - film[i - 1]) * times);
    }
    return clock;
}

}
