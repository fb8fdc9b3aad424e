#include "core/photo/find_shots.h"

#include "core/base/text.h"
#include "core/photo/names.h"
#include "core/photo/odd_photos.h"
#include "core/photo/rhythm.h"

#include <algorithm>
#include <array>
#include <map>
#include <set>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::array kind_names{"unknown", "hand-moved", "time-lapse", "walked"};

/// Why a shot ends before a photo. The first that applies is told.
struct Break
{
    std::string reason;
    bool of_folder = false; ///< somebody put the photos apart: even one of them may be a shot
};

std::string skeleton(std::string_view text)
{
    std::string s;
    for (const char c : text)
        if (c < '0' || c > '9')
            s += c;
    return s;
}

/// "20260503_104211", "IMG_20260503_104211": a clock, no counter; it jumps with the time.
bool is_clock(const NumberedName& n)
{
    const std::string& b = n.before;
    const auto digits = std::count_if(b.begin(), b.end(), [](char c) { return c >= '0' && c <= '9'; });
    return n.digits >= 6 || (digits >= 6 && n.digits >= 2);
}

bool another_run(const PhotoFile& a, const PhotoFile& b)
{
    const auto x = numbered(a.file), y = numbered(b.file);
    if (!x || !y || is_clock(*x) || is_clock(*y))
        return false;
    if (skeleton(x->before) != skeleton(y->before))
        return true;
    return x->before != y->before && y->number < x->number; // "shot1_0048", "shot2_0001"
}

/// For every usable photo, a value smoothed so that a few odd ones in a row do not count: what differs must last.
template <class Value>
std::vector<Value> lasting(const std::vector<std::size_t>& at, const std::function<Value(std::size_t)>& value)
{
    constexpr std::size_t least = 3;
    std::vector<Value> v;
    for (const std::size_t i : at)
        v.push_back(value(i));
    for (std::size_t i = 0; i < v.size();) {
        std::size_t end = i;
        while (end < v.size() && v[end] == v[i])
            ++end;
        if (i > 0 && end - i < least)
            std::fill(v.begin() + std::ptrdiff_t(i), v.begin() + std::ptrdiff_t(end), v[i - 1]);
        i = end;
    }
    return v;
}

class Search {
public:
    Search(std::span<const Candidate> photos, const ShotWishes& wishes) : photos_(photos), wishes_(wishes)
    {
        for (std::size_t i = 0; i < photos.size(); ++i)
            if (photos[i].usable)
                usable_.push_back(i);
        breaks_.resize(photos.size());
        loose_.resize(photos.size(), false);
    }

    FoundShots run()
    {
        FoundShots found;
        break_at_files();
        break_at_lasting_changes();
        found.marker_cards = break_at_marker_cards();
        found.pause = break_at_pauses();
        break_at_scenes();
        collect(found);
        name_shots(found.shots);
        for (auto& shot : found.shots) {
            std::vector<Candidate> of_shot;
            for (std::size_t i = shot.begin; i < shot.end; ++i)
                if (photos_[i].usable)
                    of_shot.push_back(photos_[i]);
            shot.kind = kind_of(of_shot);
        }
        return found;
    }

private:
    [[nodiscard]] const PhotoFile& file(std::size_t i) const { return *photos_[i].photo; }
    [[nodiscard]] Tie tie(std::size_t i) const { return i < wishes_.ties.size() ? wishes_.ties[i] : Tie::none; }

    void put_break(std::size_t i, const std::string& reason, bool of_folder = false)
    {
        if (!breaks_[i])
            breaks_[i] = Break{reason, of_folder};
    }

    void break_at_files()
    {
        for (std::size_t u = 1; u < usable_.size(); ++u) {
            const PhotoFile &a = file(usable_[u - 1]), &b = file(usable_[u]);
            const fs::path from = a.file.parent_path(), to = b.file.parent_path();
            const bool card = from.parent_path() == to.parent_path() && is_card_folder(from) && is_card_folder(to);
            if (from != to && !card)
                put_break(usable_[u], "another folder", true);
            else if (a.camera != b.camera && !a.camera.empty() && !b.camera.empty())
                put_break(usable_[u], "another camera");
            else if (another_run(a, b))
                put_break(usable_[u], "another run of numbers", true);
        }
    }

    void break_at_lasting_changes()
    {
        const auto sizes = lasting<std::pair<int, int>>(usable_, [&](std::size_t i) {
            const cv::Size s = file(i).size;
            return std::pair(s.width, s.height);
        });
        // Zoomed or another lens. Exposure is no reason: it changes inside shots.
        const auto lenses = lasting<Fraction>(usable_, [&](std::size_t i) { return file(i).exposure.focal_mm.value_or(Fraction(0)); });
        for (std::size_t u = 1; u < usable_.size(); ++u) {
            if (sizes[u] != sizes[u - 1])
                put_break(usable_[u], "another picture size");
            else if (lenses[u] != lenses[u - 1])
                put_break(usable_[u], "another focal length");
        }
    }

    std::vector<std::size_t> break_at_marker_cards()
    {
        std::vector<std::size_t> cards;
        for (const OddRun& run : odd_runs(photos_, usable_)) {
            if (!run.separates)
                continue;
            for (std::size_t u = run.begin; u < run.end; ++u)
                loose_[usable_[u]] = true;
            for (const std::size_t u : run.marker_cards)
                cards.push_back(usable_[u]);
            if (run.end < usable_.size()) // the shot after it is told so, whatever else ends there too
                breaks_[usable_[run.end]] = Break{run.marker_cards.empty() ? "after a photo of something else" : "after a marker card", false};
        }
        return cards;
    }

