// What moves over a background that stands still, as a layer of its own: a thing of a real photograph over another one.
#include "core/picture/carried_on.h"
#include "core/picture/changes.h"
#include "core/picture/in_between.h"
#include "core/picture/picture.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr double radius = 60;

/// A disc with a soft edge and five lobes.
struct Thing
{
    cv::Mat back, texture;
    cv::Point2d from, by;

    [[nodiscard]] float alpha(cv::Point2d p, double t) const
    {
        const cv::Point2d d = p - from - by * t;
        const double r = radius * (1 + 0.15 * std::sin(5 * std::atan2(d.y, d.x)));
        return float(std::clamp(r + 0.5 - std::hypot(d.x, d.y), 0.0, 1.0));
    }
    [[nodiscard]] Canvas picture(double t, std::uint64_t noise) const
    {
        const cv::Point2d to = from + by * t;
        cv::Mat moved;
        cv::warpAffine(texture, moved, cv::Matx23d(1, 0, to.x - 150, 0, 1, to.y - 150), back.size(), cv::INTER_CUBIC,
                       cv::BORDER_REFLECT);
        const bool noisy = noise > 0;
        Canvas under = to_canvas(noisy ? with_noise(back, 1, noise) : back);
        const Canvas over = to_canvas(noisy ? with_noise(moved, 1, noise + 1) : moved);
        for (int y = 0; y < under.rows; ++y)
            for (int x = 0; x < under.cols; ++x)
                under(y, x) += (over(y, x) - under(y, x)) * alpha({double(x), double(y)}, t);
        return under;
    }
};

/// Root mean square of what two pictures differ by, of 255, where the thing's edge is so near at t, or inside of that.
struct Off
{
    double edge = 0, inside = 0, outside = 0;
};
Off off(const Canvas& made, const Thing& thing, double t)
{
    constexpr double near = 8;
    const cv::Mat a = quantised(made), b = quantised(thing.picture(t, 0));
    cv::Mat1b is(a.size());
    for (int y = 0; y < is.rows; ++y)
        for (int x = 0; x < is.cols; ++x)
            is(y, x) = thing.alpha({double(x), double(y)}, t) > 0.5F ? 255 : 0;
    cv::Mat1f in, out;
    cv::distanceTransform(is, in, cv::DIST_L2, 5);
    cv::Mat1b other;
    cv::bitwise_not(is, other);
    cv::distanceTransform(other, out, cv::DIST_L2, 5);
    double sums[3] = {}, counts[3] = {};
    for (int y = 0; y < is.rows; ++y)
        for (int x = 0; x < is.cols; ++x) {
            const int where = in(y, x) > near ? 1 : out(y, x) > near ? 2 : 0;
            const cv::Vec3b &p = a.at<cv::Vec3b>(y, x), &q = b.at<cv::Vec3b>(y, x);
            for (int c = 0; c < 3; ++c)
                sums[where] += (p[c] - q[c]) * (p[c] - q[c]) / 3.0;
            ++counts[where];
        }
    return {std::sqrt(sums[0] / counts[0]), std::sqrt(sums[1] / counts[1]), std::sqrt(sums[2] / counts[2])};
}

Thing thing(cv::Point2d by)
{
    // Two parts of one real photograph: alike, so that nothing but motion tells them apart.
    const cv::Mat scene = real_scene();
    return {.back = scene(cv::Rect(40, 60, 420, 300)).clone(),
            .texture = scene(cv::Rect(260, 20, 300, 300)).clone(),
            .from = {190, 140},
            .by = by};
}

}

