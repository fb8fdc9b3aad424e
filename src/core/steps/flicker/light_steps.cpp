#include "core/steps/flicker/light_steps.h"

#include "core/base/local_fit.h"
#include "core/steps/flicker/exposure_steps.h"
#include "core/steps/flicker/trend.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr double least_at_once = 0.4; ///< of a step, that happens between two photos

/// By how much the courses before and behind a place miss each other, and how much of one photo's noise is in that.
struct Gap
{
    double stops = 0;
    double noise = 0; ///< standard deviation for photos of 1 stop
};

/// begin, end: the photos to ask, `photo` the first one behind. prior: how much each has to say.
Gap gap_at(std::span<const double> x, std::span<const double> y, std::size_t photo, std::size_t begin, std::size_t end,
           std::span<const double> prior)
{
    const double at = (x[photo - 1] + x[photo]) / 2;
    Gap gap;
    double squares = 0;
    const auto meets = [&](std::size_t from, std::size_t to) {
        const auto xs = x.subspan(from, to - from);
        const double far = std::max(xs.back() - at, at - xs.front()) + 1e-9;
        const auto w = local_weights(xs, at, far, 1, LocalKernel::even, prior.subspan(from, to - from));
        double value = 0;
        for (std::size_t n = 0; n < w.size(); ++n) {
            value += w[n] * y[from + n];
            squares += w[n] * w[n];
        }
        return value;
    };
    gap.stops = meets(photo, end) - meets(begin, photo);
    gap.noise = std::sqrt(squares);
    return gap;
}

/// The middle of those around a place, so many to each side.
double middle_around(const std::vector<double>& values, std::size_t place, std::size_t around)
{
    const auto end = values.begin() + std::ptrdiff_t(std::min(values.size(), place + around)),
               begin = std::min(end, values.begin() + std::ptrdiff_t(place > around ? place - around : 0));
    return middle_of({begin, end});
}

/// A photo's own noise, by what neighbours around it differ. Of many photos it is told more surely; but what flickers
/// in the sun may be still at night.
std::vector<double> noise_of(std::span<const double> y)
{
    constexpr double finest = 0.005; // stops: less noise than that is not believed
    constexpr std::size_t many = 30, few = 15;
    constexpr double clearly = 1.5;
    std::vector<double> steps, noise;
    for (std::size_t i = 1; i < y.size(); ++i)
        steps.push_back(std::abs(y[i] - y[i - 1]));
    for (std::size_t i = 0; i < y.size(); ++i) {
        const double usual = middle_around(steps, i, many), here = middle_around(steps, i, few);
        noise.push_back(std::max(finest, 1.4826 * (here > clearly * usual ? here : usual) / // of a normal distribution;
                                             std::sqrt(2.0))); // a difference has the noise of two
    }
    return noise;
}

/// Photos that stand out by themselves, as flashes do, have no say about where the light goes.
std::vector<double> say_of(std::span<const double> y, std::span<const double> noise)
{
    std::vector<double> say(y.size(), 1);
    for (std::size_t i = 0; i < y.size(); ++i) {
        std::vector<double> around;
        for (std::size_t k = i >= 2 ? i - 2 : 0; k < std::min(y.size(), i + 3); ++k)
            if (k != i)
                around.push_back(y[k]);
        const auto [low, high] = std::minmax_element(around.begin(), around.end());
        const double limit = std::max(0.05, 4 * noise[i]);
        if (!around.empty() && (y[i] > *high + limit || y[i] < *low - limit))
            say[i] = 1e-6;
    }
    return say;
}

/// What the light changes by from photo to photo around a place, apart from there.
double usual_change(std::span<const double> y, std::size_t photo, std::size_t begin, std::size_t end)
{
    constexpr std::size_t side = 3;
    std::vector<double> changes;
    for (std::size_t k = std::max(begin + 1, photo >= side ? photo - side : 0); k < std::min(end, photo + side + 1);
         ++k)
        if (k != photo)
            changes.push_back(y[k] - y[k - 1]);
    return middle_of(std::move(changes));
}

/// Whether most of a step happens between two photos, `photo` the second of them: more than between those next to them,
/// since the edge of a cloud takes its time, if only three photos; and with either of the two left out as well, since
/// one photo that is off makes no step. How much of it that is, flicker blurs. stops: of the courses before and behind.
bool at_once(std::span<const double> y, std::size_t photo, std::size_t begin, std::size_t end, double noise,
             double stops)
{
    const double jump = (y[photo] - y[photo - 1]) / stops, blurred = 2 * noise / std::abs(stops);
    const double most = std::max(least_at_once, 0.7 - blurred), more = std::max(0.1, 0.9 - 2 * blurred);
    constexpr double still_there = least_at_once / 2;
    const double before = (y[photo - 1] - y[photo - 2]) / stops, behind = (y[photo + 1] - y[photo]) / stops;
    return std::min(jump, jump - usual_change(y, photo, begin, end) / stops) >= most &&
           jump - std::max(before, behind) >= more && jump + std::min(before, behind) >= still_there;
}

