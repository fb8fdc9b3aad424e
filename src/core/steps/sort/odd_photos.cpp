#include "core/steps/sort/odd_photos.h"

#include "core/base/median.h"
#include "core/base/text.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr double different = 0.45; ///< of unlike(): another picture
constexpr double usual_times = 3;  ///< and this many times what is usual there
constexpr std::size_t longest_run = 3;
constexpr std::size_t neighbours_each_side = 6; ///< neighbours on each side that say what is usual

/// Photos in order, with how much each differs from the one before.
class Row
{
public:
    Row(std::span<const Candidate> photos, const std::vector<std::size_t>& usable) : photos_(photos), usable_(usable)
    {
        step_.resize(usable.size(), 0);
        for (std::size_t u = 1; u < usable.size(); ++u)
            step_[u] = difference(u - 1, u);
    }

    [[nodiscard]] std::size_t size() const { return usable_.size(); }
    [[nodiscard]] const PhotoSignature& look(std::size_t u) const { return photos_[usable_[u]].look; }
    [[nodiscard]] bool seen(std::size_t u) const { return !look(u).empty(); }
    /// From the photo before.
    [[nodiscard]] double step(std::size_t u) const { return step_[u]; }
    [[nodiscard]] double difference(std::size_t a, std::size_t b) const
    {
        return seen(a) && seen(b) ? unlike(look(a), look(b)) : 0;
    }

    /// What is usual between neighbours around [begin, end), without the steps into it, inside it and out of it.
    [[nodiscard]] double usual(std::size_t begin, std::size_t end) const
    {
        std::vector<double> steps;
        for (std::size_t u = begin > neighbours_each_side ? begin - neighbours_each_side : 1;
             u < std::min(size(), end + neighbours_each_side + 1); ++u)
            if (u < begin || u > end)
                steps.push_back(step_[u]);
        return steps.empty() ? 0 : upper_median(std::move(steps));
    }

    [[nodiscard]] double clearly(std::size_t begin, std::size_t end) const
    {
        return std::max(different, std::min(usual_times * usual(begin, end), 0.9));
    }

private:
    std::span<const Candidate> photos_;
    const std::vector<std::size_t>& usable_;
    std::vector<double> step_;
};

/// Before the first shot and behind the last one lie trials, which are like nothing.
bool at_start(std::size_t begin)
{
    return begin <= longest_run;
}

bool at_end(const Row& row, std::size_t end)
{
    return end + longest_run >= row.size();
}

/// All of [begin, end) differ clearly from the photo before and the photo after, whose own neighbours are like them.
bool stands_out(const Row& row, std::size_t begin, std::size_t end)
{
    const double limit = row.clearly(begin, end);
    const bool has_before = begin > 0, has_after = end < row.size();
    if (!has_before && !has_after)
        return false;
    for (std::size_t u = begin; u < end; ++u) {
        if (!row.seen(u) || (has_before && row.difference(begin - 1, u) <= limit) ||
            (has_after && row.difference(u, end) <= limit))
            return false;
    }
    const bool before_is_calm = begin >= 2 && row.step(begin - 1) < limit;
    const bool after_is_calm = end + 1 < row.size() && row.step(end + 1) < limit;
    return (before_is_calm || after_is_calm) && (before_is_calm || at_start(begin)) &&
           (after_is_calm || at_end(row, end));
}

/// Far brighter or darker than the photos around: a flash, a covered lens; whatever it shows, it is no card.
bool badly_exposed(const Row& row, std::size_t begin, std::size_t end)
{
    constexpr double stops = 1.5;
    for (std::size_t u = begin; u < end; ++u) {
        const double s = row.look(u).stops;
        const bool bright = (begin == 0 || s > row.look(begin - 1).stops + stops) &&
                            (end == row.size() || s > row.look(end).stops + stops);
        const bool dark = (begin == 0 || s < row.look(begin - 1).stops - 2 * stops) &&
                          (end == row.size() || s < row.look(end).stops - 2 * stops);
        if (!bright && !dark)
            return false;
    }
    return true;
}

