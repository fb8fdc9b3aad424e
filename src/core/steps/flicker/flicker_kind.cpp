#include "core/steps/flicker/flicker_kind.h"

#include "core/steps/flicker/trend.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace frenlo {

namespace {

/// What a photo differs from the line through its two neighbours by; of white flicker the standard deviation is
/// sqrt(1.5) of the flicker's.
std::vector<double> quick_of(std::span<const double> y)
{
    std::vector<double> quick;
    for (std::size_t k = 1; k + 1 < y.size(); ++k)
        quick.push_back(y[k] - (y[k - 1] + y[k + 1]) / 2);
    return quick;
}

/// The flicker's standard deviation, robust (MAD).
double spread_of(const std::vector<double>& quick)
{
    std::vector<double> off;
    off.reserve(quick.size());
    for (const double q : quick)
        off.push_back(std::abs(q));
    return 1.4826 / std::sqrt(1.5) * middle_of(std::move(off));
}

struct Following
{
    double correlation = 0;
    double slope = 0;
};

/// How y goes with x, both about 0.
Following following(std::span<const double> y, std::span<const double> x)
{
    const double xx = std::inner_product(x.begin(), x.end(), x.begin(), 0.0),
                 yy = std::inner_product(y.begin(), y.end(), y.begin(), 0.0);
    const double xy = std::inner_product(x.begin(), x.end(), y.begin(), 0.0);
    return xx > 0 && yy > 0 ? Following{xy / std::sqrt(xx * yy), xy / xx} : Following();
}

/// Photos after which it comes again, where more than half of the power lies about one frequency; else 0. Single jumps
/// are cut, they would spread over all frequencies.
double period_of(std::vector<double> quick, double spread)
{
    constexpr std::size_t least = 24;
    if (quick.size() < least || spread <= 0)
        return 0;
    const double most = 3 * std::sqrt(1.5) * spread;
    for (double& q : quick)
        q = std::clamp(q, -most, most);
    const double mean = std::accumulate(quick.begin(), quick.end(), 0.0) / double(quick.size());
    const int size = cv::getOptimalDFTSize(int(4 * quick.size()));
    std::vector<double> padded(std::size_t(size), 0.0);
    for (std::size_t k = 0; k < quick.size(); ++k) { // Hann's window: the ends of a few seconds are no flicker
        const double at = (double(k) + 0.5) / double(quick.size());
        padded[k] = (quick[k] - mean) * 0.5 * (1 - std::cos(2 * std::numbers::pi * at));
    }
    cv::Mat spectrum;
    cv::dft(cv::Mat(padded, false).t(), spectrum, cv::DFT_COMPLEX_OUTPUT);
    std::vector<double> power;
    for (int f = 0; f <= size / 2; ++f) {
        const auto& c = spectrum.at<cv::Vec2d>(0, f);
        power.push_back(c[0] * c[0] + c[1] * c[1]);
    }
    const auto peak = std::max_element(power.begin(), power.end());
    const auto wide = std::ptrdiff_t(2.0 * size / double(quick.size())) + 1; // Hann's main lobe
    const auto from = peak - std::min(wide, peak - power.begin()), to = peak + std::min(wide + 1, power.end() - peak);
    const double all = std::accumulate(power.begin(), power.end(), 0.0), there = std::accumulate(from, to, 0.0);
    const double most_of_it =
        0.55 + 12.0 / double(quick.size()); // of few photos, a peak of white flicker holds much, too
    return peak != power.begin() && there > most_of_it * all ? double(size) / double(peak - power.begin()) : 0;
}

/// How often settings changed, where they came back: a ramp that follows the dusk is meant.
int changes_of(std::span<const std::optional<double>> exposures)
{
    constexpr double step = 0.2, most_drift = 1.05, most_range = 2.1; // stops
    int changes = 0;
    std::optional<double> first, last, low, high;
    for (const auto& e : exposures) {
        if (!e)
            return 0;
        if (last && std::abs(*e - *last) > step)
            ++changes;
        first = first.value_or(*e);
        low = std::min(low.value_or(*e), *e);
        high = std::max(high.value_or(*e), *e);
        last = e;
    }
    return changes > 0 && std::abs(*last - *first) < most_drift && *high - *low < most_range ? changes : 0;
}

/// Darks, or lights, that go with the shared brightness or against it flicker more, or less, than the rest.
FlickerKind::Tones tones_of(const std::vector<std::vector<double>>& by_tone, std::span<const double> shared)
{
    constexpr double correlated = 0.5, slope = 0.3, least = 0.012; // stops
    std::vector<double> follows;
    int apart = 0;
    for (const auto& tone : by_tone) {
        const auto quick = quick_of(tone);
        const Following f = following(quick, shared);
        const bool counts = std::abs(f.correlation) > correlated && std::abs(f.slope) > slope;
        follows.push_back(counts ? f.slope : 0);
        apart += counts && spread_of(quick) > least ? 1 : 0;
    }
    if (apart < 2)
        return FlickerKind::Tones::all;
    const double darks = follows.front() + follows[1], lights = follows.back();
    if (lights > 0 && darks <= 0)
        return FlickerKind::Tones::highlights;
    return darks > 0 && lights <= 0 ? FlickerKind::Tones::shadows : FlickerKind::Tones::apart;
}

}

