// The Reel: order, joins, lengths; what its frames show, rendered.
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/open_files.h"
#include "core/source/transfer.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/reel/reel_edits.h"
#include "core/timeline/reel_timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <array>
#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const cv::Size size(48, 32);

/// Flat photos of these greys, so many frames each.
Shot flats(const std::filesystem::path& folder, const std::string& name, const std::vector<int>& greys,
           std::int64_t frames, cv::Size of = size)
{
    Shot shot;
    shot.name = name;
    for (std::size_t i = 0; i < greys.size(); ++i) {
        const auto file = folder / (name + std::to_string(i) + ".png");
        write_picture(file, cv::Mat(of, CV_8UC3, cv::Scalar::all(greys[i])));
        shot.photos.push_back({scanned(file), Frames{frames}});
    }
    return shot;
}

/// Three shots: a (4 photos of 3 frames), b (6 of 2), c (2 of 5).
Project three(const std::filesystem::path& folder)
{
    Project p;
    p = add_shot(p, flats(folder, "a", {10, 60, 110, 160}, 3));
    p = add_shot(p, flats(folder, "b", {240, 220, 200, 180, 140, 100}, 2));
    return add_shot(p, flats(folder, "c", {30, 230}, 5));
}

int grey_at(const ReelTimeline& film, std::int64_t frame, cv::Point at = {24, 16})
{
    const auto m = render(film.frame(FrameIndex(frame), {.size = size}), Originals());
    REQUIRE(m);
    return m->at<cv::Vec3b>(at)[1];
}

std::vector<std::string> names(const ReelTimeline& film)
{
    std::vector<std::string> all;
    for (const ReelPart& p : film.parts())
        all.push_back(p.shot->name);
    return all;
}

ReelItemId item_at(const Project& p, std::size_t i)
{
    return reel_items(p).at(i).id;
}

/// sRGB's code for the mean of two codes in linear light (IEC 61966-2-1).
double mixed_code(double a, double b, double share)
{
    return 255 * encoded_of((1 - share) * linear_of(a / 255) + share * linear_of(b / 255));
}

}

TEST_CASE("all shots follow one another, new ones at the end, unless they are left out", "[reel]")
{
    TempFolder t;
    Project p = three(t / "p");
    const auto film = reel_of(p);
    CHECK(names(*film) == std::vector<std::string>{"a", "b", "c"});
    CHECK(film->frames() == 4 * 3 + 6 * 2 + 2 * 5);
    CHECK(grey_at(*film, 0) == 10);
    CHECK(grey_at(*film, 4 * 3 - 1) == 160);
    CHECK(grey_at(*film, 4 * 3) == 240);
    CHECK(grey_at(*film, 33) == 230);

    p = remove_from_reel(p, item_at(p, 1));
    CHECK(names(*reel_of(p)) == std::vector<std::string>{"a", "c"});
    p = add_shot(p, flats(t / "q", "d", {50}, 4));
    CHECK(names(*reel_of(p)) == std::vector<std::string>{"a", "c", "d"});
    p = move_in_reel(p, item_at(p, 2), item_at(p, 0));
    p = add_to_reel(p, p.shot(ShotIndex(0)).id);
    CHECK(names(*reel_of(p)) == std::vector<std::string>{"d", "a", "c", "a"});
    p = set_reel(p, std::array{p.shot(ShotIndex(2)).id, p.shot(ShotIndex(2)).id});
    CHECK(names(*reel_of(p)) == std::vector<std::string>{"c", "c"});
    CHECK(item_at(p, 0) != item_at(p, 1));

    // A shot that goes takes its items along, and brings them back when it is back.
    const Project without = remove_shot(p, ShotIndex(2));
    CHECK(reel_of(without)->frames() == 0);
    const auto file = t / "r.frenlo";
    save_project(p, file);
    CHECK(load_project(file).project.reel == p.reel);
}