TEST_CASE("the edge of what moves over what stands still brings nothing along", "[flow][layer]")
{
    for (const cv::Point2d by : {cv::Point2d(31.5, 8), cv::Point2d(-12, 5.5), cv::Point2d(6, -4)}) {
        const Thing moving = thing(by);
        const Canvas first = moving.picture(0, 100), second = moving.picture(1, 200);
        DenseMotion motion = dense_motion(first, second);
        REQUIRE_FALSE(motion.layer.empty());
        for (const double t : {0.25, 0.5}) {
            const Off with = off(in_between(first, second, motion, t).picture, moving, t);
            DenseMotion without = motion;
            without.layer = {};
            const Off plain = off(in_between(first, second, without, t).picture, moving, t);
            CAPTURE(by.x, by.y, t, with.edge, with.inside, with.outside, plain.edge, plain.inside, plain.outside);
            CHECK(with.edge < 0.5 * plain.edge);
            CHECK(with.edge < 4 * with.inside); // without the layer up to thirteen times
            CHECK(with.inside < 1.15 * plain.inside);
            CHECK(with.outside < plain.outside + 0.1);
        }
    }
}

TEST_CASE("a layer's alpha is what the thing's edge is, in both photos", "[flow][layer]")
{
    const Thing moving = thing({31.5, 8});
    const Canvas first = moving.picture(0, 100), second = moving.picture(1, 200);
    const DenseMotion motion = dense_motion(first, second);
    const MovingLayer& layer = motion.layer;
    REQUIRE_FALSE(layer.empty());
    double off_first = 0, off_second = 0;
    int count = 0;
    for (int y = 0; y < motion.part.height; ++y)
        for (int x = 0; x < motion.part.width; ++x) {
            const cv::Point2d p(motion.part.x + x, motion.part.y + y);
            off_first += std::abs(double(layer.alpha_first(y, x) - moving.alpha(p, 0)));
            off_second += std::abs(double(layer.alpha_second(y, x) - moving.alpha(p, 1)));
            const float edge = moving.alpha(p, 0);
            count += edge > 0 && edge < 1;
        }
    REQUIRE(count > 200);
    // Across the edge, all that it is off by sums up to less than a pixel.
    CHECK(off_first / count < 0.75);
    CHECK(off_second / count < 0.75);
    // What lies behind is known wherever one of the two shows it.
    double differs = 0, known = 0;
    const Canvas back = to_canvas(moving.back)(motion.part);
    for (int y = 0; y < motion.part.height; ++y)
        for (int x = 0; x < motion.part.width; ++x)
            if (layer.background.known(y, x) > 0) {
                ++known;
                for (int c = 0; c < 3; ++c)
                    differs += std::abs(double(layer.background.picture(y, x)[c] - back(y, x)[c])) / 3;
            }
    CHECK(known > 0.7 * motion.part.area());
    CHECK(differs / known < 0.01);
}

TEST_CASE("a dark thing on dark cloth moves as one, up to its outline", "[flow][layer]")
{
    // Only its light spots tell it from what lies behind: no outline does.
    Thing moving = thing({-20, 1});
    moving.back = with_noise(cv::Mat(moving.back.size(), CV_8UC3, cv::Scalar(24, 26, 28)), 2, 1);
    moving.texture = with_noise(cv::Mat(moving.texture.size(), CV_8UC3, cv::Scalar(26, 24, 24)), 2, 2);
    const cv::Point2d middle(150, 150); // of the texture lies in the middle of the thing
    cv::RNG random(4);
    for (int i = 0; i < 25; ++i) {
        const cv::Point at(random.uniform(90, 210), random.uniform(90, 210));
        const cv::Size size(random.uniform(3, 14), random.uniform(3, 14));
        if (cv::norm(cv::Point2d(at) - middle) < radius)
            cv::rectangle(moving.texture, cv::Rect(at, size), cv::Scalar(235, random.uniform(60, 240), 240),
                          cv::FILLED);
    }
    const DenseMotion motion = dense_motion(moving.picture(0, 100), moving.picture(1, 200));
    const MovingLayer& layer = motion.layer;
    REQUIRE_FALSE(layer.empty());
    double worst = 0;
    for (int y = 0; y < motion.part.height; ++y)
        for (int x = 0; x < motion.part.width; ++x)
            if (moving.alpha({double(motion.part.x + x), double(motion.part.y + y)}, 0) > 0)
                worst = std::max(worst, cv::norm(layer.way(y, x) - cv::Vec2f(float(moving.by.x), float(moving.by.y))));
    CHECK(worst < 1);
}

