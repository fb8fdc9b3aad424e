#include "core/source/order.h"

#include "core/source/names.h"

#include <algorithm>
#include <limits>
#include <map>
#include <numeric>

namespace frenlo {

namespace {

/// Photos [begin, end) of a list in natural order whose names differ in their number only.
struct Run
{
    std::size_t begin = 0;
    std::size_t end = 0;
    int digits = 0;
};

std::vector<Run> runs_of(std::span<const PhotoPtr> photos)
{
    std::vector<Run> runs;
    std::optional<NumberedName> before;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        auto name = counted(photos[i]->file);
        const bool goes_on = i > 0 && before && name && before->before == name->before &&
                             before->digits == name->digits &&
                             photos[i]->file.parent_path() == photos[i - 1]->file.parent_path();
        if (!goes_on)
            runs.push_back({i, i, name ? name->digits : 0});
        runs.back().end = i + 1;
        before = std::move(name);
    }
    return runs;
}

/// The part of a number that a camera counts in: the last four digits (CIPA DC-009, DCF 2.0, 3.3.2), fewer where the
/// name has fewer. What stands before stays: "P1019999" goes on as "P1010001", "DSC09999" as "DSC00001".
std::int64_t counter_of(const PhotoFile& photo, int digits)
{
    return *number_of(photo) % (digits >= 4 ? 10'000 : digits == 3 ? 1'000 : 100);
}

std::int64_t highest_of(int digits)
{
    return digits >= 4 ? 9'999 : 999;
}

/// Whether the low numbers, those before middle, were taken after the high ones; nothing where no time says so.
std::optional<bool> low_is_later(std::span<const PhotoPtr> photos, const Run& run, std::size_t middle)
{
    std::optional<CaptureTime> first_of_low, first_of_high;
    for (std::size_t i = run.begin; i < run.end; ++i) {
        auto& first = i < middle ? first_of_low : first_of_high;
        if (const auto& t = photos[i]->captured)
            first = first ? std::min(*first, *t) : *t;
    }
    if (!first_of_low || !first_of_high)
        return std::nullopt;
    return *first_of_low > *first_of_high;
}

/// Where the high numbers of a run begin that come before its low ones; its end where its counter did not start again.
std::size_t restart_in(std::span<const PhotoPtr> photos, const Run& run)
{
    if (run.digits < 3 || run.end - run.begin < 2)
        return run.end;
    const std::int64_t highest = highest_of(run.digits);
    // A few numbers at the turn may be missing: broken off, deleted in the camera.
    const std::int64_t near = std::min<std::int64_t>(20, highest / 20);
    if (counter_of(*photos[run.begin], run.digits) > near ||
        counter_of(*photos[run.end - 1], run.digits) < highest - near)
        return run.end;
    std::size_t widest = run.begin + 1;
    const auto gap = [&](std::size_t i) { return *number_of(*photos[i]) - *number_of(*photos[i - 1]); };
    for (std::size_t i = run.begin + 1; i < run.end; ++i)
        if (gap(i) > gap(widest))
            widest = i;
    if (gap(widest) < 2)
        return run.end; // every number of the counter is there
    return low_is_later(photos, run, widest).value_or(true) ? widest : run.end;
}

}

std::optional<std::int64_t> number_of(const PhotoFile& photo)
{
    if (is_one_of_several(photo))
        return photo.picture + 1;
    const auto n = counted(photo.file);
    return n ? std::optional(n->number) : std::nullopt;
}

void sort_photos(std::vector<PhotoPtr>& photos, PhotoOrder order)
{
    std::stable_sort(photos.begin(), photos.end(), [](const PhotoPtr& a, const PhotoPtr& b) {
        return a->file == b->file ? a->picture < b->picture : natural_path_less(a->file, b->file);
    });
    const auto at = [&](std::size_t i) { return photos.begin() + std::ptrdiff_t(i); };
    for (const Run& run : runs_of(photos))
        if (const std::size_t restart = restart_in(photos, run); restart != run.end)
            std::rotate(at(run.begin), at(restart), at(run.end));
    if (order == PhotoOrder::by_time)
        std::stable_sort(photos.begin(), photos.end(), [](const PhotoPtr& a, const PhotoPtr& b) {
            if (!a->captured || !b->captured)
                return a->captured.has_value() && !b->captured;
            return *a->captured < *b->captured;
        });
}