TEST_CASE("what is changed in a shot changes in the Reel, each item with a range and a speed of its own", "[reel]")
{
    TempFolder t;
    Project p = three(t / "p");
    p = set_reel(p, std::array{p.shot(ShotIndex(1)).id, p.shot(ShotIndex(1)).id});
    p = change_reel_item(p, item_at(p, 1), [&](ReelItem& i) {
        i.first = p.shot(ShotIndex(1)).photos[1].id;
        i.last = p.shot(ShotIndex(1)).photos[3].id;
        i.speed = Fraction(1, 2);
    });
    const auto film = reel_of(p);
    CHECK(film->frames() == 6 * 2 + 3 * 2 * 2);
    CHECK(grey_at(*film, 12) == 220);
    CHECK(grey_at(*film, 15) == 220);
    CHECK(grey_at(*film, 16) == 200);
    CHECK(grey_at(*film, 23) == 180);
    p = set_hold(p, ShotIndex(1), std::array{PhotoIndex(2)}, Frames{5});
    CHECK(reel_of(p)->frames() == 6 * 2 + 3 + (3 * 2 + 3) * 2);
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) { i.speed = 3; });
    CHECK(reel_of(p)->parts()[0].frames.frames() == (6 * 2 + 3) / 3);

    // So long and no longer: held, or cut.
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) {
        i.speed = 1;
        i.lasts = Seconds{Fraction(20, 24)};
    });
    CHECK(grey_at(*reel_of(p), 19) == 100);
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) { i.lasts = Seconds{Fraction(4, 24)}; });
    CHECK(grey_at(*reel_of(p), 3) == 220);
    CHECK(grey_at(*reel_of(p), 4) == 220); // the second item
}

TEST_CASE("a dissolve is the exact mean in linear light, and changes nothing of the length", "[reel][join]")
{
    TempFolder t;
    Project p = three(t / "p");
    const std::int64_t frames = reel_of(p)->frames();
    const int n = GENERATE(3, 4, 7);
    const auto place = GENERATE(JoinPlace::centred, JoinPlace::before, JoinPlace::after);
    // What lies outside of the ranges is there for the join: both shots go on under it.
    p = set_kept(p, ShotIndex(0), KeptRange{PhotoIndex(0), PhotoIndex(2)});
    p = change_reel_item(p, item_at(p, 0), [&](ReelItem& i) {
        i.join = {.kind = JoinKind::dissolve, .length = {Fraction(n, 24)}, .place = place};
    });
    const auto film = reel_of(p);
    CHECK(film->frames() == frames - 2 * 3);
    const std::int64_t cut = 2 * 3, begin = place == JoinPlace::before  ? cut - n
                                            : place == JoinPlace::after ? cut
                                                                        : cut - n / 2;
    CHECK(film->parts()[0].join == FrameRange{FrameIndex(std::max<std::int64_t>(0, begin)), FrameIndex(begin + n)});
    if (begin < 0)
        return; // longer than the film before it: checked below
    const std::array a{10, 60, 110, 160}, b{240, 220, 200, 180};
    for (std::int64_t f = begin; f < begin + n; ++f) {
        const int from = a[std::size_t(std::min<std::int64_t>(f / 3, 3))];
        const int to = f < cut ? 240 : b[std::size_t((f - cut) / 2)];
        CAPTURE(n, f, from, to);
        CHECK(grey_at(*film, f) == Approx(mixed_code(from, to, double(f - begin + 1) / (n + 1))).margin(1));
    }
    CHECK(grey_at(*film, std::max<std::int64_t>(0, begin - 1)) ==
          a[std::size_t(std::max<std::int64_t>(0, begin - 1) / 3)]);
    // The second film has nothing before its first photo, the first has two photos behind the range.
    CHECK(film->parts()[0].held == (cut - begin) + std::max<std::int64_t>(0, begin + n - cut - 2 * 3));
}