TEST_CASE("where the camera moves, or nothing does, there is no layer", "[flow][layer]")
{
    const Thing moving = thing({12, 5});
    const Canvas first = moving.picture(0, 100);
    const Canvas same = moving.picture(0, 300);
    CHECK(dense_motion(first, same).layer.empty());
    cv::Mat shifted;
    cv::warpAffine(moving.picture(1, 200), shifted, cv::Matx23d(1, 0, 9, 0, 1, 4), moving.back.size(), cv::INTER_CUBIC,
                   cv::BORDER_REFLECT);
    CHECK(dense_motion(first, Canvas(shifted)).layer.empty());
}

TEST_CASE("what differs between two photos lies in a part of them, and noise does not", "[flow]")
{
    const cv::Mat scene = test::real_scene()(cv::Rect(100, 100, 500, 300)).clone();
    const Canvas first = to_canvas(scene);
    CHECK(changes(first, first).part.empty());
    CHECK(changes(first, first).share == 0);

    cv::Mat noise(scene.size(), CV_16SC3), noisy;
    cv::RNG random(9);
    random.fill(noise, cv::RNG::NORMAL, 0, 1.5);
    cv::add(scene, noise, noisy, cv::noArray(), CV_8U);
    CHECK(changes(first, to_canvas(noisy)).part.empty());

    const cv::Rect thing(403, 57, 11, 9);
    cv::Mat other = noisy.clone();
    cv::bitwise_not(other(thing), other(thing));
    const Changes differ = changes(first, to_canvas(other));
    CHECK((differ.part & thing) == thing);
    CHECK(differ.part.area() < 6 * thing.area());
    CHECK(differ.share > double(thing.area()) / double(scene.total()));
    CHECK(differ.share < 0.01);
    // What lies outside is a mix, to the bit; and so is all of what does not differ.
    const DenseMotion motion = dense_motion(first, to_canvas(other));
    const Canvas mix = first * 0.75 + to_canvas(other) * 0.25,
                 made = in_between(first, to_canvas(other), motion, 0.25).picture;
    const cv::Rect beside(0, 0, 300, 300);
    REQUIRE((motion.part & beside).empty());
    CHECK(cv::norm(made(beside), mix(beside), cv::NORM_INF) < 1e-6);
    CHECK(cv::norm(in_between(first, first, dense_motion(first, first), 0.5).picture, first, cv::NORM_INF) < 1e-6);
}

TEST_CASE("what is known stays, and goes on smoothly where nothing is", "[picture]")
{
    cv::Mat1f values(90, 130, 0.0F), known(90, 130, 0.0F);
    for (int y = 0; y < 90; ++y)
        for (int x = 0; x < 40; ++x) {
            values(y, x) = 3 + float(y) / 90;
            known(y, x) = 1;
        }
    const cv::Mat1f on = carried_on(values, known);
    CHECK(cv::norm(on.colRange(0, 40), values.colRange(0, 40), cv::NORM_INF) == 0);
    double least = 0, most = 0;
    cv::minMaxLoc(on, &least, &most);
    CHECK(least >= 3 - 1e-4);
    CHECK(most <= 4 + 1e-4);
    CHECK(on(80, 60) > on(10, 60) + 0.2); // as beside it
    known.setTo(0);
    CHECK(cv::norm(carried_on(values, known), cv::NORM_INF) < 1e-3); // nothing is known at all
    for (const cv::Size size : {cv::Size(1, 1), cv::Size(3, 200)})
        CHECK(cv::norm(carried_on(cv::Mat1f(size, 2.0F), cv::Mat1f(size, 1.0F)), cv::Mat1f(size, 2.0F), cv::NORM_INF) <
              1e-5);
}

}
