// What steps measure, taken into a project that went on meanwhile: the functions that window and command line both
// call.
#include "core/project/edits.h"
#include "core/steps/flicker/operations.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/steady/operations.h"
#include "core/steps/steady/steady_figures.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>

#include <array>
#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

/// Where each photo is pushed to, pixels: a hand that shakes.
cv::Point2d knock(int photo)
{
    return {std::round(6 * std::sin(photo * 2.1)), std::round(5 * std::cos(photo * 1.3))};
}

std::vector<cv::Mat> knocked(int photos)
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < photos; ++i)
        pictures.push_back(photo_of_scene(cv::Matx33d(1, 0, knock(i).x, 0, 1, knock(i).y, 0, 0, 1)));
    return pictures;
}

/// A tripod's photos in light that goes up and down by so many stops.
std::vector<cv::Mat> flickering(int photos, double stops)
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < photos; ++i)
        pictures.push_back(in_light(-1.5 + (i % 2 == 0 ? stops : -stops)));
    return pictures;
}

struct Material
{
    explicit Material(std::vector<cv::Mat> pictures) : source(std::move(pictures))
    {
        Shot shot;
        shot.name = "Boat";
        for (const SeenPhoto& p : source.photos())
            shot.photos.push_back({p.photo, Frames{1}});
        project = add_shot({}, std::move(shot));
    }
    [[nodiscard]] const Shot& shot() const { return project.shot(first); }

    InMemory source;
    Project project;
};

/// A job that is stopped as soon as it has got so far.
struct StoppedAt
{
    explicit StoppedAt(double fraction)
        : job(stop.get_token(), [this, fraction](double f, std::string_view) {
              if (f >= fraction)
                  stop.request_stop();
          })
    {
    }
    std::stop_source stop;
    Job job;
};

}

TEST_CASE("a shot that was renamed and reversed while it was measured lies as it was measured", "[operation][steady]")
{
    const Material m(knocked(6));
    const Edit edit = measure_steady(m.shot(), {.movement = Movement::shift, .reference = PhotoIndex(0)})(m.source, {});
    const Project plain = edit(m.project);
    REQUIRE(steadying_of(plain.shot(first)));
    for (std::int64_t i = 0; i < 6; ++i) {
        const cv::Point2d there = moved(alignment_of(plain.shot(first).photos[std::size_t(i)])->from_film, {300, 200});
        CAPTURE(i);
        CHECK(there.x - 300 == Approx(knock(int(i)).x - knock(0).x).margin(0.1));
        CHECK(there.y - 200 == Approx(knock(int(i)).y - knock(0).y).margin(0.1));
    }
    const Project meanwhile = rename_shot(reverse_shot(m.project, first), first, "Ship");
    const Shot turned = edit(meanwhile).shot(first);
    CHECK(turned.name == "Ship");
    for (std::size_t i = 0; i < 6; ++i)
        CHECK(*alignment_of(turned.photos[i]) == *alignment_of(plain.shot(first).photos[5 - i]));
}

TEST_CASE("photos that are gone by then are left out, and a reference photo that is gone is told",
          "[operation][steady]")
{
    const Material m(knocked(6));
    const Edit edit = measure_steady(m.shot(), {.movement = Movement::shift, .reference = PhotoIndex(0)})(m.source, {});
    const Project split = split_shot(m.project, first, PhotoIndex(4));
    const Shot kept = edit(split).shot(first);
    CHECK(kept.photos.size() == 4);
    CHECK(alignment_of(kept.photos[3]));
    // The part with the reference photo is another shot now: what is left cannot lie on it.
    Project without = split_shot(m.project, first, PhotoIndex(1));
    Shot second = without.shot(ShotIndex(1));
    second.id = m.shot().id;
    const Project only_second = [&] {
        Project p = without;
        p.shots = {std::make_shared<const Shot>(second)};
        return p;
    }();
    CHECK_THROWS_WITH(edit(only_second), Catch::Contains("reference photo"));
    CHECK_THROWS_WITH(edit(remove_shot(m.project, first)), Catch::Contains("no longer in the project"));
    // A photo that was turned meanwhile is seen in another way: nothing is said of it.
    const Shot turned = edit(turn_photos(m.project, first, std::array{PhotoIndex(2)}, 1)).shot(first);
    CHECK_FALSE(alignment_of(turned.photos[2]));
    CHECK(alignment_of(turned.photos[3]));
}

