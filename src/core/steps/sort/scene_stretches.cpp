#include "core/steps/sort/scene_stretches.h"

#include "core/base/median.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace frenlo {

namespace {

constexpr double same_scene = 0.5; ///< agreement of two photos of one scene; of two scenes it is below 0.35
constexpr std::size_t reach = 16;  ///< photos that may lie between two of a stretch
constexpr double plain = 0.06;     ///< share of the frame with structure below which there is nothing to compare
/// Something stands before the lens where this much of the structure is hidden; on purpose, where structure and colour
/// together are so much: a palm hides 0.37 and more, an arm that reaches in 0.36 at most (100 random cards).
constexpr double something = 0.06, for_certain = 0.085, on_purpose = 0.365;

double median_of(const std::vector<Hidden>& hidden)
{
    std::vector<double> sums;
    for (const Hidden& h : hidden)
        sums.push_back(h.sum());
    return upper_median(std::move(sums));
}

class Finder
{
public:
    Finder(std::span<const PhotoSignature* const> signatures, const std::vector<bool>& break_before)
        : signatures_(signatures), break_before_(break_before)
    {
        result_.standing.assign(signatures.size(), Standing::stray);
        scene_.assign(signatures.size(), 0);
        // Each photo with the one before: what is asked most, on all cores.
        with_before_.resize(signatures.size());
        tbb::parallel_for(std::size_t(1), std::max<std::size_t>(signatures.size(), 1), [&](std::size_t u) {
            if (seen(u - 1) && seen(u))
                with_before_[u] = match_scenes(look(u - 1).scene, look(u).scene);
        });
    }

    SceneStretches run()
    {
        for (std::size_t begin = 0; begin < signatures_.size();) {
            std::size_t end = begin + 1;
            while (end < signatures_.size() && !(end < break_before_.size() && break_before_[end]))
                ++end;
            find_scenes(begin, end);
            find_stretches(begin, end);
            begin = end;
        }
        for (std::size_t u = 0; u < signatures_.size(); ++u)
            if (result_.standing[u] == Standing::stray && before_lens(u))
                result_.standing[u] = Standing::marker_card;
        return std::move(result_);
    }

private:
    [[nodiscard]] const PhotoSignature& look(std::size_t u) const { return *signatures_[u]; }
    [[nodiscard]] bool seen(std::size_t u) const { return !look(u).empty(); }
    [[nodiscard]] bool is_plain(std::size_t u) const { return look(u).scene.structure < plain; }

    [[nodiscard]] SceneMatch match(std::size_t a, std::size_t b) const
    {
        return b == a + 1 && with_before_[b] ? *with_before_[b] : match_scenes(look(a).scene, look(b).scene);
    }

    /// How well two photos agree; what is plain is told by its colours, and by those it is hardly told.
    [[nodiscard]] double agreement(std::size_t a, std::size_t b) const
    {
        if (!seen(a) || !seen(b))
            return 1;
        if (is_plain(a) && is_plain(b)) {
            const double apart = std::abs(look(a).stops - look(b).stops);
            return same_colours(look(a), look(b)) - std::max(0.0, apart - 1) / 2;
        }
        return match(a, b).agreement;
    }

    /// Gives each photo the number of the first photo of its scene.
    void find_scenes(std::size_t begin, std::size_t end)
    {
        std::map<std::size_t, std::vector<std::size_t>> members;
        for (std::size_t u = begin; u < end; ++u) {
            std::vector<std::size_t> near; // scenes, the one seen last first
            for (std::size_t v = u; v-- > (u > begin + reach ? u - reach : begin);)
                if (std::find(near.begin(), near.end(), scene_[v]) == near.end())
                    near.push_back(scene_[v]);
            scene_[u] = u;
            double best = same_scene;
            for (const std::size_t scene : near) {
                const auto& m = members[scene];
                for (std::size_t back = 1; back <= std::min<std::size_t>(2, m.size()); ++back)
                    if (const double a = agreement(m[m.size() - back], u); a > best) {
                        best = a;
                        scene_[u] = scene;
                    }
                if (best > 0.75) // beyond doubt
                    break;
            }
            if (best == same_scene && u > begin)
                scene_[u] = walked_on(members, u);
            members[scene_[u]].push_back(u);
        }
        sizes_.clear();
        for (const auto& [scene, m] : members)
            sizes_[scene] = m.size();
    }