FlickerKind flicker_kind(const CommonBrightness& shared, std::span<const std::optional<double>> exposures)
{
    FlickerKind kind;
    constexpr std::size_t least = 12; // photos, to tell anything
    if (shared.luminance.size() < least)
        return kind;
    const auto quick = quick_of(shared.luminance);
    kind.size = spread_of(quick);
    kind.period = period_of(quick, kind.size);
    kind.settings = changes_of(exposures);
    double colour = 0;
    for (const auto& values : shared.colours) {
        std::vector<double> tint = values;
        for (std::size_t k = 0; k < tint.size(); ++k)
            tint[k] -= shared.luminance[k];
        colour += spread_of(quick_of(tint)) / 3;
    }
    kind.by_colour = colour > 0.015 && colour > 0.7 * kind.size;
    if (!kind.by_colour) // tones that one colour dominates would go with it
        kind.tones = tones_of(shared.by_tone, quick);
    std::vector<double> places;
    for (const auto& place : shared.by_place)
        places.push_back(spread_of(quick_of(place)));
    std::sort(places.begin(), places.end());
    // A third of the picture at least: where little can be measured, a place says anything.
    kind.by_place = !places.empty() && places[places.size() * 2 / 3] > std::max(0.02, 0.4 * kind.size);
    return kind;
}

Corrected what_suits(const FlickerKind& kind)
{
    return {kind.by_colour, kind.tones != FlickerKind::Tones::all && !kind.by_place, kind.by_place, kind.settings > 0};
}

std::string told(const FlickerKind& kind)
{
    constexpr double little = 0.004; // stops: nobody sees it
    const bool parts = kind.by_colour || kind.by_place || kind.tones != FlickerKind::Tones::all;
    if (kind.size <= little && !parts && kind.settings == 0)
        return "Hardly anything flickers.";
    std::string text = "This flickers";
    if (kind.period > 0) {
        const double whole = std::round(kind.period);
        if (std::abs(kind.period - whole) > 0.07)
            text += " every " + std::to_string(int(kind.period)) + " to " + std::to_string(int(kind.period) + 1) +
                    " photos";
        else
            text += whole == 2   ? " every second photo"
                    : whole == 3 ? " every third photo"
                                 : " every " + std::to_string(int(whole)) + " photos";
    } else {
        text += " at random";
    }
    if (kind.tones != FlickerKind::Tones::all)
        text += kind.tones == FlickerKind::Tones::highlights ? ", in the highlights only"
                : kind.tones == FlickerKind::Tones::shadows  ? ", in the shadows only"
                                                             : ", darks and lights apart";
    if (kind.by_colour)
        text += ", each colour by itself";
    if (kind.by_place)
        text += ", each part of the picture by itself";
    text += '.';
    if (kind.settings > 0)
        text += " The camera changed its exposure " +
                (kind.settings == 1 ? std::string("once.") : std::to_string(kind.settings) + " times.");
    return text;
}

}
