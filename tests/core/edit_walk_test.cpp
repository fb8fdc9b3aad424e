// Hundreds of edits of all steps by chance, one after another, as somebody does who tries everything: whatever they
// make of a project, it is one that can be shown, saved and taken back. FRENLO_WALK=SEED:EDITS for other ones.
#include "core/cards/card_edits.h"
#include "core/project/delivery.h"
#include "core/project/edits.h"
#include "core/project/exactly.h"
#include "core/project/history.h"
#include "core/project/project_json.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/layers/layer_edits.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/reel/reel_edits.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/retouch_edits.h"
#include "core/steps/sort/card_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/tone/tone_edits.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <cstdlib>
#include <random>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Takes what it needs by chance from the project as it is.
class Hand
{
public:
    explicit Hand(unsigned seed) : random_(seed) {}

    [[nodiscard]] std::int64_t number(std::int64_t low, std::int64_t high)
    {
        return std::uniform_int_distribution<std::int64_t>(low, high)(random_);
    }
    [[nodiscard]] double real(double low, double high) { return std::uniform_real_distribution<>(low, high)(random_); }
    [[nodiscard]] bool coin() { return number(0, 1) == 1; }
    [[nodiscard]] Seconds time() { return {Fraction(number(0, 240), number(1, 60))}; }
    [[nodiscard]] Hold hold()
    {
        if (coin())
            return Frames{number(0, 12)};
        return Seconds{Fraction(number(1, 60), number(1, 120))};
    }
    [[nodiscard]] ShotIndex shot(const Project& p) { return ShotIndex(number(0, std::int64_t(p.shots.size()) - 1)); }
    [[nodiscard]] PhotoIndex photo(const Shot& s) { return PhotoIndex(number(0, std::int64_t(s.photos.size()) - 1)); }
    [[nodiscard]] PhotoId id(const Shot& s) { return s.photos[photo(s).at()].id; }
    [[nodiscard]] std::vector<PhotoIndex> photos(const Shot& s)
    {
        std::vector<PhotoIndex> some;
        for (std::size_t i = 0; i < s.photos.size(); ++i)
            if (number(0, 2) == 0)
                some.emplace_back(std::int64_t(i));
        return some;
    }
    template <class T>
    [[nodiscard]] const T& one(std::span<const T> all)
    {
        return all[std::size_t(number(0, std::int64_t(all.size()) - 1))];
    }
    template <class T, std::size_t N>
    [[nodiscard]] const T& one(const std::array<T, N>& all)
    {
        return one(std::span<const T>(all));
    }

private:
    std::mt19937 random_;
};

struct Edit
{
    const char* name;
    std::function<Project(const Project&, ShotIndex, Hand&)> make;
};

