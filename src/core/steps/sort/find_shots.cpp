#include "core/steps/sort/find_shots.h"

#include "core/base/text.h"
#include "core/source/names.h"
#include "core/steps/sort/brackets.h"
#include "core/steps/sort/odd_photos.h"
#include "core/steps/sort/rhythm.h"
#include "core/steps/sort/scene_stretches.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// Why a shot ends before a photo. The first that applies is told.
struct Break
{
    std::string reason;
    bool of_folder = false; ///< somebody put the photos apart: even one of them may be a shot
};

/// For every usable photo, a value smoothed so that a few odd ones in a row do not count: what differs must last.
template <class Value>
std::vector<Value> lasting(const std::vector<std::size_t>& at, const std::function<Value(std::size_t)>& value)
{
    constexpr std::size_t least = 3;
    std::vector<Value> v;
    v.reserve(at.size());
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

class Search
{
public:
    Search(std::span<const Candidate> photos, const ShotSearchOptions& options) : photos_(photos), options_(options)
    {
        for (std::size_t i = 0; i < photos.size(); ++i)
            if (photos[i].usable && !photos[i].copy)
                usable_.push_back(i);
        breaks_.resize(photos.size());
    }

    FoundShots run()
    {
        FoundShots found;
        find_pauses(found);
        leave_out(found);
        break_at_files();
        find_lasting_changes();
        find_blocks(found);
        apply_ties();
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
    [[nodiscard]] GroupingOverride grouping(std::size_t i) const
    {
        return i < options_.overrides.size() ? options_.overrides[i] : GroupingOverride::none;
    }

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
            else if (another_run(a.file, b.file))
                put_break(usable_[u], "another run of numbers", true);
        }
    }

    /// Reasons where the pictures cannot tell; where they can, the scene is another too.
    void find_lasting_changes()
    {
        lasting_.resize(usable_.size());
        const auto sizes = lasting<std::pair<int, int>>(usable_, [&](std::size_t i) {
            const cv::Size s = file(i).size;
            return std::pair(s.width, s.height);
        });
        // Zoomed or another lens. Exposure is no reason: it changes inside shots.
        const auto lenses =
            lasting<Fraction>(usable_, [&](std::size_t i) { return file(i).exposure.focal_mm.value_or(Fraction(0)); });
        for (std::size_t u = 1; u < usable_.size(); ++u) {
            if (sizes[u] != sizes[u - 1])
                lasting_[u] = "another picture size";
            else if (lenses[u] != lenses[u - 1])
                lasting_[u] = "another focal length";
        }
    }

    void find_pauses(FoundShots& found)
    {
        std::vector<PhotoPtr> of_usable;
        for (const std::size_t i : usable_)
            of_usable.push_back(photos_[i].photo);
        gaps_ = gaps_between(of_usable);
        found.pause = options_.pause.value_or(pause_for(gaps_));
        pauses_ = pauses(gaps_, found.pause);
        if (options_.pause) // the user's own pause ends a shot, whatever it shows
            for (const std::size_t u : pauses_)
                put_break(usable_[u], "after a pause of " + shown_pause(*gaps_[u]));
    }

    /// Photos between breaks that hold whatever they show: by scenes, or, where the pictures say nothing, by pauses.
    void find_blocks(FoundShots& found)
    {
        piece_.assign(usable_.size(), none);
        if (!options_.overrides.empty() &&
            std::all_of(options_.overrides.begin(), options_.overrides.end(),
                        [](GroupingOverride t) { return t == GroupingOverride::stays; })) {
            why_.emplace_back("the first photos");
            std::fill(piece_.begin(), piece_.end(), 0);
            return;
        }
        std::vector<std::pair<std::size_t, std::size_t>> unknown;
        for (std::size_t begin = 0; begin < usable_.size();) {
            std::size_t end = begin + 1;
            while (end < usable_.size() && !breaks_[usable_[end]])
                ++end;
            if (!by_scene(begin, end, found))
                unknown.emplace_back(begin, end);
            begin = end;
        }
        const bool any_scene = !why_.empty();
        for (const auto& [begin, end] : unknown) {
            // Photos that are all different, beside shots, are strays, unless somebody put them there.
            const bool looked_at =
                std::any_of(usable_.begin() + std::ptrdiff_t(begin), usable_.begin() + std::ptrdiff_t(end),
                            [&](std::size_t i) { return !photos_[i].look.empty(); });
            const bool put_there =
                begin == 0 ? breaks_.size() > end && end < usable_.size() && breaks_[usable_[end]]->of_folder
                           : breaks_[usable_[begin]]->of_folder;
            if (!any_scene || !looked_at || put_there)
                by_pauses(begin, end);
        }
    }

    bool by_scene(std::size_t begin, std::size_t end, FoundShots& found)
    {
        std::vector<const PhotoSignature*> signatures;
        std::size_t seen = 0;
        for (std::size_t u = begin; u < end; ++u) {
            signatures.push_back(&photos_[usable_[u]].look);
            seen += !signatures.back()->empty();
        }
        if (seen < least_stretch)
            return false;
        const SceneStretches s = scene_stretches(signatures, {});
        std::size_t members = 0;
        for (const Stretch& stretch : s.stretches)
            members += stretch.end - stretch.begin;
        if (s.stretches.empty() ||
            4 * members < end - begin) // photos that are all different: nobody wants none of them
            return false;
        for (const Stretch& stretch : s.stretches) {
            why_.push_back(reason_for(begin, stretch, s));
            std::fill(piece_.begin() + std::ptrdiff_t(begin + stretch.begin),
                      piece_.begin() + std::ptrdiff_t(begin + stretch.end), why_.size() - 1);
        }
        take_standings(begin, s, found);
        take_doubts(begin, s, found);
        return true;
    }

    /// Why a shot begins with this stretch.
    std::string reason_for(std::size_t begin, const Stretch& stretch, const SceneStretches& s) const
    {
        const std::size_t first = begin + stretch.begin;
        if (begin > 0 && &stretch == &s.stretches.front() && stretch.begin == 0)
            return breaks_[usable_[begin]]->reason;
        std::size_t before = stretch.begin;
        bool card = false;
        while (before > 0 &&
               (s.standing[before - 1] == Standing::stray || s.standing[before - 1] == Standing::marker_card))
            card = s.standing[--before] == Standing::marker_card || card;
        if (card)
            return "after a marker card";
        if (before == 0)
            return begin > 0 ? breaks_[usable_[begin]]->reason : "the first photos";
        if (before < stretch.begin)
            return "after photos of something else";
        const bool pause = std::binary_search(pauses_.begin(), pauses_.end(), first);
        return pause ? "new scene after " + shown_pause(*gaps_[first]) : "new scene";
    }

    void take_standings(std::size_t begin, const SceneStretches& s, FoundShots& found)
    {
        const auto name = [&](std::size_t i) { return shown_path(file(i).file.filename()); };
        for (std::size_t k = 0; k < s.standing.size(); ++k) {
            const std::size_t i = usable_[begin + k];
            switch (s.standing[k]) {
            case Standing::marker_card:
                found.marker_cards.push_back(i);
                break;
            case Standing::turned:
                found.findings.push_back({FindingKind::turned,
                                          {file(i).file},
                                          name(i) + " is turned against its neighbours.",
                                          usual_remedies(FindingKind::turned)});
                break;
            case Standing::covered:
                found.findings.push_back({FindingKind::unlike,
                                          {file(i).file},
                                          name(i) + " shows nothing: the lens was covered, or it was a flash.",
                                          usual_remedies(FindingKind::unlike)});
                break;
            case Standing::reached_into:
                found.findings.push_back({FindingKind::unlike,
                                          {file(i).file},
                                          name(i) + " shows something that reaches in: an arm, a tool?",
                                          usual_remedies(FindingKind::unlike)});
                break;
            case Standing::stray:
            case Standing::member:
                break;
            }
        }
    }

    void take_doubts(std::size_t begin, const SceneStretches& s, FoundShots& found) const
    {
        for (const Doubt& d : s.doubts) {
            const std::size_t i = usable_[begin + d.photo];
            const std::string name = shown_path(file(i).file.filename());
            std::string why;
            switch (d.about) {
            case Doubt::About::card:
                why =
                    "in " + name + " something is before the lens. A shot ends there if it was held there on purpose.";
                break;
            case Doubt::About::border:
                why = "what " + name + " shows may be the scene before it.";
                break;
            case Doubt::About::few:
                why = "the shot that begins with " + name + " has few photos.";
                break;
            }
            found.unsure.push_back({i, "Look at this border: " + why});
            found.findings.push_back({FindingKind::border_unsure, {file(i).file}, found.unsure.back().why, {}});
        }
    }

    void by_pauses(std::size_t begin, std::size_t end)
    {
        for (std::size_t u = begin; u < end; ++u) {
            const bool pause = u > begin && std::binary_search(pauses_.begin(), pauses_.end(), u);
            if (u > begin && !lasting_[u].empty())
                why_.push_back(lasting_[u]);
            else if (pause)
                why_.push_back("after a pause of " + shown_pause(*gaps_[u]));
            else if (u == begin)
                why_.push_back(begin > 0 ? breaks_[usable_[begin]]->reason : "the first photos");
            piece_[u] = why_.size() - 1;
        }
        drop_strays(begin, end);
    }

    /// One or two photos between pauses, where there are real shots, belong to nothing. What somebody put apart by
    /// folder or name is meant, however short.
    void drop_strays(std::size_t begin, std::size_t end)
    {
        constexpr std::ptrdiff_t few = 2, real = 4;
        std::map<std::size_t, std::ptrdiff_t> sizes;
        for (std::size_t u = begin; u < end; ++u)
            ++sizes[piece_[u]];
        if (std::none_of(sizes.begin(), sizes.end(), [&](const auto& s) { return s.second >= real; }))
            return;
        for (std::size_t u = begin; u < end; ++u)
            if (sizes[piece_[u]] <= few)
                piece_[u] = none;
    }

    /// What the user decided, no search overrules.
    void apply_ties()
    {
        by_hand_.assign(why_.size(), false);
        for (std::size_t u = 0; u < usable_.size(); ++u) {
            const std::size_t own = piece_[u], before = u > 0 ? piece_[u - 1] : none;
            switch (grouping(usable_[u])) {
            case GroupingOverride::none:
                break;
            case GroupingOverride::loose:
                piece_[u] = none;
                break;
            case GroupingOverride::starts:
                why_.push_back("set by hand");
                by_hand_.push_back(true);
                piece_[u] = why_.size() - 1;
                for (std::size_t v = u + 1; v < usable_.size() && own != none && piece_[v] == own; ++v)
                    piece_[v] = piece_[u];
                break;
            case GroupingOverride::stays:
                if (before == none || before == own)
                    break;
                piece_[u] = before;
                for (std::size_t v = u + 1; v < usable_.size() && own != none && piece_[v] == own; ++v)
                    piece_[v] = before;
                break;
            }
        }
    }

    void collect(FoundShots& found)
    {
        for (std::size_t u = 0; u < usable_.size();) {
            std::size_t end = u + 1;
            while (end < usable_.size() && piece_[end] == piece_[u])
                ++end;
            if (piece_[u] != none)
                found.shots.push_back({"", usable_[u], usable_[end - 1] + 1, why_[piece_[u]], ShotKind::unknown});
            u = end;
        }
    }

    /// Copies, and of a bracket all exposures but the middle one.
    void leave_out(FoundShots& found)
    {
        for (std::size_t i = 0; i < photos_.size(); ++i)
            if (photos_[i].copy)
                found.left_out.push_back(i);
        for (std::size_t u = 0; u + 2 < usable_.size(); ++u)
            for (const std::size_t count : {std::size_t(5), std::size_t(3)})
                if (const auto shown = middle_of_bracket_at(u, count)) {
                    std::vector<fs::path> files{file(usable_[*shown]).file};
                    for (std::size_t v = u; v < u + count; ++v)
                        if (v != *shown) {
                            found.left_out.push_back(usable_[v]);
                            files.push_back(file(usable_[v]).file);
                        }
                    found.findings.push_back({FindingKind::bracket,
                                              files,
                                              "A bracket of " + std::to_string(count) +
                                                  " exposures: " + shown_path(files.front().filename()) +
                                                  " is shown, the others are kept beside it.",
                                              {Remedy::merge}});
                    u += count - 1;
                    break;
                }
    }

    [[nodiscard]] std::optional<std::size_t> middle_of_bracket_at(std::size_t begin, std::size_t count) const
    {
        if (begin + count > usable_.size())
            return std::nullopt;
        std::vector<const Candidate*> exposures;
        for (std::size_t u = begin; u < begin + count; ++u)
            exposures.push_back(&photos_[usable_[u]]);
        const auto middle = middle_of_bracket(exposures, std::span(gaps_).subspan(begin + 1, count - 1));
        return middle ? std::optional(begin + *middle) : std::nullopt;
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
    const ShotSearchOptions& options_;
    std::vector<std::size_t> usable_;          ///< positions; "u" counts in these
    std::vector<std::optional<Break>> breaks_; ///< before each photo, whatever it shows
    static constexpr std::size_t none = std::size_t(-1);
    std::vector<std::size_t> piece_;          ///< that each of usable_ belongs to
    std::vector<std::string> lasting_;        ///< what changes for good at each of usable_, empty where nothing does
    std::vector<std::string> why_;            ///< each piece begins
    std::vector<bool> by_hand_;               ///< of each piece
    std::vector<std::optional<double>> gaps_; ///< of usable_
    std::vector<std::size_t> pauses_;         ///< positions in usable_
};

}

FoundShots find_shots(std::span<const Candidate> photos, const ShotSearchOptions& options)
{
    return Search(photos, options).run();
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
