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

namespace {

/// Looks for the first step that is not above a limit, by sizes that are asked for and remembered.
class StepSearch
{
public:
    StepSearch(std::size_t steps, std::function<double(std::size_t)> size) : steps_(steps), size_(std::move(size)) {}

    double size_at(std::size_t step)
    {
        const auto [it, is_new] = known_.try_emplace(step);
        if (is_new)
            it->second = size_(step);
        return it->second;
    }
    [[nodiscard]] const std::map<std::size_t, double>& known() const { return known_; }
    void know(std::size_t step, double size) { known_[step] = size; }

    /// The first below the limit, or one that is below it by no more than that share of it; none where all are above.
    std::optional<std::size_t> first_below(double limit, double near_enough)
    {
        // Too large at low, small enough at high; sizes fall about evenly in their logarithm.
        std::size_t low = 0;
        std::optional<std::size_t> high;
        for (const auto& [step, size] : known_)
            if (size > limit)
                low = step;
        for (const auto& [step, size] : known_)
            if (size <= limit && step > low && !high)
                high = step;
        if (!high && size_at(low) <= limit)
            return low;
        constexpr double a_step = 0.03; // of the logarithm, where nothing is known yet; seldom more
        double slope = a_step;
        while (!high || (*high - low > 1 && limit - known_[*high] >= near_enough * limit)) {
            const double over = std::log(size_at(low) / limit);
            std::size_t next = 0;
            if (high) {
                const double under = std::log(limit / std::max(1.0, known_[*high]));
                const double share = over + under > 0 ? over / (over + under) : 0.5;
                next = std::clamp(low + std::size_t(std::lround(share * double(*high - low))), low + 1, *high - 1);
            } else {
                next = std::min(steps_ - 1, low + std::max<std::size_t>(1, std::size_t(std::ceil(over / slope))));
                if (next == low) // there is no smaller one
                    return std::nullopt;
            }
            const double size = size_at(next);
            if (size <= limit) {
                high = next;
            } else {
                slope = std::clamp(std::log(known_[low] / size) / double(next - low), 0.004, a_step);
                low = next;
            }
        }
        return high;
    }

private:
    std::size_t steps_;
    std::function<double(std::size_t)> size_;
    std::map<std::size_t, double> known_;
};

/// What is written, near where guesses say that the limit is; each file says how far they are off.
void write_where_guessed(StepSearch& written, std::size_t steps, double limit, const SizesOfSteps& sizes,
                         std::vector<Tried>& guessed)
{
    constexpr double clearly_over = 1.1, surely_over = 1.015, near_enough = 0.955;
    constexpr int most_files = 3;
    StepSearch guesses(steps, [&](std::size_t step) { return std::max(1.0, sizes.guessed(step)); });
    double off = 1;
    bool near = guesses.size_at(0) < clearly_over * limit && written.size_at(0) <= limit; // as it was asked for
    for (int file = 0; file < most_files && !near; ++file) {
        // The first file says how far off they are; what lies a little below the limit is most often chosen at once.
        const double aim = file == 0 ? 0.98 : 0.99;
        std::size_t step = guesses.first_below(aim * limit / off, 0.01).value_or(steps - 1);
        if (const auto it = written.known().find(step); it != written.known().end()) {
            if (it->second > limit ? step + 1 == steps : step == 0)
                break;
            it->second > limit ? ++step : --step;
            if (written.known().contains(step))
                break;
        }
        const double size = written.size_at(step);
        off = size / guesses.size_at(step);
        near = size <= limit && size >= near_enough * limit;
        // Nobody needs to write the one before to know that it is too large.
        if (size <= limit && step > 0 && !written.known().contains(step - 1))
            if (const double before = guesses.size_at(step - 1) * off; before > surely_over * limit) {
                written.know(step - 1, before);
                near = true;
            }
    }
    for (const auto& [step, guess] : guesses.known())
        guessed.push_back({step, std::uintmax_t(std::llround(guess * off))});
}

}

Search best_below(std::size_t steps, std::uintmax_t limit, const SizesOfSteps& sizes)
{
    Search search;
    StepSearch written(steps, [&](std::size_t step) {
        const std::uintmax_t bytes = sizes.written(step);
        search.tried.push_back({step, bytes});
        return double(bytes);
    });
    double near_enough = 0.01; // what is left is less than another try is worth
    if (sizes.guessed) {
        write_where_guessed(written, steps, double(limit), sizes, search.guessed);
        near_enough = 0.045;
    }
    const auto step = written.first_below(double(limit), near_enough);
    if (!step)
        return search;
    const auto it =
        std::find_if(search.tried.begin(), search.tried.end(), [&](const Tried& t) { return t.step == *step; });
    std::rotate(it, it + 1, search.tried.end());
    search.found = true;
    return search;
}

}