OddRun judged(const Row& row, std::size_t begin, std::size_t end)
{
    constexpr double one_thing = 0.48, plain = 4; // share of the frame; contrast of 255
    OddRun run{begin, end, {}, false};
    // Among trials the card is the one next to the shot.
    const std::size_t from = at_start(begin) ? end - 1 : begin, to = at_end(row, end) ? begin + 1 : end;
    for (std::size_t u = from; u < to; ++u)
        if (row.look(u).filled > one_thing || row.look(u).contrast < plain)
            run.marker_cards.push_back(u);
    const bool at_an_end = begin == 0 || end == row.size();
    const bool same_around = !at_an_end && row.difference(begin - 1, end) < different;
    if (same_around && badly_exposed(row, begin, end))
        run.marker_cards.clear();
    run.separates = !run.marker_cards.empty() || !same_around;
    return run;
}

}

std::vector<OddRun> odd_runs(std::span<const Candidate> photos, const std::vector<std::size_t>& usable)
{
    const Row row(photos, usable);
    std::vector<OddRun> runs;
    for (std::size_t begin = 0; begin < row.size(); ++begin) {
        if (begin > 0 && row.step(begin) <= different)
            continue;
        for (std::size_t end = begin + 1; end <= std::min(row.size(), begin + longest_run); ++end)
            if (stands_out(row, begin, end)) {
                runs.push_back(judged(row, begin, end));
                begin = end;
                break;
            }
    }
    return runs;
}

bool viewpoint_travels(std::span<const Candidate> photos)
{
    std::vector<const PhotoSignature*> signatures;
    for (const auto& p : photos)
        if (!p.look.empty())
            signatures.push_back(&p.look);
    constexpr std::size_t least = 8;
    if (signatures.size() < least)
        return false;
    // Over half of the shot a standing camera keeps its background in place, though a subject may fill a third of it; a
    // walked one keeps little, though each photo resembles the next.
    const std::size_t stretch = signatures.size() / 2;
    const std::size_t every = std::max<std::size_t>(1, (signatures.size() - stretch) / 24);
    std::vector<double> stays, neighbours;
    for (std::size_t i = 0; i + stretch < signatures.size(); i += every) {
        stays.push_back(stands_still(*signatures[i], *signatures[i + stretch]));
        neighbours.push_back(same_structure(*signatures[i], *signatures[i + 1]));
    }
    return upper_median(stays) < 0.55 && upper_median(neighbours) > 0.3;
}

std::vector<Finding> outliers(std::span<const Candidate> photos)
{
    std::vector<std::size_t> usable;
    for (std::size_t i = 0; i < photos.size(); ++i)
        if (photos[i].usable && !photos[i].look.empty())
            usable.push_back(i);
    std::vector<Finding> found;
    std::vector<bool> told(usable.size(), false);
    for (const OddRun& run : odd_runs(photos, usable))
        for (std::size_t u = run.begin; u < run.end; ++u) {
            const auto& file = photos[usable[u]].photo->file;
            told[u] = true;
            found.push_back({FindingKind::unlike,
                             {file},
                             shown_path(file.filename()) + " shows something else than its neighbours.",
                             {Remedy::set_aside, Remedy::hold_before}});
        }
    constexpr double clear_stops = 0.9;
    for (std::size_t u = 0; u < usable.size(); ++u) {
        std::vector<double> around;
        for (std::size_t v = u > 3 ? u - 3 : 0; v < std::min(usable.size(), u + 4); ++v)
            if (v != u)
                around.push_back(photos[usable[v]].look.stops);
        if (told[u] || around.size() < 4)
            continue;
        const double s = photos[usable[u]].look.stops;
        const auto [least, most] = std::minmax_element(around.begin(), around.end());
        const double off = s > *most    ? s - *most
                           : s < *least ? s - *least
                                        : 0; // beyond all of them: a step in the light is not
        if (std::abs(off) < clear_stops)
            continue;
        const auto& file = photos[usable[u]].photo->file;
        const auto tenths = std::lround(std::abs(off) * 10);
        found.push_back({FindingKind::exposure_differs,
                         {file},
                         shown_path(file.filename()) + " is " + std::to_string(tenths / 10) + '.' +
                             std::to_string(tenths % 10) + (off > 0 ? " stops brighter" : " stops darker") +
                             " than its neighbours.",
                         {Remedy::set_aside, Remedy::hold_before}});
    }
    return found;
}

}