    Seconds break_at_pauses()
    {
        std::vector<PhotoPtr> of_usable;
        for (const std::size_t i : usable_)
            of_usable.push_back(photos_[i].photo);
        gaps_ = gaps_between(of_usable);
        const Seconds pause = wishes_.pause.value_or(pause_for(gaps_));
        for (const std::size_t u : pauses(gaps_, pause))
            put_break(usable_[u], "after a pause of " + shown_pause(*gaps_[u]));
        return pause;
    }

    /// Another scene is a reason where there was a break too, or where there are no times.
    void break_at_scenes()
    {
        for (const std::size_t u : scene_changes(photos_, usable_)) {
            const auto around = pauses(gaps_, {Fraction(3)});
            const bool timed = gaps_[u].has_value();
            if (!timed || std::binary_search(around.begin(), around.end(), u))
                put_break(usable_[u], "another scene");
        }
    }

    void close(FoundShots& found, std::vector<std::size_t>& members, const Break& why) const
    {
        if (!members.empty())
            found.shots.push_back({"", members.front(), members.back() + 1, why.reason, ShotKind::unknown});
        members.clear();
    }

    void collect(FoundShots& found)
    {
        std::vector<std::size_t> members;
        Break why{"the first photos", true};
        bool first = true;
        for (const std::size_t i : usable_) {
            const Tie t = tie(i);
            const bool out = t == Tie::loose || (loose_[i] && t == Tie::none);
            if (out || (t == Tie::starts) || (breaks_[i] && t != Tie::stays && !first)) {
                const auto at = found.shots.size();
                close(found, members, why);
                by_hand_.resize(found.shots.size(), false);
                if (found.shots.size() > at)
                    by_hand_[at] = why_by_hand_;
                why = t == Tie::starts ? Break{"set by hand", true} : breaks_[i].value_or(why);
                why_by_hand_ = t == Tie::starts;
            }
            first = false;
            if (!out)
                members.push_back(i);
        }
        close(found, members, why);
        by_hand_.resize(found.shots.size(), why_by_hand_);
        drop_strays(found);
    }

    /// One or two photos between breaks, where there are real shots, belong to nothing.
    void drop_strays(FoundShots& found)
    {
        constexpr std::size_t few = 2, real = 4;
        const auto count = [&](const FoundShot& s) {
            return std::size_t(std::count_if(usable_.begin(), usable_.end(), [&](std::size_t i) { return i >= s.begin && i < s.end; }));
        };
        const bool any_real = std::any_of(found.shots.begin(), found.shots.end(), [&](const auto& s) { return count(s) >= real; });
        if (!any_real)
            return;
        std::vector<FoundShot> kept;
        for (std::size_t k = 0; k < found.shots.size(); ++k) {
            const FoundShot& s = found.shots[k];
            // What somebody put apart by folder or name, or by hand, is meant, however short.
            const bool apart = by_hand_[k] || (put_apart(s.begin) && put_apart(s.end));
            if (count(s) > few || apart)
                kept.push_back(s);
        }
        found.shots = std::move(kept);
    }

    [[nodiscard]] bool put_apart(std::size_t boundary) const
    {
        const auto next = std::lower_bound(usable_.begin(), usable_.end(), boundary);
        if (next == usable_.begin() || next == usable_.end())
            return true;
        return breaks_[*next] && breaks_[*next]->of_folder;
    }

    void name_shots(std::vector<FoundShot>& shots) const
    {
        std::map<std::string, int> in_all, so_far;
        const auto base = [&](const FoundShot& s) {
            const fs::path folder = file(s.begin).file.parent_path();
            return is_card_folder(folder) ? std::string("Shot") : shown_path(folder.filename());
        };
        for (const auto& s : shots)
            ++in_all[base(s)];
        for (auto& s : shots) {
            s.name = base(s);
            if (in_all[s.name] > 1 || s.name == "Shot")
                s.name += ' ' + std::to_string(++so_far[base(s)]);
            else if (s.reason == "another folder" || s.reason == "the first photos")
                s.reason = "one folder";
        }
    }

    std::span<const Candidate> photos_;
    const ShotWishes& wishes_;
    std::vector<std::size_t> usable_; ///< positions; "u" counts in these
    std::vector<std::optional<Break>> breaks_; ///< before each photo
    std::vector<bool> loose_;
    std::vector<bool> by_hand_; ///< of each shot found
    bool why_by_hand_ = false;
    std::vector<std::optional<double>> gaps_; ///< of usable_
};

}

std::string_view kind_name(ShotKind kind)
{
    return kind_names.at(std::size_t(kind));
}

std::optional<ShotKind> parse_shot_kind(std::string_view name)
{
    const auto it = std::find(kind_names.begin(), kind_names.end(), name);
    if (it == kind_names.end())
        return std::nullopt;
    return ShotKind(it - kind_names.begin());
}

FoundShots find_shots(std::span<const Candidate> photos, const ShotWishes& wishes)
{
    return Search(photos, wishes).run();
}

ShotKind kind_of(std::span<const Candidate> photos)
{
    std::vector<PhotoPtr> files;
    for (const auto& p : photos)
        files.push_back(p.photo);
    const auto gaps = gaps_between(files);
    const auto equal = regular(gaps);
    // Somebody who walks with a camera does so within seconds; clouds and shadows may fill the frame and travel too.
    const auto slow = std::count_if(gaps.begin(), gaps.end(), [](const auto& g) { return g && *g > 6; });
    const bool unhurried = equal && *equal && 2 * std::size_t(slow) > gaps.size();
    if (!unhurried && viewpoint_travels(photos))
        return ShotKind::walked;
    if (!equal)
        return ShotKind::unknown;
    return *equal ? ShotKind::time_lapse : ShotKind::hand_moved;
}

}