TEST_CASE("what is stopped half way is kept where that was asked for, with the rest in doubt", "[operation][steady]")
{
    const Material m(knocked(60));
    const StoppedAt half(0.25);
    SteadyPlan plan{.movement = Movement::shift, .reference = PhotoIndex(0), .keep_when_stopped = true};
    const Shot kept = measure_steady(m.shot(), plan)(m.source, half.job)(m.project).shot(first);
    const auto doubtful = std::int64_t(doubtful_photos(kept).size());
    CHECK(doubtful > 5);
    CHECK(doubtful < 55);
    for (std::size_t i = 0; i < kept.photos.size(); ++i) // what is not in doubt was measured, and right
        if (const Alignment& lies = *alignment_of(kept.photos[i]); lies.doubt.empty()) {
            CAPTURE(i);
            CHECK(moved(lies.from_film, {300, 200}).x - 300 == Approx(knock(int(i)).x - knock(0).x).margin(0.15));
        }
    plan.keep_when_stopped = false;
    const StoppedAt early(0.1);
    CHECK_THROWS_AS(measure_steady(m.shot(), plan)(m.source, early.job), Stopped);
}

TEST_CASE("where it is looked is what the plan says, or what was set before", "[operation][steady]")
{
    const Material m(knocked(4));
    const Region half{{{0, 0, 0.5, 1}}, {}};
    const SteadyPlan here{.movement = Movement::shift, .region = half};
    const Project with = measure_steady(m.shot(), here)(m.source, {})(m.project);
    CHECK(steady_region(with.shot(first)) == half);
    const Project again = measure_steady(with.shot(first), {.movement = Movement::shift})(m.source, {})(with);
    CHECK(steady_region(again.shot(first)) == half);
    // What the window changed meanwhile is not taken back by a measurement that did not say where.
    const Edit plain = measure_steady(m.shot(), {.movement = Movement::shift})(m.source, {});
    CHECK(steady_region(plain(set_region(m.project, first, half)).shot(first)) == half);
}

TEST_CASE("a path holds only for photos that follow each other as they did", "[operation][steady]")
{
    const Material m(knocked(8));
    const SteadyPlan plan{.way = SteadyWay::smooth, .movement = Movement::shift, .smoothing = Smoothing{0.5, 0.2}};
    const Edit edit = measure_steady(m.shot(), plan)(m.source, {});
    const Project smooth = edit(m.project);
    CHECK(steadying_of(smooth.shot(first))->smoothing.strength_s == 0.5);
    CHECK_THROWS_WITH(edit(reverse_shot(m.project, first)), Catch::Contains("goes from each to the next"));
    CHECK_NOTHROW(edit(rename_shot(m.project, first, "Ship")));

    const Edit stronger = smooth_again(smooth, first, {1.5, 0.2})(m.source, {});
    CHECK(steadying_of(stronger(smooth).shot(first))->smoothing.strength_s == 1.5);
    CHECK_THROWS_WITH(stronger(set_aside(smooth, first, std::array{PhotoIndex(1)}, true)),
                      Catch::Contains("was changed"));
}

