// What is done to tone, frame and speed by hand, and to holds by tapping and by the clock. No picture is made here.
#include "core/project/edits.h"
#include "core/project/project_json.h"
#include "core/project/speed_course.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"

#include <array>
#include <cmath>
#include <limits>
#include <numeric>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex a{0}, b{1}, c{2}; // of made_project: four photos, six, two

Tone brighter(double stops)
{
    Tone tone;
    tone.exposure = stops;
    return tone;
}

double exposure_at(const Project& p, ShotIndex shot, std::int64_t photo)
{
    return tone_of(p.shot(shot), PhotoIndex(photo)).exposure;
}

std::vector<std::int64_t> frames_of(const Project& p, ShotIndex shot)
{
    std::vector<std::int64_t> all;
    for (const ShotPhoto& photo : p.shot(shot).photos) {
        const auto* frames = std::get_if<Frames>(&photo.hold);
        all.push_back(frames ? frames->count : -1);
    }
    return all;
}

Project read_again(const Project& p)
{
    return project_of_text(project_text(p, "/films/harbour"), "/films/harbour", "/films/harbour/a.frenlo");
}

DriftView view(double x, double width)
{
    DriftView made;
    made.box = {x, 0.1, width, width};
    return made;
}

const std::array<PhotoIndex, 6> all_of_b{PhotoIndex(0), PhotoIndex(1), PhotoIndex(2),
                                         PhotoIndex(3), PhotoIndex(4), PhotoIndex(5)};

}

TEST_CASE("the first anchor holds for the shot, two blend between them, and the last one leaves its tone",
          "[tone][edits]")
{
    const Project p = made_project();
    const Project one = set_anchor(p, b, PhotoIndex(1), brighter(1));
    for (std::int64_t i = 0; i < 6; ++i)
        CHECK(exposure_at(one, b, i) == Approx(1));
    const Project two = set_anchor(one, b, PhotoIndex(5), brighter(3));
    CHECK(exposure_at(two, b, 0) == Approx(1)); // before the first it is the first's
    CHECK(exposure_at(two, b, 1) == Approx(1));
    CHECK(exposure_at(two, b, 3) == Approx(2)); // half way
    CHECK(exposure_at(two, b, 5) == Approx(3));
    CHECK(set_anchor(two, b, PhotoIndex(5), brighter(3)) == two);
    const Project left = drop_anchor(two, b, PhotoIndex(1));
    CHECK(exposure_at(left, b, 0) == Approx(3));
    const Project none = drop_anchor(left, b, PhotoIndex(5));
    CHECK(anchors_of(none.shot(b)).empty());
    CHECK(exposure_at(none, b, 2) == Approx(3)); // what was seen stays
    CHECK(drop_anchor(none, b, PhotoIndex(2)) == none);
    CHECK(drop_tone(none, b) == p);
    CHECK(drop_tone(two, b) == p);
    CHECK(read_again(two) == two);
}

TEST_CASE("a change of the whole shot's tone changes each anchor by itself", "[tone][edits]")
{
    const Project p =
        set_anchor(set_anchor(made_project(), b, PhotoIndex(0), brighter(1)), b, PhotoIndex(4), brighter(2));
    const Project more = change_tone(p, b, [](Tone& t) { t.exposure += 0.5; });
    CHECK(exposure_at(more, b, 0) == Approx(1.5));
    CHECK(exposure_at(more, b, 4) == Approx(2.5));
    CHECK(exposure_at(more, b, 2) == Approx(2));
    CHECK(change_tone(p, b, [](Tone&) {}) == p);
    const Project plain = change_tone(made_project(), a, [](Tone& t) { t.contrast = 20; });
    CHECK(anchors_of(plain.shot(a)).empty());
    CHECK(tone_of(plain.shot(a), PhotoIndex(3)).contrast == 20);
}