const std::array rates{Rate(Fraction(24)), Rate(Fraction(25)), Rate(Fraction(30'000, 1001)), Rate(Fraction(12)),
                       Rate(Fraction(25, 2))};

std::vector<Edit> edits_of_order()
{
    return {
        {"set aside",
         [](const Project& p, ShotIndex s, Hand& h) { return set_aside(p, s, h.photos(p.shot(s)), h.coin()); }},
        {"move photos", [](const Project& p, ShotIndex s,
                           Hand& h) { return move_photos(p, s, h.photos(p.shot(s)), h.photo(p.shot(s))); }},
        {"split",
         [](const Project& p, ShotIndex s, Hand& h) {
             const PhotoIndex at = h.photo(p.shot(s));
             return at.value > 0 && p.shots.size() < 12 ? split_shot(p, s, at) : p;
         }},
        {"join",
         [](const Project& p, ShotIndex s, Hand&) {
             return s.at() + 1 < p.shots.size() && p.shot(s).photos.size() < 60 ? join_with_next(p, s) : p;
         }},
        {"remove shot", [](const Project& p, ShotIndex s,
                           Hand& h) { return p.shots.size() > 3 && h.number(0, 3) == 0 ? remove_shot(p, s) : p; }},
        {"rename",
         [](const Project& p, ShotIndex s, Hand& h) { return rename_shot(p, s, h.coin() ? "a" : "ü \"b\""); }},
        {"reverse", [](const Project& p, ShotIndex s, Hand&) { return reverse_shot(p, s); }},
        {"order", [](const Project& p, ShotIndex s,
                     Hand& h) { return order_shot(p, s, h.coin() ? PhotoOrder::by_name : PhotoOrder::by_time); }},
        {"turn", [](const Project& p, ShotIndex s,
                    Hand& h) { return turn_photos(p, s, h.photos(p.shot(s)), int(h.number(0, 5))); }},
        {"hold before", [](const Project& p, ShotIndex s, Hand& h) { return hold_before(p, s, h.photo(p.shot(s))); }},
        {"first of the film",
         [](const Project& p, ShotIndex s, Hand& h) { return set_first(p, s, h.photo(p.shot(s))); }},
        {"last of the film", [](const Project& p, ShotIndex s, Hand& h) { return set_last(p, s, h.photo(p.shot(s))); }},
        {"split part", [](const Project& p, ShotIndex s, Hand& h) { return split_part(p, s, h.photo(p.shot(s))); }},
        {"exchange",
         [](const Project& p, ShotIndex s, Hand& h) {
             const PhotoPtr old = p.shot(s).photos[h.photo(p.shot(s)).at()].photo;
             return replace_photos(p, s, std::array{Match{old, made_photo(int(h.number(5000, 6000)))}});
         }},
        {"backdrop",
         [](const Project& p, ShotIndex s, Hand& h) {
             return set_backdrop(p, s, h.coin() ? std::optional(Backdrop{1, 2, 3}) : std::nullopt);
         }},
    };
}

std::vector<Edit> edits_of_pace()
{
    return {
        {"hold", [](const Project& p, ShotIndex s, Hand& h) { return set_hold(p, s, h.photos(p.shot(s)), h.hold()); }},
        {"lengthen",
         [](const Project& p, ShotIndex s, Hand& h) { return lengthen(p, s, h.photos(p.shot(s)), h.number(-3, 3)); }},
        {"first hold", [](const Project& p, ShotIndex s, Hand& h) { return set_first_hold(p, s, h.hold()); }},
        {"last hold", [](const Project& p, ShotIndex s,
                         Hand& h) { return set_last_hold(p, s, h.coin() ? std::optional(h.hold()) : std::nullopt); }},
        {"spread", [](const Project& p, ShotIndex s,
                      Hand& h) { return spread_over(p, s, h.photos(p.shot(s)), {Fraction(h.number(1, 200), 24)}); }},
        {"fit", [](const Project& p, ShotIndex s,
                   Hand& h) { return fit_to(p, s, h.photos(p.shot(s)), {Fraction(h.number(1, 200), 24)}); }},
        {"speed",
         [](const Project& p, ShotIndex s, Hand& h) {
             return change_speed(p, s, h.photos(p.shot(s)), Fraction(h.number(1, 4), h.number(1, 4)));
         }},
        {"paced at", [](const Project& p, ShotIndex s,
                        Hand& h) { return set_paced_at(p, s, h.coin() ? std::optional(h.one(rates)) : std::nullopt); }},
        {"between", [](const Project& p, ShotIndex s, Hand& h) { return set_between(p, s, Between(h.number(0, 2))); }},
        {"to next", [](const Project& p, ShotIndex s,
                       Hand& h) { return set_to_next(p, s, h.photos(p.shot(s)), Between(h.number(0, 2))); }},
        {"version",
         [](const Project& p, ShotIndex s, Hand&) { return p.shots.size() < 12 ? keep_as_version(p, s) : p; }},
        {"every", [](const Project& p, ShotIndex s, Hand& h) { return set_keep_every(p, s, int(h.number(1, 4))); }},
        {"backwards", [](const Project& p, ShotIndex s, Hand& h) { return set_backwards(p, s, h.coin()); }},
        {"part backwards", [](const Project& p, ShotIndex s,
                              Hand& h) { return set_part_backwards(p, s, h.photos(p.shot(s)), h.coin()); }},
        {"joint", [](const Project& p, ShotIndex s, Hand& h) { return set_joint(p, s, int(h.number(0, 6))); }},
        {"there and back",
         [](const Project& p, ShotIndex s, Hand& h) { return set_there_and_back(p, s, Return(h.number(0, 2))); }},
        {"times",
         [](const Project& p, ShotIndex s, Hand& h) {
             return set_times(p, s, int(h.number(1, 3)),
                              h.coin() ? std::optional(Seconds{Fraction(h.number(1, 10))}) : std::nullopt);
         }},
        {"mark", [](const Project& p, ShotIndex s, Hand& h) { return toggle_mark(p, s, h.photo(p.shot(s))); }},
        {"aside at marks",
         [](const Project& p, ShotIndex s, Hand& h) { return set_aside_at_marks(p, s, h.number(1, 3)); }},
        {"keep from", [](const Project& p, ShotIndex s, Hand& h) { return keep_from(p, s, h.photo(p.shot(s))); }},
        {"keep to", [](const Project& p, ShotIndex s, Hand& h) { return keep_to(p, s, h.photo(p.shot(s))); }},
        {"slide", [](const Project& p, ShotIndex s, Hand& h) { return slide_kept(p, s, h.number(-4, 4)); }},
        {"fix length",
         [](const Project& p, ShotIndex s, Hand& h) {
             using Extent = std::optional<std::variant<PhotoCount, Seconds>>;
             const std::array<Extent, 3> extents{Extent(), Extent(PhotoCount{h.number(1, 5)}),
                                                 Extent(Seconds{Fraction(h.number(1, 60), 24)})};
             return fix_kept(p, s, h.one(extents));
         }},
        {"all is kept", [](const Project& p, ShotIndex s, Hand&) { return set_kept(p, s, {}); }},
        {"shutter", [](const Project& p, ShotIndex s, Hand& h) { return set_shutter(p, s, h.real(0, 360)); }},
        {"speed point",
         [](const Project& p, ShotIndex s, Hand& h) {
             return set_speed_at(p, s, h.photo(p.shot(s)), h.real(10, 400), Ease(h.number(0, 3)));
         }},
        {"no speed point",
         [](const Project& p, ShotIndex s, Hand& h) { return remove_speed_point(p, s, h.id(p.shot(s))); }},
        {"vary",
         [](const Project& p, ShotIndex s, Hand& h) {
             return vary_holds(p, s, h.photos(p.shot(s)), h.number(0, 2), unsigned(h.number(0, 99)));
         }},
        {"tapped",
         [](const Project& p, ShotIndex s, Hand& h) {
             return hold_as_tapped(p, s, h.photo(p.shot(s)), std::array{0.2, 0.5, 1.25});
         }},
        {"delivered at",
         [](const Project& p, ShotIndex, Hand& h) {
             return deliver_at(p, h.one(rates),
                               h.coin() ? RateIntent::same_photos_per_frame : RateIntent::same_clock_time);
         }},
    };
}

std::vector<Edit> edits_of_pictures()
{
    return {
        {"anchor",
         [](const Project& p, ShotIndex s, Hand& h) {
             Tone tone;
             tone.exposure = h.real(-2, 2);
             return set_anchor(p, s, h.photo(p.shot(s)), tone);
         }},
        {"no anchor", [](const Project& p, ShotIndex s, Hand& h) { return drop_anchor(p, s, h.photo(p.shot(s))); }},
        {"tone for all",
         [](const Project& p, ShotIndex s, Hand& h) { return same_tone_for_all(p, s, h.photo(p.shot(s))); }},
        {"no tone", [](const Project& p, ShotIndex s, Hand&) { return drop_tone(p, s); }},
        {"framing", [](const Project& p, ShotIndex s,
                       Hand& h) { return change_framing(p, s, [&](Framing& f) { f.straighten = h.real(-5, 5); }); }},
        {"view",
         [](const Project& p, ShotIndex s, Hand& h) {
             DriftView view;
             view.box = {h.real(0, 0.4), h.real(0, 0.4), h.real(0.1, 0.6), h.real(0.1, 0.6)};
             return set_view(p, s, h.photo(p.shot(s)), h.coin() ? std::optional(view) : std::nullopt);
         }},
        {"drift round", [](const Project& p, ShotIndex s, Hand&) { return turn_drift_round(p, s); }},
        {"lens",
         [](const Project& p, ShotIndex s, Hand& h) {
             return set_lens(p, s, {h.real(-0.1, 0.1), 0});
         }},
        {"dress",
         [](const Project& p, ShotIndex s, Hand& h) { return copy_dress(p, s, std::array{p.shot(h.shot(p)).id}); }},
        {"no dress", [](const Project& p, ShotIndex s, Hand&) { return drop_dress(p, s); }},
        {"spot",
         [](const Project& p, ShotIndex s, Hand& h) {
             Spot spot;
             spot.keys = {{h.id(p.shot(s)), {h.real(0, 1), h.real(0, 1)}}};
             spot.first = h.coin() ? std::optional(h.id(p.shot(s))) : std::nullopt;
             return add_spot(p, s, spot).project;
         }},
        {"plate", [](const Project& p, ShotIndex s, Hand& h) { return set_plate(p, s, h.id(p.shot(s))); }},
        {"made plate", [](const Project& p, ShotIndex s,
                          Hand& h) { return put_made_plate(p, s, made_photo(int(h.number(7000, 8000))), 5); }},
        {"state",
         [](const Project& p, ShotIndex s, Hand& h) {
             const auto [with, id] = add_state(p, s, "Lamp");
             return switch_state(with, s, h.photo(p.shot(s)), id);
         }},
        {"area",
         [](const Project& p, ShotIndex s, Hand& h) {
             Area area;
             area.keys = {{h.id(p.shot(s)), {0.1, 0.1, 0.5, 0.1, 0.5, h.real(0.2, 1)}}};
             area.shows = AreaShows(h.number(0, 2));
             area.other = h.id(p.shot(s));
             return add_area(p, s, area).first;
         }},
        {"layer",
         [](const Project& p, ShotIndex s, Hand& h) {
             const LayerHome home{p.shot(s).id};
             const auto with =
                 h.coin() ? add_drawing_layer(p, home, "Smoke") : add_film_layer(p, home, p.shot(h.shot(p)).id);
             return change_key(with.project, home, with.layer, h.time(), [&](LayerKey& k) { k.x = h.real(0, 1); });
         }},
        {"no layer",
         [](const Project& p, ShotIndex s, Hand&) {
             const LayerHome home{p.shot(s).id};
             const auto all = layers_of(p, home);
             return all.empty() ? p : remove_layer(p, home, all.back().id);
         }},
        {"card",
         [](const Project& p, ShotIndex s, Hand& h) {
             return p.shots.size() < 12 ? add_card(p, {.text = "Pier"}, "Pier", {Fraction(h.number(1, 4))}, s) : p;
         }},
    };
}

std::vector<Edit> edits_of_reel()
{
    const auto item = [](const Project& p, Hand& h) -> std::optional<ReelItemId> {
        const auto items = reel_items(p);
        return items.empty() ? std::nullopt : std::optional(h.one(std::span<const ReelItem>(items)).id);
    };
    return {
        {"into the Reel",
         [item](const Project& p, ShotIndex s, Hand& h) {
             return reel_items(p).size() < 20 ? add_to_reel(p, p.shot(s).id, item(p, h)) : p;
         }},
        {"out of the Reel",
         [item](const Project& p, ShotIndex, Hand& h) {
             const auto at = item(p, h);
             return at ? remove_from_reel(p, *at) : p;
         }},
        {"moved in the Reel",
         [item](const Project& p, ShotIndex, Hand& h) {
             const auto at = item(p, h);
             return at ? move_in_reel(p, *at, item(p, h)) : p;
         }},
        {"film of the Reel",
         [item](const Project& p, ShotIndex s, Hand& h) {
             const auto at = item(p, h);
             return !at ? p : change_reel_item(p, *at, [&](ReelItem& i) {
                 i.speed = Fraction(h.number(1, 4), h.number(1, 4));
                 i.join.kind = JoinKind(h.number(0, 3));
                 i.join.place = JoinPlace(h.number(0, 2));
                 i.join.length = h.time();
                 i.lasts = h.coin() ? std::optional(h.time()) : std::nullopt;
                 i.first = h.coin() ? std::optional(h.id(p.shot(s))) : std::nullopt;
                 i.last = h.coin() ? std::optional(h.id(p.shot(s))) : std::nullopt;
             });
         }},
        {"marker",
         [](const Project& p, ShotIndex, Hand& h) { return set_marker(p, h.time(), h.coin() ? "here" : ""); }},
        {"sound",
         [](const Project& p, ShotIndex, Hand& h) {
             Sound sound;
             sound.file = "/films/harbour/waves.wav";
             sound.file_length = sound.end = {Fraction(h.number(1, 9))};
             sound.at = h.time();
             return p.reel.sound.sounds.size() < 6 ? add_sound(p, sound) : p;
         }},
        {"split sound",
         [](const Project& p, ShotIndex, Hand& h) {
             const auto& sounds = p.reel.sound.sounds;
             return sounds.empty() || sounds.size() > 8 ? p : split_sound(p, sounds.front().id, h.time());
         }},
        {"remedy",
         [](const Project& p, ShotIndex, Hand& h) { return with_remedy(p, LengthRemedy(h.number(0, 6))).value_or(p); }},
        {"beats",
         [](const Project& p, ShotIndex, Hand& h) {
             return cuts_to_beats(change_reel(p, [&](Reel& reel) {
                 reel.sound.beats = {h.time(), h.time(), h.time()};
             }));
         }},
    };
}

/// What holds of every project.
void check_project(const Project& p, Hand& h)
{
    std::set<std::uint64_t> ids;
    std::set<std::string> names;
    for (const ShotPtr& shot : p.shots) {
        CHECK(ids.insert(shot->id.value).second);
        CHECK(names.insert(shot->name).second);
        CHECK_FALSE(shot->photos.empty());
        std::set<std::uint64_t> photos; // versions of a shot share them
        for (const ShotPhoto& photo : shot->photos) {
            CHECK(photos.insert(photo.id.value).second);
            CHECK(length_of(photo.hold, p.delivered_at).value >= Fraction(0));
        }
        // The page is its film with what is left out before and after it, and its spans follow each other.
        const DisplayTimeline page = display_timeline(p, *shot);
        CHECK(page.kept_begin.value >= 0);
        CHECK(page.kept_begin <= page.kept_end);
        CHECK(page.kept_end.value <= page.schedule.frames());
        CHECK(page.film.frames() == schedule_of(p, *shot).frames());
        FrameIndex at(0);
        for (const FrameSpan& span : page.film.spans()) {
            CHECK(span.begin == at);
            CHECK(span.photo.at() < shot->photos.size());
            at = span.end;
        }
        CHECK(at.value == page.film.frames());
    }
    // The Reel is its parts, and every frame of it, and of films, is one that can be asked for.
    const auto reel = reel_of(p);
    std::int64_t frames = 0;
    for (const ReelPart& part : reel->parts()) {
        CHECK(part.frames.begin.value == frames);
        frames = part.frames.end.value;
    }
    CHECK(reel->frames() == frames);
    const auto ask = [&](const Timeline& film) {
        constexpr int frames_asked = 4;
        const cv::Size size = film.size();
        for (int i = 0; i < frames_asked && film.frames() > 0 && !size.empty(); ++i)
            CHECK(film.frame(FrameIndex(h.number(0, film.frames() - 1)), {.size = size}).size == size);
        std::int64_t run = 0;
        for (const FrameRange& r : film.runs()) {
            CHECK(r.begin.value == run);
            run = r.end.value;
        }
        CHECK(run == film.frames());
    };
    ask(*reel);
    ask(*film_of(p, h.shot(p)));
    CHECK(project_of_text(project_text(p, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo") == p);
}

void walk(unsigned seed, int edits)
{
    CAPTURE(seed);
    Hand hand(seed);
    std::vector<Edit> all;
    for (const auto& some : {edits_of_order(), edits_of_pace(), edits_of_pictures(), edits_of_reel()})
        all.insert(all.end(), some.begin(), some.end());
    History history(made_project());
    std::vector<Project> been{history.current()};
    std::string way;
    int refused = 0;
    for (int i = 0; i < edits; ++i) {
        const Edit& edit = hand.one(std::span<const Edit>(all));
        way += std::string(way.empty() ? "" : ", ") + edit.name;
        INFO("edit " << i << ": " << edit.name);
        const Project before = history.current(), kept = before;
        try {
            const Project after = edit.make(before, hand.shot(before), hand);
            require_exact(after, before); // as the window does
            if (history.push(after, edit.name))
                been.push_back(after);
        } catch (const Failure& f) { // said, and nothing is changed
            CHECK_FALSE(f.problem().text().empty());
            ++refused;
        }
        REQUIRE(before == kept);
        if (i % 5 == 0 || i + 1 == edits)
            check_project(history.current(), hand);
    }
    CHECK(refused * 4 < edits); // or it would have tried little
    CHECK(been.size() * 3 > std::size_t(edits));
    // All the way back, and on again.
    REQUIRE(history.steps() == been.size());
    for (std::size_t i = been.size(); i-- > 1;) {
        CHECK(history.current() == been[i]);
        history.undo();
    }
    CHECK(history.current() == been.front());
    while (history.can_redo())
        history.redo();
    CHECK(history.current() == been.back());
}

}

TEST_CASE("whatever edits follow each other, a project can be shown, saved and taken back", "[project][edits][walk]")
{
    if (const char* wish = std::getenv("FRENLO_WALK")) {
        char* colon = nullptr;
        const auto seed = unsigned(std::strtoul(wish, &colon, 10));
        walk(seed, *colon == ':' ? std::atoi(colon + 1) : 300);
        return;
    }
    for (unsigned seed = 1; seed <= 16; ++seed)
        walk(seed, 200);
}

}
