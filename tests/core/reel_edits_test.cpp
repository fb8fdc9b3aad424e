// What is done to the Reel by hand: order, joins, markers, sounds and where they end. No picture is made here.
#include "core/project/project_json.h"
#include "core/steps/reel/reel_edits.h"
#include "core/time/hold.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <numeric>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

ReelItemId item_at(const Project& p, std::size_t i)
{
    return reel_items(p).at(i).id;
}

std::string order(const Project& p)
{
    std::string names;
    const auto reel = reel_of(p);
    for (const ReelPart& part : reel->parts())
        names += part.shot->name;
    return names;
}

std::vector<std::int64_t> lengths(const Project& p)
{
    std::vector<std::int64_t> all;
    const auto reel = reel_of(p);
    for (const ReelPart& part : reel->parts())
        all.push_back(part.frames.frames());
    return all;
}

Seconds s(std::int64_t num, std::int64_t den = 1)
{
    return {Fraction(num, den)};
}

/// A sound of so many seconds that begins there; its file is never read here.
Sound sound(Seconds length, Seconds at = {})
{
    Sound made;
    made.file = "/films/harbour/waves.wav";
    made.file_length = made.end = length;
    made.at = at;
    return made;
}

const Sound& only_sound(const Project& p)
{
    REQUIRE(p.reel.sound.sounds.size() == 1);
    return p.reel.sound.sounds[0];
}

}

TEST_CASE("films of the Reel are moved before others, or to its end, and a move to where one is changes nothing",
          "[reel][edits]")
{
    const Project p = made_project();
    REQUIRE(order(p) == "abc");
    CHECK(order(move_in_reel(p, item_at(p, 2), item_at(p, 0))) == "cab");
    CHECK(order(move_in_reel(p, item_at(p, 0), item_at(p, 2))) == "bac");
    CHECK(order(move_in_reel(p, item_at(p, 0), {})) == "bca");
    CHECK(order(move_in_reel(p, item_at(p, 1), item_at(p, 2))) == "abc");
    CHECK(move_in_reel(p, item_at(p, 1), item_at(p, 1)) == p);
    CHECK(move_in_reel(p, ReelItemId{12345}, item_at(p, 1)) == p);
    // Before one that is not there: to the end, as before none.
    CHECK(order(move_in_reel(p, item_at(p, 0), ReelItemId{12345})) == "bca");
}

TEST_CASE("a shot is in the Reel as often as it was put there, each with its own speed, and taken out one by one",
          "[reel][edits]")
{
    Project p = made_project();
    p = add_to_reel(p, p.shots[0]->id, item_at(p, 2));
    p = add_to_reel(p, p.shots[0]->id);
    REQUIRE(order(p) == "abaca");
    p = change_reel_item(p, item_at(p, 2), [](ReelItem& i) { i.speed = Fraction(2); });
    p = change_reel_item(p, item_at(p, 4), [](ReelItem& i) { i.speed = Fraction(1, 2); });
    CHECK(lengths(p) == std::vector<std::int64_t>{12, 12, 6, 10, 24});
    p = remove_from_reel(p, item_at(p, 0));
    CHECK(order(p) == "baca");
    CHECK(lengths(p) == std::vector<std::int64_t>{12, 6, 10, 24});
    CHECK(p.reel.left_out.empty()); // it is there still
    p = remove_from_reel(remove_from_reel(p, item_at(p, 3)), item_at(p, 1));
    CHECK(order(p) == "bc");
    CHECK(p.reel.left_out == std::vector{p.shots[0]->id});
    CHECK(order(add_to_reel(p, p.shots[0]->id)) == "bca");
    CHECK(add_to_reel(p, ShotId{999}) == p);
    CHECK(remove_from_reel(p, ReelItemId{999}) == p);
}