TEST_CASE("a photo's tone is given to others, to all, and to other shots", "[tone][edits]")
{
    const Project p =
        set_anchor(set_anchor(made_project(), b, PhotoIndex(0), brighter(1)), b, PhotoIndex(4), brighter(2));
    const Project copied = copy_tone(p, b, PhotoIndex(0), std::array{PhotoIndex(2), PhotoIndex(3)});
    for (const std::int64_t i : {0, 1, 2, 3})
        CHECK(exposure_at(copied, b, i) == Approx(1));
    CHECK(exposure_at(copied, b, 4) == Approx(2));
    const Project same = same_tone_for_all(p, b, PhotoIndex(2)); // what is seen there: half way
    CHECK(anchors_of(same.shot(b)).empty());
    for (std::int64_t i = 0; i < 6; ++i)
        CHECK(exposure_at(same, b, i) == Approx(1.5));
    const Project shots =
        copy_tone_to_shots(p, b, PhotoIndex(4), std::array{p.shot(a).id, p.shot(b).id, p.shot(c).id, ShotId{1}});
    CHECK(exposure_at(shots, a, 3) == Approx(2));
    CHECK(exposure_at(shots, c, 0) == Approx(2));
    CHECK(shots.shots[1] == p.shots[1]); // itself is as it was
}

TEST_CASE("a shot is toned where something is done to it, and only there", "[tone][edits]")
{
    const Project p = made_project();
    CHECK_FALSE(is_toned(p.shot(b)));
    CHECK_FALSE(is_toned(set_anchor(p, b, PhotoIndex(1), Tone()).shot(b))); // an anchor that changes nothing
    CHECK(is_toned(set_anchor(p, b, PhotoIndex(1), brighter(0.1)).shot(b)));
    const ToneWhere where{AreaId{7}, {}};
    const Project part = set_part_tone(p, b, where, brighter(-1));
    CHECK(is_toned(part.shot(b)));
    CHECK(set_part_tone(part, b, where, brighter(-1)) == part);
    CHECK_FALSE(is_toned(set_part_tone(part, b, where, Tone()).shot(b)));
    CHECK(set_tone_blend(p, b, ToneBlend::time) == p); // as it is by itself
    CHECK_FALSE(set_tone_blend(p, b, ToneBlend::light) == p);
}

TEST_CASE("views lie at their photos, turn round, and go along to other shots as far along", "[frame][edits]")
{
    const Project p = made_project();
    Project drift = set_view(p, b, PhotoIndex(0), view(0, 0.5));
    drift = set_view(drift, b, PhotoIndex(2), view(0.2, 0.6));
    drift = set_view(drift, b, PhotoIndex(5), view(0.4, 0.4));
    CHECK(is_dressed(drift.shot(b)));
    const Project round = turn_drift_round(drift, b);
    CHECK(view_of(round.shot(b).photos[0])->box.x == 0.4);
    CHECK(view_of(round.shot(b).photos[2])->box.x == 0.2);
    CHECK(view_of(round.shot(b).photos[5])->box.x == 0);
    CHECK(turn_drift_round(round, b) == drift);
    CHECK(drop_views(drift, b) == p);
    CHECK(set_view(drift, b, PhotoIndex(0), std::nullopt).shot(b).photos[0] == p.shot(b).photos[0]);

    const Project copied = copy_dress(drift, b, std::array{p.shot(a).id, p.shot(b).id});
    CHECK(copied.shots[1] == drift.shots[1]);
    CHECK(view_of(copied.shot(a).photos[0])->box.x == 0);   // of six and of four photos: the first,
    CHECK(view_of(copied.shot(a).photos[1])->box.x == 0.2); // two fifths of the way
    CHECK(view_of(copied.shot(a).photos[3])->box.x == 0.4); // and the last
    CHECK(view_of(copied.shot(a).photos[2]) == nullptr);
    CHECK(copy_dress(copied, c, std::array{p.shot(a).id}).shot(a) == p.shot(a)); // of one that has none
    CHECK(read_again(drift) == drift);
}