void separate_cameras(std::vector<PhotoPtr>& photos)
{
    // One place: a folder, or the folders that cameras made beside each other.
    const auto place = [](const PhotoPtr& p) {
        const auto folder = p->file.parent_path();
        return is_card_folder(folder) ? folder.parent_path() / "*" : folder;
    };
    for (std::size_t begin = 0; begin < photos.size();) {
        std::size_t end = begin;
        while (end < photos.size() && place(photos[end]) == place(photos[begin]))
            ++end;
        // A photo without a camera (damaged, edited) goes with the one before, of the same kind of name where there is
        // one.
        std::map<std::string, std::string> by_name;
        std::map<std::string, std::pair<CaptureTime, std::size_t>> first; // of each camera
        std::vector<std::string> camera;
        const auto kind_of_name = [](const PhotoPtr& p) { return counted(p->file).value_or(NumberedName()).before; };
        for (std::size_t i = begin; i < end; ++i)
            if (!photos[i]->camera.empty())
                by_name.emplace(kind_of_name(photos[i]), photos[i]->camera);
        for (std::size_t i = begin; i < end; ++i) {
            const auto known = by_name.find(kind_of_name(photos[i]));
            camera.push_back(!photos[i]->camera.empty() ? photos[i]->camera
                             : known != by_name.end()   ? known->second
                             : !camera.empty()          ? camera.back()
                                                        : std::string());
            const CaptureTime taken =
                photos[i]->captured.value_or(CaptureTime{std::numeric_limits<std::int64_t>::max()});
            const auto at = first.emplace(camera.back(), std::pair(taken, i)).first;
            at->second.first = std::min(at->second.first, taken);
        }
        if (first.size() > 1) {
            std::vector<std::size_t> order(end - begin);
            std::iota(order.begin(), order.end(), std::size_t(0));
            std::stable_sort(order.begin(), order.end(),
                             [&](std::size_t a, std::size_t b) { return first[camera[a]] < first[camera[b]]; });
            std::vector<PhotoPtr> sorted;
            for (const std::size_t i : order)
                sorted.push_back(photos[begin + i]);
            std::copy(sorted.begin(), sorted.end(), photos.begin() + std::ptrdiff_t(begin));
        }
        begin = end;
    }
}

std::vector<std::size_t> clock_set_back(std::span<const PhotoPtr> by_name)
{
    constexpr std::int64_t clearly = 60'000'000; // a minute: cameras mend seconds by themselves
    constexpr std::int64_t next = 20;            // numbers; some may have been deleted
    std::vector<std::size_t> at;
    for (std::size_t i = 1; i < by_name.size(); ++i) {
        const PhotoFile &a = *by_name[i - 1], &b = *by_name[i];
        const auto x = counted(a.file), y = counted(b.file);
        if (a.captured && b.captured && x && y && x->before == y->before && y->number > x->number &&
            y->number - x->number <= next && a.captured->microseconds - b.captured->microseconds > clearly)
            at.push_back(i);
    }
    return at;
}

std::vector<std::size_t> counter_restarts(std::span<const PhotoPtr> by_name)
{
    std::vector<std::size_t> restarts;
    for (const Run& run : runs_of(by_name))
        for (std::size_t i = run.begin + 1; i < run.end; ++i)
            if (*number_of(*by_name[i]) < *number_of(*by_name[i - 1]))
                restarts.push_back(i);
    return restarts;
}

std::vector<std::size_t> out_of_line(std::span<const PhotoPtr> photos)
{
    // The longest sequence that never falls (Fredman 1975): ends[k] is the photo that ends the best one of k + 1
    // photos.
    std::vector<std::size_t> timed, ends;
    std::vector<std::size_t> before(photos.size(), photos.size());
    for (std::size_t i = 0; i < photos.size(); ++i) {
        if (!photos[i]->captured)
            continue;
        timed.push_back(i);
        const auto place =
            std::upper_bound(ends.begin(), ends.end(), *photos[i]->captured,
                             [&](const CaptureTime& t, std::size_t e) { return t < *photos[e]->captured; });
        if (place != ends.begin())
            before[i] = *std::prev(place);
        if (place == ends.end())
            ends.push_back(i);
        else
            *place = i;
    }
    std::vector<bool> in_line(photos.size(), false);
    if (!ends.empty())
        for (std::size_t i = ends.back(); i < photos.size(); i = before[i])
            in_line[i] = true;
    std::vector<std::size_t> out;
    for (const std::size_t i : timed)
        if (!in_line[i])
            out.push_back(i);
    return out;
}

}
