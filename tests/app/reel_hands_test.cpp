// Carrying on the Reel's page: films by their names, joins by their ends, sounds and their ends on the waveform.
#include "core/project/edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "core/timeline/reel_timeline.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QTabBar>

#include <array>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// A Reel of three shots of 12 frames each, on the screen.
class OnReel : public Person
{
public:
    OnReel()
    {
        for (const char* name : {"one", "two", "three"}) {
            write_run(folder() / name, name, 12, {96, 64});
            bring_in(folder() / name);
        }
        for (int shot = 0; shot < 3; ++shot)
            window().session().apply(
                [&](const Project& p) {
                    std::vector<PhotoIndex> all;
                    for (int i = 0; i < 12; ++i)
                        all.emplace_back(i);
                    return set_hold(p, ShotIndex(shot), all, Frames{1});
                },
                q("on ones"));
        window().viewing().show_reel();
        wait_for_pictures();
    }

    [[nodiscard]] std::vector<std::string> films()
    {
        std::vector<std::string> names;
        const auto film = reel_of(window().session().project());
        for (const ReelPart& part : film->parts())
            names.push_back(part.shot->name);
        return names;
    }
    [[nodiscard]] const Reel& reel() { return window().session().project().reel; }
    /// Where a frame begins, so far down its tile (0 to 1; above 1 in the strip below).
    [[nodiscard]] QPoint at(std::int64_t frame, double down)
    {
        const QRect r = sheet().frame_in_view(FrameIndex(frame));
        return {r.left(), r.top() + int(down * r.height())};
    }
    /// On the waveform below a frame.
    [[nodiscard]] QPoint on_wave(std::int64_t frame)
    {
        const QRect r = sheet().frame_in_view(FrameIndex(frame));
        return {r.left(), r.bottom() + 1 + 18 + 13};
    }
    [[nodiscard]] std::int64_t frames(Seconds time) { return (time.value * Fraction(24)).rounded(); }
};

}

TEST_CASE("A film is carried by its name to another cut, and a join is pulled by its end", "[reel][hands]")
{
    OnReel p;
    REQUIRE(p.films() == std::vector<std::string>{"one", "two", "three"});
    // By its name, which stands at the top of its first frame, to the end.
    p.drag_on_sheet(p.at(0, 0.08) + QPoint(6, 0), p.at(35, 0.5) + QPoint(2, 0));
    CHECK(p.films() == std::vector<std::string>{"two", "three", "one"});
    p.drag_on_sheet(p.at(24, 0.08) + QPoint(6, 0), p.at(1, 0.5));
    CHECK(p.films() == std::vector<std::string>{"one", "two", "three"});
    // To where it stands nothing happens: not even a step of undo.
    const QString last = p.window().session().undo_name();
    p.drag_on_sheet(p.at(12, 0.08) + QPoint(6, 0), p.at(13, 0.5));
    CHECK(p.films() == std::vector<std::string>{"one", "two", "three"});
    CHECK(p.window().session().undo_name() == last);
    p.click(q("Undo"));
    p.click(q("Undo"));
    CHECK(p.films() == std::vector<std::string>{"one", "two", "three"});

    const auto items = reel_items(p.window().session().project());
    p.window().session().apply(
        [&](const Project& project) {
            return change_reel_item(project, items[0].id, [](ReelItem& item) {
                item.join.kind = JoinKind::dissolve;
                item.join.length = {Fraction(4, 24)};
            });
        },
        q("join"));
    p.wait_for_pictures();
    // Two frames before the cut to two behind it: its left end is pulled to four before it.
    p.drag_on_sheet(p.at(10, 0.6), p.at(8, 0.6));
    CHECK(p.frames(reel_items(p.window().session().project())[0].join.length) == 8);
    p.click(q("Undo")); // one pull is one step
    CHECK(p.frames(reel_items(p.window().session().project())[0].join.length) == 4);
}

TEST_CASE("Sounds are carried on the waveform, pulled open and shut, and meet cuts and beats", "[reel][hands][sound]")
{
    OnReel p;
    const auto file = p.folder() / "tone.wav";
    output_of("ffmpeg -v error -y -f lavfi -i sine=440:r=48000:d=2 " + quoted(file.string()));
    p.window().session().apply(
        [&](const Project& project) {
            Project with = add_sound(project, whole_sound(file, {}, {}));
            const SoundId id = with.reel.sound.sounds[0].id;
            return change_sound(with, id, [](Sound& s) { // half a second, out of its middle
                s.at = {Fraction(2, 24)};
                s.begin = {Fraction(1, 2)};
                s.end = {Fraction(1)};
            });
        },
        q("a sound"));
    p.window().viewing().set_step("sound");
    p.wait_for_pictures();
    const auto sound = [&]() -> const Sound& { return p.reel().sound.sounds.at(0); };
    REQUIRE(p.frames(sound().at) == 2);
    REQUIRE(p.frames(sound().until()) == 14);
    // By its middle, three frames on: its own length stays.
    p.drag_on_sheet(p.on_wave(8) + QPoint(3, 0), p.on_wave(11) + QPoint(3, 0));
    CHECK(p.frames(sound().at) == 5);
    CHECK(p.frames(sound().length()) == 12);
    // Near the cut at frame 12 its begin falls on it.
    p.drag_on_sheet(p.on_wave(10), p.on_wave(17) + QPoint(3, 0));
    CHECK(p.frames(sound().at) == 12);
    // Its end is pulled open again: what was cut is back.
    p.drag_on_sheet(p.on_wave(24), p.on_wave(30));
    CHECK(p.frames(sound().length()) == 18);
    CHECK(sound().end == Seconds{Fraction(1, 2) + Fraction(18, 24)});
    // Its begin is cut, without what is heard being moved.
    p.drag_on_sheet(p.on_wave(12), p.on_wave(15));
    CHECK(p.frames(sound().at) == 15);
    CHECK(sound().begin == Seconds{Fraction(1, 2) + Fraction(3, 24)});
    CHECK(sound().end == Seconds{Fraction(1, 2) + Fraction(18, 24)});
    // Four pulls are four steps.
    for (int i = 0; i < 4; ++i)
        p.click(q("Undo"));
    CHECK(p.frames(sound().at) == 2);
    CHECK(sound().end == Seconds{Fraction(1)});
    // Beyond the file's ends there is nothing to pull open.
    p.drag_on_sheet(p.on_wave(14), p.on_wave(35));
    CHECK(sound().end.value <= sound().file_length.value);
    p.drag_on_sheet(p.on_wave(2), p.on_wave(0));
    CHECK(sound().begin.value >= Fraction(0));
    CHECK(sound().at.value >= Fraction(0));
}

}