TEST_CASE("a drift goes through its views and stays before and behind them", "[frame][edits]")
{
    Project p = set_view(made_project(), b, PhotoIndex(1), view(0, 0.5));
    p = set_view(p, b, PhotoIndex(4), view(0.3, 0.5));
    const auto views = views_of_frames(p.shot(b), schedule_of(p, p.shot(b)));
    REQUIRE(views.size() == 12);
    CHECK(views.front().box.x == Approx(0));
    CHECK(views.back().box.x == Approx(0.3));
    for (std::size_t i = 1; i < views.size(); ++i) {
        CHECK(views[i].box.x >= views[i - 1].box.x - 1e-12); // two views: a straight way
        CHECK(views[i].box.width == Approx(0.5));
    }
}

TEST_CASE("a shot dressed for several shapes keeps each dress", "[frame][edits]")
{
    const FilmShape wide = *parse_shape("16:9"), upright = *parse_shape("1080x1350");
    CHECK(shape_text(wide) == "16:9");
    CHECK(shape_text(upright) == "1080x1350");
    Project p = change_framing(made_project(), b, [&](Framing& f) {
        f.shape = wide;
        f.crop = cv::Rect2d(0.1, 0.1, 0.5, 0.5);
    });
    p = set_view(p, b, PhotoIndex(0), view(0.1, 0.4));
    const Project tall = dress_for(p, b, upright);
    CHECK(framing_of(tall.shot(b)).shape == upright);
    CHECK_FALSE(framing_of(tall.shot(b)).crop); // the other one's would not fit
    CHECK(shapes_beside(tall.shot(b)) == std::vector{wide});
    const Project back = dress_for(tall, b, wide);
    CHECK(framing_of(back.shot(b)) == framing_of(p.shot(b)));
    CHECK(view_of(back.shot(b).photos[0])->box.x == 0.1);
    CHECK(shapes_beside(back.shot(b)) == std::vector{upright});
    CHECK(drop_shape(back, b, upright) == p);
    CHECK(framing_of(drop_shape(back, b, wide).shot(b)).shape == upright);
    CHECK_FALSE(is_dressed(drop_dress(back, b).shot(b)));
    CHECK(read_again(tall) == tall);
}

TEST_CASE("points of a speed course are carried, replaced and taken away", "[pace][edits]")
{
    const Project p = made_project();
    const auto id = [&](std::int64_t i) { return p.shot(b).photos[std::size_t(i)].id; };
    Project course = set_speed_at(set_speed_at(p, b, PhotoIndex(1), 50), b, PhotoIndex(4), 200);
    CHECK(speeds_of(course.shot(b))[1] == Approx(50));
    CHECK(speeds_of(course.shot(b))[0] == Approx(50));
    CHECK(speeds_of(course.shot(b))[5] == Approx(200));
    CHECK(move_speed_point(course, b, id(1), PhotoIndex(2), 80).shot(b).steps.get<SpeedCourse>().points.size() == 2);
    CHECK(speeds_of(move_speed_point(course, b, id(1), PhotoIndex(2), 80).shot(b))[2] == Approx(80));
    const Project onto = move_speed_point(course, b, id(1), PhotoIndex(4), 30); // another one lies there
    CHECK(speed_course_of(onto.shot(b)).points.size() == 1);
    CHECK(speeds_of(onto.shot(b))[0] == Approx(30));
    CHECK(move_speed_point(course, b, id(3), PhotoIndex(0), 30) == course); // there is none at that photo
    CHECK(remove_speed_point(course, b, id(3)) == course);
    CHECK(remove_speed_point(remove_speed_point(course, b, id(1)), b, id(4)) == p);
    // What cannot be a speed is one all the same.
    const double none = std::numeric_limits<double>::quiet_NaN();
    CHECK(speeds_of(set_speed_at(p, b, PhotoIndex(0), none).shot(b))[0] == Approx(100));
    CHECK(speeds_of(set_speed_at(p, b, PhotoIndex(0), 1e9).shot(b))[0] == Approx(speed_limits.high));
    // Points of photos that left say nothing, and come in order of the photos.
    const Project split = split_shot(course, b, PhotoIndex(3));
    CHECK(speed_course_of(split.shot(b)).points.size() == 1);
}

