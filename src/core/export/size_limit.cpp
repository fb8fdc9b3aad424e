#include "core/export/size_limit.h"

#include "core/export/format.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace frenlo {

namespace {

constexpr double side_step = 0.985; ///< a file of three percent less
constexpr int least_side = 48;

cv::Size smaller(cv::Size size, double by)
{
    return {std::max(2, int(std::lround(size.width * by))), std::max(2, int(std::lround(size.height * by)))};
}

}

Ladder::Ladder(const Preset& preset, cv::Size natural)
{
    const Format& format = format_of(preset);
    double by = 1;
    Preset now = preset;
    const auto put = [&] {
        Preset step = now;
        if (by < 1) {
            step.size = smaller(natural, by);
            step.long_side = 0;
        }
        steps_.push_back(std::move(step));
    };
    const auto shrink_to = [&](double share) {
        while (by * side_step >= share && std::min(natural.width, natural.height) * by * side_step >= least_side) {
            by *= side_step;
            put();
        }
    };
    put();
    const auto lower_to = [&](int least) {
        while (now.quality > least) {
            --now.quality;
            put();
        }
    };
    const auto fewer_to = [&](int least) {
        while (now.colours > least) {
            now.colours = std::max(least, int(now.colours * 0.95));
            put();
        }
    };
    if (format.colours) {
        // What dither costs is more than it is worth below a limit; then what hardly changes stays longer.
        if (now.dither) {
            now.dither = false;
            put();
        }
        lower_to(40);
        fewer_to(96);
        lower_to(20);
        fewer_to(48);
        shrink_to(0.8);
        fewer_to(32);
        shrink_to(0.5);
        fewer_to(16);
        lower_to(1);
        shrink_to(0);
    } else if (format.quality) {
        // What is blurred by its encoder looks better smaller and sharp.
        lower_to(55);
        shrink_to(0.5);
        lower_to(25);
        shrink_to(0);
        lower_to(1);
    } else {
        shrink_to(0);
    }
}

Search best_below(std::size_t steps, std::uintmax_t limit, const std::function<std::uintmax_t(std::size_t)>& bytes)
{
    Search search;
    std::map<std::size_t, std::uintmax_t> known;
    const auto size_at = [&](std::size_t step) {
        if (const auto it = known.find(step); it != known.end())
            return it->second;
        const std::uintmax_t n = bytes(step);
        known[step] = n;
        search.tried.push_back({step, n});
        return n;
    };
    const auto choose = [&](std::size_t step) {
        const auto it =
            std::find_if(search.tried.begin(), search.tried.end(), [&](const Tried& t) { return t.step == step; });
        std::rotate(it, it + 1, search.tried.end());
        search.found = true;
        return search;
    };
    if (size_at(0) <= limit)
        return choose(0);
    // Too large at low, small enough at high; sizes fall about evenly in their logarithm.
    std::size_t low = 0;
    std::optional<std::size_t> high;
    constexpr double a_step = 0.035; // of the logarithm, where nothing is known yet
    double slope = a_step;
    while (!high || *high - low > 1) {
        const double over = std::log(double(known[low]) / double(limit));
        std::size_t next = 0;
        if (high) {
            const double under = std::log(double(limit) / double(std::max<std::uintmax_t>(1, known[*high])));
            const double share = over + under > 0 ? over / (over + under) : 0.5;
            next = low + std::size_t(std::lround(share * double(*high - low)));
            next = std::clamp(next, low + 1, *high - 1);
        } else {
            next = std::min(steps - 1, low + std::max<std::size_t>(1, std::size_t(std::ceil(over / slope))));
            if (next == low) // there is no smaller one
                return search;
        }
        const std::uintmax_t n = size_at(next);
        if (n <= limit) {
            high = next;
        } else {
            slope = std::max(0.004, std::log(double(known[low]) / double(n)) / double(next - low));
            low = next;
            if (low == steps - 1)
                return search;
        }
        // Near enough: what is left is less than another try is worth.
        if (high && double(limit) - double(known[*high]) < 0.01 * double(limit))
            break;
    }
    return choose(*high);
}

}
