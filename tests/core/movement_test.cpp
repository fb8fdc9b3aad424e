// How much moved between two photos of a camera that stands still.
#include "core/steps/pace/loop_finder.h"
#include "core/steps/pace/movement.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

double moved(const cv::Mat& a, const cv::Mat& b)
{
    return movement(movement_blocks(a), movement_blocks(b));
}

cv::Mat with_thing(const cv::Mat& scene, cv::Point at, int side)
{
    cv::Mat m = scene.clone();
    m(cv::Rect(at, cv::Size(side, side)) & cv::Rect({0, 0}, m.size())).setTo(cv::Scalar(40, 60, 200));
    return m;
}

}

TEST_CASE("noise and light are no movement, a small thing that moves is", "[movement]")
{
    const cv::Mat scene = in_light(-0.5, {960, 640});
    CHECK(moved(scene, scene) == 0);
    CHECK(moved(with_noise(scene, 4, 1), with_noise(scene, 4, 2)) < 1);
    CHECK(moved(with_noise(scene, 3, 1), with_noise(in_light(-0.35, {960, 640}), 3, 2)) <
          1); // it flickers by 0.15 stop
    cv::Mat shade(scene.size(), CV_8UC3), lit;
    for (int x = 0; x < scene.cols; ++x) // a light that comes from the side, slowly over the frame
        shade.col(x).setTo(cv::Scalar::all(200 + 50 * x / scene.cols));
    cv::multiply(scene, shade, lit, 1 / 225.0);
    CHECK(moved(with_noise(scene, 2, 1), with_noise(lit, 2, 2)) < 1);
    // A thing of a fortieth of the frame that goes on by its own width, and by a third of it.
    const cv::Mat before = with_noise(with_thing(scene, {400, 300}, 24), 3, 1);
    CHECK(moved(before, with_noise(with_thing(scene, {424, 300}, 24), 3, 2)) > 2);
    CHECK(moved(before, with_noise(with_thing(scene, {408, 300}, 24), 3, 2)) > 1);
    CHECK(moved(before, with_noise(scene, 3, 2)) > 2); // and one that is gone
}

TEST_CASE("movement of 16 bit and of transparent photos is that of 8 bit", "[movement]")
{
    const cv::Mat a = in_light(-0.5), b = with_thing(a, {200, 100}, 30);
    const double plain = moved(a, b);
    cv::Mat deep_a, deep_b, clear_a, clear_b;
    a.convertTo(deep_a, CV_16U, 257);
    b.convertTo(deep_b, CV_16U, 257);
    CHECK(moved(deep_a, deep_b) == Approx(plain).epsilon(0.01));
    cv::cvtColor(a, clear_a, cv::COLOR_BGR2BGRA);
    cv::cvtColor(b, clear_b, cv::COLOR_BGR2BGRA);
    CHECK(moved(clear_a, clear_b) == Approx(plain).epsilon(0.01));
    const cv::Mat tiny(3, 2, CV_8UC3, cv::Scalar::all(9)); // smaller than the blocks
    CHECK(moved(tiny, tiny) == 0);
    const cv::Mat black = cv::Mat::zeros(60, 90, CV_8UC3);
    CHECK(moved(black, black) == 0); // no ratios to go by
}

namespace {

/// A thing that goes round on its way, in so many photos, before a still scene, under noise and flicker.
std::vector<cv::Mat> going_round(int period, int photos, unsigned seed)
{
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    std::normal_distribution<double> normal(0, 1);
    const cv::Mat scene = photo_of_scene(turned_by(0, 1, {60 * share(random), 40 * share(random)}), {320, 240});
    const double phase = 6.28 * share(random), wide = 40 + 50 * share(random), high = 20 + 50 * share(random);
    const int turns = 1 + int(2 * share(random));
    std::vector<cv::Mat> all;
    for (int i = 0; i < photos; ++i) {
        const double t = 2 * 3.14159265358979 * i / period + phase;
        cv::Mat photo = scene.clone();
        const cv::Point at(160 + int(wide * std::cos(t)), 120 + int(high * std::sin(turns * t)));
        cv::ellipse(photo, at, {26, 12}, 360 * t / 6.2831853, 0, 360, cv::Scalar(40, 60, 200), -1, cv::LINE_AA);
        photo.convertTo(photo, -1, std::exp2(0.1 * normal(random)));
        all.push_back(with_noise(photo, 4, seed * 1000 + unsigned(i)));
    }
    return all;
}

}

TEST_CASE("the true period of a loop is found first, under noise and flicker", "[loops]")
{
    int right = 0;
    for (unsigned seed = 1; seed <= 20; ++seed) {
        const int period = 9 + int(seed * 7 % 23);
        const InMemory source(going_round(period, period * 3 + int(seed % 5), seed));
        Shot shot;
        shot.name = "round";
        for (const SeenPhoto& seen : source.photos())
            shot.photos.push_back({seen.photo, Frames{1}});
        give_ids(shot);
        Project project;
        project.shots.push_back(std::make_shared<const Shot>(shot));
        const auto loops = find_loops(project, *project.shots[0], {Fraction(1, 4)}, source, {});
        REQUIRE_FALSE(loops.empty());
        const std::int64_t found = loops[0].last - loops[0].first + 1;
        CAPTURE(seed, period, found, loops[0].seen);
        right += found == period;
        CHECK(loops[0].seen < 2);
    }
    CHECK(right >= 19);
}

TEST_CASE("loops of shots with nothing to see or too little are none, or any", "[loops][bad]")
{
    const auto loops_of = [](std::vector<cv::Mat> pictures, Fraction least) {
        const InMemory source(std::move(pictures));
        Shot shot;
        for (const SeenPhoto& seen : source.photos())
            shot.photos.push_back({seen.photo, Frames{1}});
        give_ids(shot);
        Project project;
        project.shots.push_back(std::make_shared<const Shot>(shot));
        return find_loops(project, *project.shots[0], {least}, source, {});
    };
    const cv::Mat black(20, 30, CV_8UC3, cv::Scalar::all(0));
    CHECK(loops_of({black, black}, Fraction(1, 24)).empty());
    CHECK_FALSE(loops_of({black, black, black, black}, Fraction(1, 24)).empty());
    CHECK(loops_of({black, black, black, black}, Fraction(5)).empty());
    CHECK(loops_of({}, Fraction(1)).empty());
}

}