TEST_CASE("taps set when photos change, at the nearest frame, each one later than the one before", "[pace][edits]")
{
    const Project p = made_project(); // 24 frames a second
    const Project tapped = hold_as_tapped(p, b, PhotoIndex(1), std::array{0.5, 0.52, 0.53, 1.0});
    CHECK(frames_of(tapped, b) == std::vector<std::int64_t>{2, 12, 1, 1, 10, 2});
    CHECK(hold_as_tapped(p, b, PhotoIndex(0), {}) == p);
    // More taps than photos: the last photo takes its own, and nothing more happens.
    const Project many = hold_as_tapped(p, c, PhotoIndex(0), std::array{0.25, 0.5, 0.75, 1.0});
    CHECK(frames_of(many, c) == std::vector<std::int64_t>{6, 6});
    // Photos that are set aside are no photos of the film.
    const Project aside = set_aside(p, b, std::array{PhotoIndex(1)}, true);
    CHECK(frames_of(hold_as_tapped(aside, b, PhotoIndex(0), std::array{0.5, 1.0}), b) ==
          std::vector<std::int64_t>{12, 2, 12, 2, 2, 2});
}

TEST_CASE("holds vary by chance, by no more than was asked for, and their sum stays", "[pace][edits]")
{
    Project p = set_hold(made_project(), b, all_of_b, Frames{4});
    for (const std::int64_t by : {0, 1, 2, 9})
        for (std::uint32_t seed = 0; seed < 20; ++seed) {
            const auto varied = frames_of(vary_holds(p, b, all_of_b, by, seed), b);
            CHECK(std::accumulate(varied.begin(), varied.end(), std::int64_t(0)) == 24);
            for (const std::int64_t frames : varied) {
                CHECK(frames >= 1);
                CHECK(std::abs(frames - 4) <= by);
            }
            CHECK(varied == frames_of(vary_holds(p, b, all_of_b, by, seed), b));
        }
    CHECK(vary_holds(p, b, all_of_b, -3, 1) == p);
}