TEST_CASE("one photo is aligned anew where it is by then", "[operation][steady]")
{
    const Material m(knocked(5));
    const Project still =
        measure_steady(m.shot(), {.movement = Movement::shift, .reference = PhotoIndex(0)})(m.source, {})(m.project);
    const Project off = nudge_photo(still, first, PhotoIndex(3), {12, -7});
    const Edit edit = align_photo(off.shot(first), PhotoIndex(3), PhotoIndex(0), Movement::shift)(m.source, {});
    const Shot now = edit(move_photos(off, first, std::array{PhotoIndex(3)}, PhotoIndex(1))).shot(first);
    CHECK(moved(alignment_of(now.photos[1])->from_film, {0, 0}).x == Approx(knock(3).x - knock(0).x).margin(0.1));
    CHECK_THROWS_WITH(edit(split_shot(off, first, PhotoIndex(2))), Catch::Contains("no longer in the shot"));

    // Two clicks that are a pixel off are made exact on the photos.
    const cv::Point2d by = knock(3) - knock(0);
    const std::vector<PointPair> pairs{{{200, 150}, cv::Point2d(200, 150) + by + cv::Point2d(0.7, -0.6)},
                                       {{600, 400}, cv::Point2d(600, 400) + by + cv::Point2d(-0.5, 0.8)}};
    const Edit by_points = align_by_points(off.shot(first), PhotoIndex(3), PhotoIndex(0), pairs)(m.source, {});
    const Shot set = by_points(off).shot(first);
    CHECK(moved(alignment_of(set.photos[3])->from_film, {300, 200}).x == Approx(300 + by.x).margin(0.15));
    CHECK(moved(alignment_of(set.photos[3])->from_film, {300, 200}).y == Approx(200 + by.y).margin(0.15));
}

TEST_CASE("light that was measured is taken in where the photos follow each other as they did", "[operation][light]")
{
    const Material m(flickering(24, 0.1));
    const Edit edit = measure_flicker(m.project, first, {.settings = {.window_s = 1}})(m.source, {});
    const Project even = edit(rename_shot(m.project, first, "Ship"));
    CHECK(even.shot(first).name == "Ship");
    const Deflicker& done = *deflicker_of(even.shot(first));
    CHECK(done.before.shared > 0.08);
    CHECK(done.after.shared < 0.1 * done.before.shared);
    CHECK_THROWS_WITH(edit(reverse_shot(m.project, first)), Catch::Contains("depends on those around it"));
    CHECK_THROWS_WITH(edit(set_aside(m.project, first, std::array{PhotoIndex(5)}, true)),
                      Catch::Contains("Remove flicker again"));
    const StoppedAt soon(0.1);
    CHECK_THROWS_AS(measure_flicker(m.project, first, {})(m.source, soon.job), Stopped);
}

TEST_CASE("where light is measured stays where the plan does not say", "[operation][light]")
{
    const Material m(flickering(12, 0.1));
    const Region part{{{0.25, 0.25, 0.5, 0.5}}, {}};
    const Project even = measure_flicker(m.project, first, {.region = part})(m.source, {})(m.project);
    CHECK(light_region(even.shot(first)) == part);
    const Project again = measure_flicker(even, first, {.settings = {.strength = 0.5}})(m.source, {})(even);
    CHECK(light_region(again.shot(first)) == part); // a call without a region does not wipe the one that was drawn
    CHECK(deflicker_of(again.shot(first))->strength == 0.5);
}

TEST_CASE("a step in the light is kept, or taken out, as the plan says of its photo", "[operation][light]")
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < 24; ++i)
        pictures.push_back(in_light(i < 12 ? -1.6 : -1.1)); // a lamp is switched on
    const Material m(pictures);
    const auto step_of = [](const Project& p) {
        const PhotoList& photos = p.shot(first).photos;
        return light_of(photos[12])->after - light_of(photos[11])->after;
    };
    const Project kept = measure_flicker(m.project, first, {})(m.source, {})(m.project);
    REQUIRE(light_of(kept.shot(first).photos[12])->jump);
    CHECK(step_of(kept) == Approx(0.5).margin(0.05));
    const FlickerPlan out{.steps = {{PhotoIndex(12), false}}};
    const Project level = measure_flicker(kept, first, out)(m.source, {})(kept);
    CHECK(step_of(level) == Approx(0).margin(0.05));
    const FlickerPlan back{.steps = {{PhotoIndex(12), true}}};
    CHECK(step_of(measure_flicker(level, first, back)(m.source, {})(level)) == Approx(0.5).margin(0.05));
}

}