TEST_CASE("a Reel that is set keeps what was set of the films that stay", "[reel][edits]")
{
    Project p = made_project();
    p = change_reel_item(p, item_at(p, 1), [](ReelItem& i) {
        i.join.kind = JoinKind::dip;
        i.lasts = s(1);
    });
    const ShotId a = p.shots[0]->id, b = p.shots[1]->id;
    const Project set = set_reel(p, std::array{b, a, b, ShotId{999}});
    CHECK(order(set) == "bab"); // one that is not there is left away
    CHECK(reel_items(set)[0].join.kind == JoinKind::dip);
    CHECK(reel_items(set)[2].join.kind == JoinKind::cut); // the second time is new
    CHECK(lengths(set) == std::vector<std::int64_t>{24, 12, 12});
    CHECK(order(set_reel(p, {})).empty());
    CHECK(reel_of(set_reel(p, {}))->frames() == 0);
}

TEST_CASE("values of a film in the Reel that cannot be are put right, and its identity stays", "[reel][edits]")
{
    const Project p = made_project();
    const ReelItemId id = item_at(p, 0);
    const auto changed = [&](const std::function<void(ReelItem&)>& change) {
        return reel_items(change_reel_item(p, id, change))[0];
    };
    CHECK(changed([](ReelItem& i) { i.speed = Fraction(1'000'000); }).speed == Fraction(most_reel_speed));
    CHECK(changed([](ReelItem& i) { i.speed = Fraction(-3); }).speed == Fraction(1, most_reel_speed));
    CHECK(changed([](ReelItem& i) { i.join.length = s(-1); }).join.length == s(0));
    CHECK(changed([](ReelItem& i) { i.join.length = s(100'000); }).join.length == s(60));
    CHECK(changed([](ReelItem& i) { i.lasts = s(0); }).lasts == s(1, 1000));
    CHECK(changed([](ReelItem& i) { i.id = ReelItemId{1}; }).id == id);
    CHECK(change_reel_item(p, id, [](ReelItem&) {}) == p);
    CHECK(change_reel_item(p, ReelItemId{1}, [](ReelItem& i) { i.speed = Fraction(9); }) == p);
}

TEST_CASE("markers stay in order of time, one at a time", "[reel][edits]")
{
    Project p = made_project();
    p = set_marker(p, s(2), "Out");
    p = set_marker(p, s(1, 2), "Harbour");
    p = set_marker(p, s(1), "Gull");
    const auto texts = [](const Project& of) {
        std::vector<std::string> all;
        for (const ReelMarker& m : of.reel.markers)
            all.push_back(m.text);
        return all;
    };
    CHECK(texts(p) == std::vector<std::string>{"Harbour", "Gull", "Out"});
    p = set_marker(p, s(1), "Two gulls");
    CHECK(texts(p) == std::vector<std::string>{"Harbour", "Two gulls", "Out"});
    p = set_marker(p, s(1, 2), "");
    CHECK(texts(p) == std::vector<std::string>{"Two gulls", "Out"});
    CHECK(set_marker(p, s(7), "") == p);
}

TEST_CASE("a sound is put right however it is set, and always lies within its file", "[reel][edits][sound]")
{
    const Project p = add_sound(made_project(), sound(s(4)));
    const SoundId id = only_sound(p).id;
    const auto changed = [&](const std::function<void(Sound&)>& change) {
        return only_sound(change_sound(p, id, change));
    };
    // Whatever two numbers are set for each field, it is a sound that can be heard afterwards.
    const std::array values{s(-5), s(0), s(1, 3), s(2), s(4), s(1'000'000)};
    for (const Seconds a : values)
        for (const Seconds b : values) {
            const Sound made = changed([&](Sound& x) {
                x.begin = a;
                x.end = b;
                x.at = a;
                x.fade_in = b;
                x.fade_out = a;
                x.lasts = b;
            });
            CAPTURE(a.value.num(), a.value.den(), b.value.num(), b.value.den());
            CHECK(made.begin >= s(0));
            CHECK(made.end > made.begin);
            CHECK(made.end <= made.file_length);
            CHECK(made.at >= s(0));
            CHECK(made.length() > s(0));
            CHECK(made.fade_in >= s(0));
            CHECK(made.fade_out >= s(0));
            CHECK(made.fade_in.value + made.fade_out.value <= made.length().value);
        }
    CHECK(changed([](Sound& x) { x.id = SoundId{1}; }).id == id);
    CHECK(changed([](Sound& x) { x.level_db = -1000; }).level_db == least_level_db);
    // Going round for less than once is not going round.
    CHECK_FALSE(changed([](Sound& x) { x.lasts = s(3); }).lasts);
    CHECK(changed([](Sound& x) { x.lasts = s(9); }).length() == s(9));
    CHECK(change_sound(p, SoundId{1}, [](Sound& x) { x.level_db = 3; }) == p);
}

TEST_CASE("sounds are removed, and what names none changes nothing", "[reel][edits][sound]")
{
    Project p = add_sound(add_sound(made_project(), sound(s(4))), sound(s(2), s(5)));
    REQUIRE(p.reel.sound.sounds.size() == 2);
    CHECK(p.reel.sound.sounds[0].id != p.reel.sound.sounds[1].id);
    CHECK(reel_sound_frames(p) == 7 * 24);
    CHECK(remove_sound(p, SoundId{1}) == p);
    const Project one = remove_sound(p, p.reel.sound.sounds[1].id);
    CHECK(only_sound(one) == p.reel.sound.sounds[0]);
    CHECK(reel_sound_frames(one) == 4 * 24);
    // One that is muted is not heard, so that its end is nobody's.
    CHECK(reel_sound_frames(change_sound(one, only_sound(one).id, [](Sound& x) { x.muted = true; })) == 0);
    CHECK(remove_sound(one, only_sound(one).id).reel.sound.sounds.empty());
}

TEST_CASE("a sound is split where the Reel is, whatever its tempo, and nothing of the file is lost or heard twice",
          "[reel][edits][sound]")
{
    const Project p = add_sound(made_project(), sound(s(6), s(1)));
    for (const Fraction tempo : {Fraction(1, 2), Fraction(1), Fraction(5, 4), Fraction(2)})
        for (const Seconds at : {s(3, 2), s(7, 3), s(7, 2)}) {
            const Project tempoed = change_sound(p, only_sound(p).id, [&](Sound& x) { x.tempo = tempo; });
            const Project split = split_sound(tempoed, only_sound(p).id, at);
            CAPTURE(tempo.num(), tempo.den(), at.value.num(), at.value.den());
            REQUIRE(split.reel.sound.sounds.size() == 2);
            const Sound &first = split.reel.sound.sounds[0], &second = split.reel.sound.sounds[1];
            CHECK(first.until() == at);
            CHECK(second.at == at);
            CHECK(first.end == second.begin);
            CHECK(first.begin == s(0));
            CHECK(second.end == s(6));
            CHECK(second.until() == only_sound(tempoed).until());
            CHECK(first.id != second.id);
        }
    CHECK(split_sound(p, only_sound(p).id, s(1)) == p); // at its ends there is nothing to split
    CHECK(split_sound(p, only_sound(p).id, s(7)) == p);
    const Project round = change_sound(p, only_sound(p).id, [](Sound& x) { x.lasts = s(20); });
    CHECK(split_sound(round, only_sound(round).id, s(3)) == round);
}

TEST_CASE("sounds that overlap are faded into each other over what they have in common", "[reel][edits][sound]")
{
    const Project p = add_sound(add_sound(made_project(), sound(s(4))), sound(s(6), s(3)));
    const SoundId a = p.reel.sound.sounds[0].id, b = p.reel.sound.sounds[1].id;
    const Project faded = cross_fade(p, a, b);
    CHECK(faded.reel.sound.sounds[0].fade_out == s(1));
    CHECK(faded.reel.sound.sounds[1].fade_in == s(1));
    CHECK(faded.reel.sound.sounds[0].fade_in == s(0));
    CHECK(cross_fade(p, b, a) == faded); // whichever is named first
    CHECK(cross_fade(p, a, a) == p);
    CHECK(cross_fade(p, a, SoundId{1}) == p);
    // One that only touches the other, and one that lies within it.
    const auto second_at = [&](Seconds at, Seconds end) {
        return change_sound(p, b, [&](Sound& x) {
            x.at = at;
            x.end = end;
        });
    };
    const Project touching = second_at(s(4), s(6)), within = second_at(s(1), s(2));
    CHECK(cross_fade(touching, a, b) == touching);
    CHECK(cross_fade(within, a, b) == within);
}

TEST_CASE("what is longer is told to the frame at every rate", "[reel][edits][lengths]")
{
    const Project p = add_sound(made_project(), sound(s(2)));
    for (const Rate rate : {Rate(Fraction(24)), Rate(Fraction(25)), Rate(Fraction(30'000, 1001)), Rate(Fraction(60))}) {
        Project at = p;
        at.delivered_at = rate;
        const ReelLengths now = reel_lengths(at);
        CAPTURE(rate.text());
        CHECK(now.picture == reel_of(at)->frames());
        CHECK(now.sound == (Fraction(2) * rate.value()).rounded());
        CHECK(now.picture_longer_by() == now.picture - now.sound);
    }
}

TEST_CASE("remedies bring picture and sound to one length at every rate, or are not offered", "[reel][edits][lengths]")
{
    const std::array all{LengthRemedy::fit_picture, LengthRemedy::repeat_shot, LengthRemedy::hold_last,
                         LengthRemedy::cut_sound,   LengthRemedy::fade_sound,  LengthRemedy::loop_sound,
                         LengthRemedy::change_tempo};
    int helped = 0;
    for (const Seconds length : {s(1), s(7, 5), s(2), s(61, 20), s(7)})
        for (const Rate rate : {Rate(Fraction(24)), Rate(Fraction(30'000, 1001))})
            for (const LengthRemedy remedy : all) {
                Project p = add_sound(made_project(), sound(length));
                p.delivered_at = rate;
                const auto after = with_remedy(p, remedy);
                if (!after)
                    continue;
                ++helped;
                const ReelLengths then = reel_lengths(*after);
                CAPTURE(int(remedy), length.value.num(), length.value.den(), rate.text(), then.picture, then.sound);
                if (remedy == LengthRemedy::repeat_shot)
                    CHECK(then.picture >= then.sound); // whole shots: what is over is told then
                else
                    CHECK(then.picture == then.sound);
                CHECK_FALSE(*after == p);
                CHECK(after->shots == p.shots); // no remedy touches the shots themselves
            }
    CHECK(helped > 30); // the checks above saw many
}

TEST_CASE("nothing is offered where there is no sound, no picture, or nothing to do", "[reel][edits][lengths]")
{
    const Project silent = made_project();
    const Project muted = [&] {
        const Project p = add_sound(silent, sound(s(9)));
        return change_sound(p, only_sound(p).id, [](Sound& x) { x.muted = true; });
    }();
    const Project blind = add_sound(Project{}, sound(s(9)));
    const Project even = add_sound(silent, sound(s(34, 24)));
    REQUIRE(reel_lengths(even).picture_longer_by() == 0);
    for (const Project& p : {silent, muted, blind, even})
        for (int remedy = 0; remedy <= int(LengthRemedy::change_tempo); ++remedy)
            CHECK_FALSE(with_remedy(p, LengthRemedy(remedy)));
}

TEST_CASE("cuts go to the beats that are near, those that are far stay", "[reel][edits][beats]")
{
    Project p = made_project(); // cuts at 12, 24 and 34
    const auto beats = [&](std::vector<std::int64_t> frames) {
        return change_reel(p, [&](Reel& reel) {
            for (const std::int64_t f : frames)
                reel.sound.beats.push_back(length_of(f, Rate(24)));
        });
    };
    CHECK(lengths(cuts_to_beats(beats({13, 23, 34}))) == std::vector<std::int64_t>{13, 10, 11});
    CHECK(cuts_to_beats(p) == p);
    // 100 is nobody's: farther than the half of every film.
    CHECK(cuts_to_beats(beats({100})) == beats({100}));
    CHECK(cuts_to_beats(beats({12, 24, 34})) == beats({12, 24, 34}));
}

TEST_CASE("what a film of the Reel shows of its shot changes on the beats that lie in it", "[reel][edits][beats]")
{
    Project p = made_project();
    p = change_reel(p, [](Reel& reel) {
        for (const std::int64_t f : {3, 15, 21, 30})
            reel.sound.beats.push_back(length_of(f, Rate(24)));
    });
    const auto film = reel_of(p);
    const Project fitted = film_to_beats(p, film->parts()[1]); // b: frames 12 to 24, photos change every second frame
    std::vector<std::int64_t> ends;
    std::int64_t frame = 12;
    for (const HeldPhoto& photo : held_photos(fitted.shot(ShotIndex(1)))) {
        const Frames* frames = std::get_if<Frames>(&photo.hold);
        REQUIRE(frames);
        ends.push_back(frame += frames->count);
    }
    CHECK(ends.back() == 24); // as long as before
    CHECK(std::find(ends.begin(), ends.end(), 15) != ends.end());
    CHECK(std::find(ends.begin(), ends.end(), 21) != ends.end());
    CHECK(std::is_sorted(ends.begin(), ends.end()));
    CHECK(fitted.shots[0] == p.shots[0]);
    CHECK(fitted.shots[2] == p.shots[2]);
}

TEST_CASE("the Reel survives its file, whatever was done to it", "[reel][edits][json]")
{
    Project p = add_sound(add_sound(made_project(), sound(s(4))), sound(s(6), s(3)));
    p = cross_fade(p, p.reel.sound.sounds[0].id, p.reel.sound.sounds[1].id);
    p = set_marker(set_marker(p, s(1, 3), "One third"), s(2), "\"Two\" \\ ü");
    p = add_to_reel(p, p.shots[1]->id, item_at(p, 0));
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) {
        i.speed = Fraction(30'000, 1001);
        i.join = {JoinKind::wipe, s(7, 24), JoinPlace::after, {1, 2, 3}, -45, 80};
    });
    p = remove_from_reel(p, item_at(p, 3));
    p = change_reel(p, [](Reel& reel) {
        reel.frame = cv::Size(1080, 1350);
        reel.fit = ReelFit::fill;
        reel.sound.loudness = -14;
        reel.sound.words.push_back({s(1), s(5, 4), "ah"});
    });
    CHECK(project_of_text(project_text(p, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo") == p);
    CHECK(change_reel(p, [](Reel& reel) { reel.sound.loudness = 12; }).reel.sound.loudness == 0);
}

TEST_CASE("a film in the Reel keeps a range of its own, whatever its shot keeps", "[reel][edits]")
{
    Project p = made_project();
    const auto photo = [&](std::size_t i) { return p.shots[1]->photos[i].id; };
    const ReelItemId id = item_at(p, 1);
    const auto length = [&](const Project& of) { return reel_of(of)->parts()[1].frames.frames(); };
    const Project part = change_reel_item(p, id, [&](ReelItem& i) {
        i.first = photo(1);
        i.last = photo(3);
    });
    CHECK(length(part) == 6); // three photos of two frames
    CHECK(schedule_of(part, *part.shots[1]).frames() == 12);
    // Open at one end, and with a photo that is gone: as if nothing was said of that end.
    CHECK(length(change_reel_item(p, id, [&](ReelItem& i) { i.first = photo(4); })) == 4);
    CHECK(length(change_reel_item(p, id, [&](ReelItem& i) { i.last = photo(0); })) == 2);
    CHECK(length(change_reel_item(p, id, [&](ReelItem& i) { i.last = PhotoId{1}; })) == 12);
    // Cut short and held: what was set to last does so to the frame.
    for (const std::int64_t frames : {1, 5, 12, 40}) {
        const Project lasting = change_reel_item(p, id, [&](ReelItem& i) { i.lasts = length_of(frames, Rate(24)); });
        CAPTURE(frames);
        CHECK(length(lasting) == frames);
        const auto film = reel_of(lasting);
        const auto at = [&](std::int64_t f) { return film->frame(FrameIndex(f), {.size = film->size()}); };
        const std::int64_t begin = film->parts()[1].frames.begin.value;
        if (frames > 12) // the last photo stays
            CHECK(at(begin + frames - 1) == at(begin + 11));
    }
}

}