    /// The scene of a walk that goes on further off than one step, as where photos were deleted; u itself where there
    /// is none.
    [[nodiscard]] std::size_t walked_on(const std::map<std::size_t, std::vector<std::size_t>>& members,
                                        std::size_t u) const
    {
        constexpr std::size_t most_steps = 4;
        constexpr double surely = 0.6;
        const auto walk = members.find(scene_[u - 1]);
        if (walk == members.end() || walk->second.size() < least_stretch || !seen(u))
            return u;
        const auto& m = walk->second;
        const std::size_t last = m.back(), before = m[m.size() - 4];
        if (!seen(last) || !seen(before))
            return u;
        const cv::Point three = match_scenes(look(before).scene, look(last).scene).shift;
        if (std::hypot(three.x, three.y) < 4) // it stands
            return u;
        for (std::size_t steps = 2; steps <= most_steps; ++steps)
            if (match_scenes(look(last).scene, look(u).scene, three * int(steps) / 3).agreement > surely)
                return walk->first;
        return u;
    }

    /// Photos of one scene that follow each other, whatever single ones lie between them.
    void find_stretches(std::size_t begin, std::size_t end)
    {
        std::vector<std::size_t> members;
        const auto close = [&] {
            if (members.size() >= least_stretch)
                cut(members);
            members.clear();
        };
        for (std::size_t u = begin; u < end; ++u) {
            if (sizes_[scene_[u]] < least_stretch)
                continue;
            if (!members.empty() && scene_[members.back()] != scene_[u])
                close();
            members.push_back(u);
        }
        close();
    }

    /// How much of the scene is hidden in each member. Of the members around it the second best counts: two cards in a
    /// row are like each other, too.
    [[nodiscard]] std::vector<Hidden> hidden_in(const std::vector<std::size_t>& members) const
    {
        constexpr double whole = 0.96;
        const auto comparable = [&](std::size_t i, std::size_t j) {
            return seen(members[i]) && seen(members[j]) && !(is_plain(members[i]) && is_plain(members[j]));
        };
        std::vector<double> with_next(members.empty() ? 0 : members.size() - 1);
        tbb::parallel_for(std::size_t(0), with_next.size(), [&](std::size_t i) {
            with_next[i] = comparable(i, i + 1) ? match(members[i], members[i + 1]).share : 1;
        });
        std::vector<Hidden> hidden(members.size());
        tbb::parallel_for(std::size_t(0), members.size(), [&](std::size_t i) {
            const double before = i > 0 ? with_next[i - 1] : 0, after = i < with_next.size() ? with_next[i] : 0;
            if (std::min(before > 0 ? before : 1, after > 0 ? after : 1) >
                whole) // as nearly all are: nothing is hidden
                return;
            std::vector<Hidden> around;
            for (std::size_t j = i > 2 ? i - 2 : 0; j < std::min(members.size(), i + 3); ++j)
                if (j != i && comparable(i, j))
                    around.push_back(hidden_between(look(members[i]).scene, look(members[j]).scene));
            std::sort(around.begin(), around.end(), [](const Hidden& x, const Hidden& y) { return x.sum() < y.sum(); });
            const bool at_an_end = i == 0 || i + 1 == members.size(); // where a walk has no second neighbour as near
            if (!around.empty())
                hidden[i] = around[at_an_end || around.size() < 2 ? 0 : 1];
        });
        return hidden;
    }

    /// Far brighter or darker than the photos around it: an exposure that failed, or one of a bracket. It is no card.
    [[nodiscard]] bool badly_exposed(std::size_t u, std::size_t before, std::size_t after) const
    {
        constexpr double far = 0.8;
        const double s = look(u).stops;
        const bool bright = s > look(before).stops + far && s > look(after).stops + far,
                   dark = s < look(before).stops - far && s < look(after).stops - far;
        const double likeness = std::max(agreement(before, u), agreement(u, after));
        return (bright && likeness > 0.3) || (dark && likeness > same_scene);
    }