TEST_CASE("holds follow the time from photo to photo, as long together as before", "[pace][edits]")
{
    Project p = made_project();
    CHECK_THROWS_WITH(hold_as_taken(p, b, all_of_b), Catch::Contains("do not say when"));
    Shot timed = p.shot(b);
    const std::array<double, 6> seconds{0, 10, 20, 40, 50, 60}; // the third one took twice as long
    for (std::size_t i = 0; i < 6; ++i) {
        auto file = std::make_shared<PhotoFile>(*timed.photos[i].photo);
        file->captured = CaptureTime{1'800'000'000'000'000 + std::int64_t(seconds[i] * 1e6)};
        timed.photos.edit(i).photo = file;
    }
    p.shots[1] = std::make_shared<const Shot>(timed);
    const Project taken = hold_as_taken(p, b, all_of_b);
    const auto length = [&](std::size_t i) { return length_of(taken.shot(b).photos[i].hold, Rate(24)).value.approx(); };
    CHECK(length(2) == Approx(2 * length(1)).epsilon(1e-6));
    CHECK(length(3) == Approx(length(1)).epsilon(1e-6));
    CHECK(length_of_photos(taken, taken.shot(b), all_of_b) == length_of_photos(p, p.shot(b), all_of_b));
}

TEST_CASE("marks come and go, and photos at them are set aside", "[pace][edits]")
{
    const Project p = made_project();
    const Project marked = toggle_mark(toggle_mark(p, b, PhotoIndex(1)), b, PhotoIndex(4));
    CHECK(marked_photos(marked.shot(b)) == std::vector{PhotoIndex(1), PhotoIndex(4)});
    CHECK(toggle_mark(toggle_mark(marked, b, PhotoIndex(1)), b, PhotoIndex(4)) == p);
    CHECK(clear_marks(marked, b) == p);
    const Project jumps = set_aside_at_marks(marked, b, 2);
    std::string there;
    for (const ShotPhoto& photo : jumps.shot(b).photos)
        there += photo.aside ? '-' : 'x';
    CHECK(there == "x--x--");
    CHECK(marked_photos(jumps.shot(b)).empty());
    // Beyond the end there is nothing to be set aside.
    CHECK(photos_in_film(set_aside_at_marks(toggle_mark(p, b, PhotoIndex(5)), b, 9).shot(b)) == 5);
}

TEST_CASE("a lens is that of most photos, and one that folds a photo over is refused", "[frame][edits]")
{
    const Project p = made_project();
    CHECK(lens_of(p.shot(b)).nothing());
    const Project taken = set_lens(p, b, {-0.08, 0.01});
    CHECK(lens_of(taken.shot(b)) == Lens{-0.08, 0.01});
    for (const ShotPhoto& photo : taken.shot(b).photos)
        CHECK(photo.lens == Lens{-0.08, 0.01});
    CHECK(set_lens(taken, b, {}) == p);
    // Joined with photos of none, it is that of the more of them.
    CHECK(lens_of(join_with_next(taken, b).shot(b)) == Lens{-0.08, 0.01}); // six against two
    CHECK_THROWS_AS(set_lens(p, b, {-5, 0}), Failure);
    CHECK_THROWS_AS(set_lens(p, b, {0, -5}), Failure);
}

TEST_CASE("what was found of uprights is set to what a hand would set, within its limits", "[frame][edits]")
{
    const Project p = made_project();
    Upright found;
    found.turn = 1.23456;
    found.uprights = 0.04321;
    const Framing framing = framing_of(make_upright(p, b, found).shot(b));
    CHECK(framing.straighten == Approx(1.23).margin(1e-12));
    CHECK(framing.uprights == Approx(0.043).margin(1e-12));
    found.turn = 1e6;
    found.uprights = -1e6;
    const Project far = make_upright(p, b, found);
    CHECK(framing_of(far.shot(b)).straighten == straighten_limits.high);
    CHECK(framing_of(far.shot(b)).uprights == uprights_limits.low);
    CHECK(read_again(far) == far);
}

TEST_CASE("a kept range is slid within its shot, whatever plays backwards or was set aside since",
          "[pace][edits][range]")
{
    const Project p = made_project();
    const auto slid_everywhere = [](const Project& start) {
        for (const std::int64_t by : {-100, -3, -1, 0, 1, 2, 5, 100}) {
            const Project slid = slide_kept(start, b, by);
            REQUIRE(slid.shot(b).pacing.kept);
            const KeptRange& kept = *slid.shot(b).pacing.kept;
            CAPTURE(by, kept.begin.value);
            CHECK(kept.begin.value >= 0);
            CHECK(kept.begin.value < 6);
            if (const auto* end = std::get_if<PhotoIndex>(&kept.extent)) {
                CHECK(end->value >= 0);
                CHECK(end->value <= 6);
            }
            CHECK(read_again(slid) == slid); // a file that could not be opened again
            const SlideRoom room = slide_room(slid, slid.shot(b));
            CHECK(room.back >= 0);
            CHECK(room.on >= 0);
        }
    };
    const Project range = keep_to(keep_from(p, b, PhotoIndex(1)), b, PhotoIndex(3));
    slid_everywhere(range);
    slid_everywhere(set_part_backwards(range, b, std::array{PhotoIndex(0), PhotoIndex(1), PhotoIndex(2)}, true));
    slid_everywhere(set_part_backwards(range, b, all_of_b, true));
    slid_everywhere(set_aside(range, b, std::array{PhotoIndex(1), PhotoIndex(2), PhotoIndex(3)}, true));
    slid_everywhere(set_aside(range, b, std::array{PhotoIndex(4), PhotoIndex(5)}, true));
    slid_everywhere(set_keep_every(range, b, 3));
    slid_everywhere(fix_kept(set_part_backwards(range, b, all_of_b, true), b, PhotoCount{2}));
    slid_everywhere(fix_kept(range, b, Seconds{Fraction(1, 6)}));
    // What plays backwards lies where it lies: the range that it is in is the same.
    CHECK(kept_photos(set_part_backwards(range, b, all_of_b, true), range.shot(b)) ==
          std::pair(PhotoIndex(1), PhotoIndex(4)));
}

}