/// The one place within [begin, end) where the courses miss each other most surely; none where that can be chance.
std::optional<std::size_t> surest_step(std::span<const double> x, std::span<const double> y, std::size_t begin,
                                       std::size_t end, std::span<const double> noise, std::span<const double> say)
{
    constexpr std::size_t least = 3, most = 16, near = 5; // photos on each side
    constexpr double sure = 4.5, least_stops = 0.12;
    constexpr double seen_near = 0.7; // of a step, also by few photos: over many, what bends looks like one
    std::optional<std::size_t> best;
    double most_sure = sure;
    for (std::size_t i = begin + least; i + least <= end; ++i) {
        const double jump = y[i] - y[i - 1];
        if (std::abs(jump) < least_at_once * least_stops)
            continue;
        const auto gap_over = [&](std::size_t photos) {
            return gap_at(x, y, i, std::max(begin, i >= photos ? i - photos : 0), std::min(end, i + photos), say);
        };
        const Gap gap = gap_over(most);
        const double surety = std::abs(gap.stops) / (gap.noise * noise[i]);
        if (std::abs(gap.stops) < least_stops || surety <= most_sure)
            continue;
        const Gap close = gap_over(near);
        const double blurred = 0.25 * close.noise * noise[i] / std::abs(gap.stops);
        if (close.stops / gap.stops + blurred >= seen_near && at_once(y, i, begin, end, noise[i], gap.stops)) {
            most_sure = surety;
            best = i;
        }
    }
    return best;
}

void find_steps(std::span<const double> x, std::span<const double> y, std::size_t begin, std::size_t end,
                std::span<const double> noise, std::span<const double> say, std::vector<std::size_t>& found)
{
    const auto step = surest_step(x, y, begin, end, noise, say);
    if (!step)
        return;
    find_steps(x, y, begin, *step, noise, say, found);
    found.push_back(*step);
    find_steps(x, y, *step, end, noise, say, found);
}

}

std::vector<CameraStep> camera_steps(std::span<const double> x, std::span<const double> y,
                                     std::span<const std::optional<double>> exposures)
{
    constexpr double least = 0.05, may_be_off = 0.1; // stops; more than that is the scene
    constexpr std::size_t side = 6, enough = 3;
    std::vector<CameraStep> steps;
    const auto change = [&](std::size_t k) {
        return exposures[k] && exposures[k - 1] ? *exposures[k] - *exposures[k - 1] : 0.0;
    };
    std::vector<double> without(y.begin(), y.end()); // what they did is off by then
    double so_far = 0;
    for (std::size_t k = 1; k < y.size(); ++k) {
        so_far += change(k);
        without[k] -= so_far;
    }
    const std::vector<double> say(y.size(), 1);
    constexpr double surely = 3,
                     finest = 0.002; // standard deviations; else Exif is nearer to the truth than the pictures
    const double noise = std::max(finest, quick_part(without)); // slow light is no noise
    for (std::size_t k = 1; k < y.size(); ++k) {
        if (std::abs(change(k)) < least)
            continue;
        std::size_t begin = k, end = k;
        while (begin > 0 && k - begin < side && (begin == k || std::abs(change(begin)) < least))
            --begin;
        while (end < y.size() && end - k < side && (end == k || std::abs(change(end)) < least))
            ++end;
        CameraStep step{k, change(k), change(k)};
        if (k - begin >= enough && end - k >= enough)
            if (const Gap rest = gap_at(x, without, k, begin, end, say);
                std::abs(rest.stops) < may_be_off && std::abs(rest.stops) > surely * rest.noise * noise)
                step.true_stops += rest.stops;
        steps.push_back(step);
    }
    return steps;
}

std::vector<std::size_t> sudden_steps(std::span<const double> x, std::span<const double> y)
{
    const std::vector<double> noise = noise_of(y);
    std::vector<std::size_t> found;
    find_steps(x, y, 0, y.size(), noise, say_of(y, noise), found);
    return found;
}

bool looks_like_settings(const Brightness& before, const Brightness& after, double stops)
{
    constexpr double near = 0.06; // stops
    if (snapped_stops(stops, near) == stops && std::abs(stops * 6 - std::round(stops * 6)) > 1e-9)
        return false;
    std::vector<double> off;
    for (std::size_t c = 0; c < std::min(before.cells.size(), after.cells.size()); ++c)
        if (before.cells[c].usable > 0.9 && after.cells[c].usable > 0.9)
            off.push_back(std::abs(after.cells[c].stops - before.cells[c].stops - stops));
    return off.size() >= 12 && middle_of(off) < near;
}

}