TEST_CASE("a dip reaches its colour, a wipe goes across with a soft edge", "[reel][join]")
{
    TempFolder t;
    Project p = three(t / "p");
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) {
        i.join = {.kind = JoinKind::dip, .length = {Fraction(5, 24)}, .colour = {0, 128, 255}};
    });
    auto film = reel_of(p);
    const FrameRange dip = film->parts()[0].join;
    REQUIRE(dip.frames() == 5);
    const auto middle = render(film->frame(dip.begin + 2, {.size = size}), Originals());
    REQUIRE(middle);
    CHECK(middle->at<cv::Vec3b>(10, 10) == cv::Vec3b(255, 128, 0));
    CHECK(grey_at(*film, dip.begin.value - 1) == 160);
    CHECK(grey_at(*film, dip.end.value) == 220);

    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) {
        i.join = {.kind = JoinKind::wipe, .length = {Fraction(5, 24)}, .degrees = 0, .softness = 25};
    });
    film = reel_of(p);
    const std::int64_t half = dip.begin.value + 2; // of the way
    CHECK(grey_at(*film, half, {2, 16}) == 240);   // behind the edge: the next film
    CHECK(grey_at(*film, half, {45, 16}) == 160);
    const double share = 0.5 - (0.5 / 48) / 0.25; // of the next, half a pixel beyond the middle of the edge
    CHECK(grey_at(*film, half, {24, 16}) == Approx(mixed_code(160, 240, share)).margin(1));
    // Down instead: the same from above.
    p = change_reel_item(p, item_at(p, 0), [](ReelItem& i) { i.join.degrees = 90; });
    CHECK(grey_at(*reel_of(p), half, {24, 1}) == 240);
    CHECK(grey_at(*reel_of(p), half, {24, 30}) == 160);
}

TEST_CASE("a join that is longer than its films is made shorter, and it is said", "[reel][join]")
{
    TempFolder t;
    Project p = three(t / "p");
    for (const std::size_t i : {0, 1})
        p = change_reel_item(p, item_at(p, i), [](ReelItem& item) {
            item.join = {.kind = JoinKind::dissolve, .length = {Fraction(40, 24)}};
        });
    const auto film = reel_of(p);
    const auto parts = film->parts();
    CHECK(parts[0].join == FrameRange{FrameIndex(0), FrameIndex(24)});
    CHECK(parts[1].join == FrameRange{FrameIndex(24), FrameIndex(34)});
    CHECK(parts[0].join_shortened);
    CHECK(reel_notes(*film).size() >= 2);
    for (std::int64_t f = 0; f < film->frames(); ++f)
        CHECK(render(film->frame(FrameIndex(f), {.size = size}), Originals()));
}

TEST_CASE("runs are all frames in order, and each shows what its first frame shows", "[reel]")
{
    TempFolder t;
    Project p = three(t / "p");
    p = change_reel_item(p, item_at(p, 1), [](ReelItem& i) {
        i.join = {.kind = JoinKind::dissolve, .length = {Fraction(3, 24)}};
        i.speed = Fraction(3, 2);
    });
    const auto film = reel_of(p);
    FrameIndex at(0);
    for (const FrameRange& run : film->runs()) {
        REQUIRE(run.begin == at);
        for (FrameIndex f = run.begin; f < run.end; ++f)
            CHECK(film->frame(f, {.size = size}) == film->frame(run.begin, {.size = size}));
        at = run.end;
    }
    CHECK(at.value == film->frames());
    CHECK(film->runs().size() < std::size_t(film->frames())); // held photos are one
}

TEST_CASE("films of another shape are conformed to the Reel's frame, and it is said", "[reel]")
{
    TempFolder t;
    Project p = add_shot(three(t / "p"), flats(t / "q", "tall", {255}, 4, {32, 48}));
    auto film = reel_of(p);
    CHECK(film->size() == size);
    REQUIRE(reel_notes(*film).size() == 1);
    CHECK_THAT(reel_notes(*film)[0], Catch::Contains("tall"));
    CHECK(grey_at(*film, film->frames() - 1, {2, 16}) == 0); // a bar
    CHECK(grey_at(*film, film->frames() - 1) == 255);
    p = change_reel(p, [](Reel& r) { r.fit = ReelFit::fill; });
    CHECK(grey_at(*reel_of(p), film->frames() - 1, {2, 16}) == 255);
    p = change_reel(p, [](Reel& r) { r.frame = cv::Size(100, 40); });
    CHECK(reel_of(p)->size() == cv::Size(100, 40));
}

