#include "core/source/matching.h"

#include "core/source/inspect.h"
#include "core/source/listing.h"
#include "core/source/names.h"
#include "core/source/order.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

std::string lower(std::string s)
{
    std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return char(std::tolower(c)); });
    return s;
}

/// Files of the places, inspected when first asked for.
class Pool
{
public:
    Pool(std::span<const fs::path> places) : files_(files_in(places).files)
    {
        for (std::size_t i = 0; i < files_.size(); ++i)
            by_name_[lower(files_[i].filename())].push_back(i);
    }

    /// The first that fits, not taken yet; taken then.
    template <class Fits>
    PhotoPtr take_named(const fs::path& name, Fits fits)
    {
        const auto named = by_name_.find(lower(name.filename()));
        return named == by_name_.end() ? nullptr : take(named->second, fits);
    }

    template <class Fits>
    PhotoPtr take_of_size(std::uintmax_t bytes, Fits fits)
    {
        if (by_bytes_.empty())
            for (std::size_t i = 0; i < files_.size(); ++i)
                if (const auto stamp = stamp_of(files_[i]))
                    by_bytes_[stamp->bytes].push_back(i);
        const auto same = by_bytes_.find(bytes);
        return same == by_bytes_.end() ? nullptr : take(same->second, fits);
    }

private:
    template <class Fits>
    PhotoPtr take(const std::vector<std::size_t>& candidates, Fits fits)
    {
        for (const std::size_t i : candidates) {
            if (taken_.contains(i))
                continue;
            auto& known = inspected_[i];
            if (!known.photo)
                known = inspect(files_[i]);
            if (!known.ignored && known.state == PhotoState::fine && fits(*known.photo)) {
                taken_.insert(i);
                return known.photo;
            }
        }
        return nullptr;
    }

    std::vector<fs::path> files_;
    std::map<std::string, std::vector<std::size_t>> by_name_;
    std::map<std::uintmax_t, std::vector<std::size_t>> by_bytes_;
    std::map<std::size_t, Inspected> inspected_;
    std::set<std::size_t> taken_;
};

/// Keys that occur once, with their photo.
template <class Key, class Of>
std::map<Key, PhotoPtr> once(std::span<const PhotoPtr> photos, Of of)
{
    std::map<Key, PhotoPtr> found;
    std::set<Key> twice;
    for (const auto& p : photos)
        if (const std::optional<Key> key = of(*p); key && !found.emplace(*key, p).second)
            twice.insert(*key);
    for (const Key& key : twice)
        found.erase(key);
    return found;
}

bool times_agree(const PhotoFile& a, const PhotoFile& b)
{
    return !a.captured || !b.captured || std::abs(a.captured->microseconds - b.captured->microseconds) < 1'000'000;
}

}

namespace {

/// Matches of files as matches of all the pictures in them.
std::vector<Match> for_all_pictures(const std::vector<Match>& files, std::span<const PhotoPtr> gone)
{
    std::map<fs::path, PhotoPtr> found;
    for (const Match& m : files)
        found.emplace(m.old->file, m.now);
    std::vector<Match> matches;
    for (const PhotoPtr& p : gone)
        if (const auto f = found.find(p->file); f != found.end())
            matches.push_back({p, same_picture(*p, f->second)});
    return matches;
}

}

std::vector<Match> find_again(std::span<const PhotoPtr> gone, std::span<const fs::path> places, const Job& job)
{
    Pool pool(places);
    std::vector<Match> matches;
    std::vector<PhotoPtr> open; // one a file
    std::set<fs::path> files;
    std::copy_if(gone.begin(), gone.end(), std::back_inserter(open),
                 [&](const PhotoPtr& p) { return files.insert(p->file).second; });
    std::size_t pass = 0;
    const auto search = [&](auto&& look_for) {
        std::vector<PhotoPtr> still_open;
        for (std::size_t i = 0; i < open.size(); ++i) {
            job.check();
            job.report((double(pass) + double(i) / double(open.size())) / 3,
                       "looking for " + open[i]->file.filename().native());
            if (auto found = look_for(*open[i]))
                matches.push_back({open[i], std::move(found)});
            else
                still_open.push_back(open[i]);
        }
        open = std::move(still_open);
        ++pass;
    };
    const auto same_content = [](const PhotoFile& p) {
        return [&p](const PhotoFile& q) {
            return q.bytes == p.bytes && (q.fingerprint == p.fingerprint || p.fingerprint.empty());
        };
    };
    search([&](const PhotoFile& p) { return pool.take_named(p.file, same_content(p)); });
    search([&](const PhotoFile& p) {
        return p.fingerprint.empty() ? nullptr : pool.take_of_size(p.bytes, same_content(p));
    });
    search([&](const PhotoFile& p) {
        return pool.take_named(p.file,
                               [&](const PhotoFile& q) { return q.size == p.size && q.captured == p.captured; });
    });
    return for_all_pictures(matches, gone);
}

SwapPlan plan_swap(std::span<const PhotoPtr> have, std::span<const PhotoPtr> better)
{
    SwapPlan plan;
    std::set<const PhotoFile*> done;
    const auto match = [&](const PhotoPtr& old, const PhotoPtr& now) {
        plan.matches.push_back({old, now});
        done.insert({old.get(), now.get()});
        plan.other_size = plan.other_size || old->size != now->size;
    };
    const auto number = [](const PhotoFile& p) { return number_of(p); };
    const auto numbers = once<std::int64_t>(better, number);
    for (const auto& [n, old] : once<std::int64_t>(have, number))
        if (const auto found = numbers.find(n); found != numbers.end() && times_agree(*old, *found->second))
            match(old, found->second);
    plan.by_number = plan.matches.size();
    const auto rest = [&](std::span<const PhotoPtr> all) {
        std::vector<PhotoPtr> left;
        std::copy_if(all.begin(), all.end(), std::back_inserter(left),
                     [&](const PhotoPtr& p) { return !done.contains(p.get()); });
        return left;
    };
    const auto time = [](const PhotoFile& p) { return p.captured; };
    const auto left = rest(better);
    const auto times = once<CaptureTime>(left, time);
    for (const auto& [t, old] : once<CaptureTime>(rest(have), time))
        if (const auto found = times.find(t); found != times.end())
            match(old, found->second);
    plan.without_better = rest(have);
    plan.left_over = rest(better);
    return plan;
}

}
