#include "core/steps/sort/rhythm.h"

#include "core/base/median.h"
#include "core/source/order.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr double clear_break = 3; ///< times the photos' own interval

/// The known gaps nearest to position i on one side, at most this many; gap i itself is not among them.
std::vector<double> nearest(const std::vector<std::optional<double>>& gaps, std::size_t i, int step, std::size_t most)
{
    std::vector<double> found;
    for (auto at = std::ptrdiff_t(i) + step; at >= 0 && at < std::ptrdiff_t(gaps.size()) && found.size() < most;
         at += step)
        if (const auto& g = gaps[std::size_t(at)])
            found.push_back(std::max(*g, 0.04));
    return found;
}

/// The interval on the two sides of a gap: the larger of the medians, since a pause must stand out from both.
std::optional<double> interval_around(const std::vector<std::optional<double>>& gaps, std::size_t i)
{
    std::optional<double> larger;
    for (const int step : {-1, 1})
        if (const auto side = nearest(gaps, i, step, 6); side.size() >= 2)
            larger = std::max(larger.value_or(0), upper_median(side));
    return larger;
}

/// How long a gap may be on one side of it without being remarkable there.
double usual_limit(const std::vector<double>& side)
{
    const double middle = upper_median(side);
    std::vector<double> away;
    for (const double g : side)
        away.push_back(std::abs(std::log(g / middle)));
    // Median absolute deviation of the logarithms; 1.4826 makes it a standard deviation (normal distribution).
    const double spread = 1.4826 * upper_median(away);
    constexpr double regular_spread = 0.12, least_irregular = 0.4, most_irregular = 0.6, deviations = 5;
    if (side.size() < 4)
        return middle * 10;
    return middle * (spread < regular_spread
                         ? clear_break
                         : std::exp(deviations * std::clamp(spread, least_irregular, most_irregular)));
}

/// Gaps that stand out from the intervals on both sides, judged by how irregular these are.
std::vector<bool> remarkable(const std::vector<std::optional<double>>& gaps)
{
    constexpr std::size_t reach = 24;
    constexpr double never_a_pause = 8; // seconds
    std::vector<bool> out(gaps.size(), false);
    for (std::size_t i = 1; i < gaps.size(); ++i) {
        if (!gaps[i] || *gaps[i] < never_a_pause)
            continue;
        bool judged = false, above = true;
        for (const int step : {-1, 1})
            if (const auto side = nearest(gaps, i, step, reach); side.size() >= 2) {
                judged = true;
                above = above && *gaps[i] > usual_limit(side);
            }
        out[i] = judged && above;
    }
    return out;
}

constexpr std::array<std::int64_t, 22> round_pauses{10,  15,  20,  30,   45,   60,   90,   120,  180,  240,   300,
                                                    420, 600, 900, 1200, 1800, 2700, 3600, 5400, 7200, 10800, 14400};

}

Seconds pause_for(const std::vector<std::optional<double>>& gaps)
{
    const auto wanted = remarkable(gaps);
    // What must not be called a pause, and the shortest that must; the threshold is a round number well between them.
    double usual = 0, shortest = std::numeric_limits<double>::infinity();
    for (std::size_t i = 1; i < gaps.size(); ++i) {
        if (gaps[i] && wanted[i])
            shortest = std::min(shortest, *gaps[i]);
        const auto interval = interval_around(gaps, i);
        if (gaps[i] && !wanted[i] && interval && *gaps[i] > clear_break * *interval)
            usual = std::max(usual, *gaps[i]);
        else if (interval)
            usual = std::max(usual, std::min(*interval, 60.0));
    }
    const double between = std::isinf(shortest) ? 4 * usual : std::sqrt(std::max(usual, 1.0) * shortest);
    std::int64_t chosen = round_pauses.front();
    for (const std::int64_t candidate : round_pauses)
        if (double(candidate) <= usual || (double(candidate) <= between && double(candidate) < shortest))
            chosen = candidate;
    return {Fraction(chosen)};
}

std::vector<std::size_t> pauses(const std::vector<std::optional<double>>& gaps, Seconds longer_than)
{
    std::vector<std::size_t> found;
    const double least = longer_than.value.approx();
    for (std::size_t i = 1; i < gaps.size(); ++i)
        if (gaps[i] && *gaps[i] > least) {
            const auto interval = interval_around(gaps, i);
            if (!interval || *gaps[i] > clear_break * *interval)
                found.push_back(i);
        }
    return found;
}

std::optional<bool> regular(std::span<const std::optional<double>> gaps)
{
    std::vector<double> known;
    for (const auto& g : gaps)
        if (g)
            known.push_back(*g);
    if (known.size() < 3)
        return std::nullopt;
    const double middle = upper_median(known);
    const double tolerance = std::max(1.0, middle / 20); // many cameras write whole seconds
    const auto alike =
        std::count_if(known.begin(), known.end(), [&](double g) { return std::abs(g - middle) <= tolerance; });
    return double(alike) >= 0.85 * double(known.size());
}

std::string shown_pause(double seconds)
{
    const auto s = std::int64_t(std::lround(seconds));
    if (s < 100)
        return std::to_string(s) + " s";
    const std::int64_t minutes = (s + 30) / 60;
    if (minutes < 100)
        return s % 60 == 0 || s >= 600 ? std::to_string(minutes) + " min"
                                       : std::to_string(s / 60) + " min " + std::to_string(s % 60) + " s";
    if (minutes < 48 * 60)
        return std::to_string(minutes / 60) + " h" + (minutes % 60 ? " " + std::to_string(minutes % 60) + " min" : "");
    return std::to_string((minutes + 720) / 1440) + " days";
}

}