TEST_CASE("picture and sound come to one length in each way that there is", "[reel][lengths]")
{
    TempFolder t;
    Project p = three(t / "p"); // 34 frames
    Sound s;
    s.file = t / "s.wav";
    s.file_length = {Fraction(3)};
    s.end = {Fraction(3)};
    const auto one_length = [](const Project& made) {
        const ReelLengths l = reel_lengths(made);
        return l.picture_longer_by() == 0;
    };
    SECTION("the sound is longer")
    {
        p = add_sound(p, s); // 72 frames
        for (const auto remedy :
             {LengthRemedy::fit_picture, LengthRemedy::hold_last, LengthRemedy::cut_sound, LengthRemedy::fade_sound}) {
            const auto made = with_remedy(p, remedy);
            REQUIRE(made);
            CHECK(one_length(*made));
        }
        CHECK_FALSE(with_remedy(p, LengthRemedy::change_tempo)); // more than twice as fast
        CHECK_FALSE(with_remedy(p, LengthRemedy::loop_sound));
        const auto again = with_remedy(p, LengthRemedy::repeat_shot);
        REQUIRE(again);
        CHECK(reel_lengths(*again).picture == 34 + 4 * 10);
        const auto cut = with_remedy(p, LengthRemedy::cut_sound);
        CHECK(cut->reel.sound.sounds[0].file_length == Seconds{Fraction(3)}); // and can be pulled open again
    }
    SECTION("the picture is longer")
    {
        s.end = {Fraction(28, 24)};
        p = add_sound(p, s);
        for (const auto remedy : {LengthRemedy::fit_picture, LengthRemedy::hold_last, LengthRemedy::loop_sound,
                                  LengthRemedy::change_tempo}) {
            CAPTURE(int(remedy));
            const auto made = with_remedy(p, remedy);
            REQUIRE(made);
            CHECK(one_length(*made));
        }
        CHECK_FALSE(with_remedy(p, LengthRemedy::cut_sound));
        CHECK_FALSE(with_remedy(p, LengthRemedy::repeat_shot));
    }
    SECTION("they are as long, or one is not there")
    {
        CHECK_FALSE(with_remedy(p, LengthRemedy::fit_picture));
        s.end = {Fraction(34, 24)};
        CHECK_FALSE(with_remedy(add_sound(p, s), LengthRemedy::fit_picture));
    }
}

TEST_CASE("photos change on beats: order and total stay, every hold is whole", "[reel][beats]")
{
    TempFolder t;
    Project p = three(t / "p");
    const std::array<std::int64_t, 3> beats{3, 7, 9};
    p = holds_to_beats(p, ShotIndex(1), PhotoIndex(0), PhotoIndex(5), beats);
    const Schedule s = schedule_of(p, p.shot(ShotIndex(1)));
    CHECK(s.frames() == 6 * 2);
    std::vector<std::int64_t> begins;
    for (const FrameSpan& span : s.spans()) {
        CHECK(span.frames() >= 1);
        begins.push_back(span.begin.value);
    }
    for (const std::int64_t beat : beats)
        CHECK(std::find(begins.begin(), begins.end(), beat) != begins.end());

    p = change_reel(p, [](Reel& r) { r.sound.beats = {{Fraction(10, 24)}, {Fraction(25, 24)}}; });
    p = cuts_to_beats(p);
    CHECK(reel_of(p)->parts()[0].frames.end == FrameIndex(10));
    CHECK(reel_of(p)->parts()[1].frames.end == FrameIndex(25));
}

}