    /// Takes those out that have something before the lens, and cuts where they, or others between the members, were
    /// held there on purpose.
    void cut(const std::vector<std::size_t>& members)
    {
        const std::vector<Hidden> hidden = hidden_in(members);
        const double usual = median_of(hidden);
        std::vector<std::size_t> piece;
        std::optional<std::size_t> last;
        const auto close = [&] {
            if (piece.size() >= least_stretch) {
                doubt_border(piece.front());
                if (piece.size() < 6)
                    result_.doubts.push_back({piece.front(), Doubt::About::few});
                result_.stretches.push_back({piece.front(), piece.back() + 1});
                for (const std::size_t u : piece)
                    result_.standing[u] = Standing::member;
                for (const std::size_t u : reached_)
                    result_.standing[u] = Standing::reached_into;
            }
            piece.clear();
            reached_.clear();
        };
        for (std::size_t i = 0; i < members.size(); ++i) {
            const std::size_t u = members[i];
            if (last && held_between(*last, u, i >= least_stretch && i + least_stretch <= members.size()))
                close();
            last = u;
            const std::size_t before = members[i > 0 ? i - 1 : i + 1],
                              after = members[i + 1 < members.size() ? i + 1 : i - 1];
            const bool card =
                hidden[i].structure > for_certain && hidden[i].sum() > on_purpose && !badly_exposed(u, before, after);
            const bool odd_light = std::min(std::abs(look(u).stops - look(before).stops),
                                            std::abs(look(u).stops - look(after).stops)) > 0.4;
            const bool splits =
                i >= least_stretch && i + least_stretch < members.size(); // at an end nothing depends on it
            if (splits && hidden[i].structure > something &&
                (std::abs(hidden[i].sum() - on_purpose) < 0.045 || (card && odd_light)))
                result_.doubts.push_back({u, Doubt::About::card});
            if (!card) {
                piece.push_back(u);
                if (hidden[i].structure > something && hidden[i].colour > something &&
                    hidden[i].sum() > std::max(0.15, 4 * usual))
                    reached_.push_back(u);
                continue;
            }
            result_.standing[u] = Standing::marker_card;
            close();
        }
        close();
    }

    /// A border with nothing between the shots is in doubt where both sides have something in common.
    void doubt_border(std::size_t begin)
    {
        constexpr double in_common = 0.36;
        if (result_.stretches.empty() || begin == 0 || result_.stretches.back().end != begin)
            return;
        for (std::size_t back = 1; back <= 2; ++back)
            if (agreement(begin - back, begin) > in_common) {
                result_.doubts.push_back({begin, Doubt::About::border});
                return;
            }
    }

    /// Whether something was held before the lens between two photos of one scene. Lens caps, flashes and photos that
    /// the camera turned are accidents, and told. splits: with enough photos on both sides for two shots.
    bool held_between(std::size_t before, std::size_t after, bool splits)
    {
        bool held = false;
        for (std::size_t u = before + 1; u < after; ++u) {
            if (covered(u) || badly_exposed(u, before, after)) {
                result_.standing[u] = Standing::covered;
            } else if (seen(u) && (quarters_between(look(before).scene, look(u).scene) != 0 ||
                                   quarters_between(look(after).scene, look(u).scene) != 0)) {
                result_.standing[u] = Standing::turned;
            } else {
                result_.standing[u] = Standing::marker_card;
                held = true;
                if (splits && !before_lens(u))
                    result_.doubts.push_back({u, Doubt::About::card});
            }
        }
        return held;
    }

    /// Nothing to be seen in it: black all over, or white.
    [[nodiscard]] bool covered(std::size_t u) const
    {
        constexpr double black = -7.5, white = -0.25, even = 2.5;
        return (look(u).stops < black && look(u).contrast < even) || (look(u).stops > white && look(u).contrast < even);
    }

    /// Whether a stray is a card, a cloth, a slate, a hand: the scene beside it looks out behind, or one thing fills
    /// the frame and leaves its middle empty, or it is a dark board with writing.
    [[nodiscard]] bool before_lens(std::size_t u) const
    {
        constexpr double behind = 0.35;
        const PhotoSignature& l = look(u);
        const SceneView& v = l.scene;
        if (!seen(u))
            return false;
        const bool one_thing = l.filled > 0.5 && v.middle < 0.28 && v.middle < 0.78 * v.whole;
        const bool nothing = (l.filled > 0.9 && v.structure < 0.3) || (l.filled > 0.97 && l.contrast < 8);
        const bool board = l.filled > 0.5 && l.contrast > 25 && v.structure > 0.95 && l.stops < -2.7;
        if (one_thing || nothing || board)
            return true;
        for (const Stretch& s : result_.stretches)
            for (const std::size_t w : {s.begin, s.end - 1})
                if (std::max(u, w) - std::min(u, w) <= reach && seen(w) && match(u, w).agreement > behind)
                    return true;
        return false;
    }

    std::span<const PhotoSignature* const> signatures_;
    std::vector<std::optional<SceneMatch>> with_before_; ///< where both were seen
    const std::vector<bool>& break_before_;
    std::vector<std::size_t> scene_;
    std::map<std::size_t, std::size_t> sizes_;
    std::vector<std::size_t> reached_; ///< of the piece that is being made
    SceneStretches result_;
};

}

SceneStretches scene_stretches(std::span<const PhotoSignature* const> signatures, const std::vector<bool>& break_before)
{
    return Finder(signatures, break_before).run();
}

}
