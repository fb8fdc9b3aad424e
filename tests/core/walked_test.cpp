// Walked shots: the path as it is measured, smoothed, limited, and kept on a target.
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/steady/smooth_path.h"
#include "core/steps/steady/steady_edits.h"
#include "core/steps/steady/walked.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const cv::Size size(900, 600);

struct Path
{
    std::vector<Transform> poses;  ///< of points of a fixed plane to points of each photo
    std::vector<Transform> smooth; ///< without the jitter
};

/// Aside and back, slowly turning, with every step felt.
Path walk(int photos, double jitter)
{
    std::mt19937 random(5);
    std::normal_distribution<double> normal(0, 1);
    Path path;
    for (int i = 0; i < photos; ++i) {
        const double along = double(i) / photos;
        const cv::Point2d at(90 * std::sin(along * 4), 60 * along * along - 30 * along);
        path.smooth.push_back(turned_by(2 * along, 1 + 0.05 * along, at));
        const cv::Point2d step(jitter * normal(random), jitter * normal(random));
        path.poses.push_back(turned_by(2 * along + jitter * 0.02 * normal(random), 1 + 0.05 * along, at + step));
    }
    return path;
}

std::vector<PathStep> steps_of(const std::vector<Transform>& poses, double fps = 24)
{
    std::vector<PathStep> steps;
    for (std::size_t i = 0; i < poses.size(); ++i)
        steps.push_back({double(i) / fps,
                         i == 0 ? std::nullopt : std::optional<Transform>(poses[i] * poses[i - 1].inv()),
                         std::nullopt});
    return steps;
}

double rms(const std::vector<double>& v)
{
    double sum = 0;
    for (const double x : v)
        sum += x * x;
    return std::sqrt(sum / double(v.size()));
}

/// How rough a path is: second differences of where the film shows one point of the plane.
double roughness(const std::vector<Transform>& poses, const std::vector<Transform>& from_film)
{
    std::vector<cv::Point2d> at;
    for (std::size_t i = 0; i < poses.size(); ++i)
        at.push_back(moved((from_film.empty() ? Transform::eye() : from_film[i].inv()) * poses[i], {450, 300}));
    std::vector<double> bends;
    for (std::size_t i = 2; i < at.size(); ++i) {
        const cv::Point2d bend = at[i] - 2 * at[i - 1] + at[i - 2];
        bends.push_back(std::hypot(bend.x, bend.y));
    }
    return rms(bends);
}

}

TEST_CASE("a smooth path stays what it was, and jitter is taken out", "[steady][walk]")
{
    const Smoothing smoothing{.strength_s = 1, .most_lost = 0.2};
    const Path path = walk(120, 4);
    // A curved path without jitter is hardly touched: it is no shake.
    const auto calm = smooth_path(steps_of(path.smooth), smoothing, Movement::perspective, size);
    for (std::size_t i = 12; i + 12 < calm.size(); ++i)
        CHECK(corner_distance(calm[i], Transform::eye(), size) < 0.3);
    const auto steps = steps_of(path.poses);
    const auto from_film = smooth_path(steps, smoothing, Movement::similar, size);
    CHECK(roughness(path.poses, from_film) < 0.03 * roughness(path.poses, {}));
    CHECK(roughness(path.poses, from_film) < 0.5); // px: nobody sees it
    // What it says of itself agrees: jitter before of about the 4 px and the turn, hardly any after.
    const double before = rms(jitter_px(steps, {}, 1, size)), after = rms(jitter_px(steps, from_film, 1, size));
    CHECK(before > 4);
    CHECK(before < 9);
    CHECK(after < 0.12 * before);
    // As shot where nothing is smoothed; one photo alone; none.
    for (const Transform& t : smooth_path(steps, {.strength_s = 0.01, .most_lost = 0.2}, Movement::similar, size))
        CHECK(corner_distance(t, Transform::eye(), size) < 1e-6);
    CHECK(smooth_path(steps_of({Transform::eye()}), smoothing, Movement::similar, size).size() == 1);
    CHECK(smooth_path({}, smoothing, Movement::similar, size).empty());
}

TEST_CASE("no photo is moved farther than may be lost, and none jumps for it", "[steady][walk]")
{
    const Path path = walk(120, 9);
    const auto steps = steps_of(path.poses);
    for (const double lost : {0.0, 0.03, 0.08, 0.2}) {
        const auto from_film = smooth_path(steps, {.strength_s = 1, .most_lost = lost}, Movement::similar, size);
        const double side = std::sqrt(1 - lost);
        for (const Transform& t : from_film)
            for (const double x : {-0.5, 0.5})
                for (const double y : {-0.5, 0.5}) {
                    const cv::Point2d p = moved(t, cv::Point2d(449.5, 299.5) + side * cv::Point2d(900 * x, 600 * y));
                    CHECK(p.x > -0.5 - 0.01);
                    CHECK(p.x < 899.5 + 0.01);
                    CHECK(p.y > -0.5 - 0.01);
                    CHECK(p.y < 599.5 + 0.01);
                }
        CHECK(roughness(path.poses, from_film) <= roughness(path.poses, {}) * 1.001);
    }
}

TEST_CASE("a path that is broken is smoothed in its pieces", "[steady][walk]")
{
    const Path path = walk(60, 4);
    auto whole = steps_of(path.poses);
    whole[30].from_before.reset();
    const auto broken = smooth_path(whole, {}, Movement::similar, size);
    const std::vector<Transform> first(path.poses.begin(), path.poses.begin() + 30),
        second(path.poses.begin() + 30, path.poses.end());
    auto alone = smooth_path(steps_of(first), {}, Movement::similar, size);
    const auto behind = smooth_path(steps_of(second), {}, Movement::similar, size);
    alone.insert(alone.end(), behind.begin(), behind.end());
    for (std::size_t i = 0; i < 60; ++i)
        CHECK(corner_distance(broken[i], alone[i], size) < 1e-6);
}

TEST_CASE("with a target the film keeps it where it is", "[steady][walk]")
{
    const Path path = walk(60, 4);
    auto steps = steps_of(path.poses);
    const cv::Point2d thing(300, 250);
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (i < 20 || i >= 26) // it is not seen all the time
            steps[i].target = moved(path.poses[i], thing);
    const auto from_film = smooth_path(steps, {.strength_s = 0.5, .most_lost = 0.8}, Movement::similar, size);
    std::vector<cv::Point2d> seen;
    for (std::size_t i = 0; i < steps.size(); ++i)
        seen.push_back(moved(from_film[i].inv() * path.poses[i], thing));
    for (std::size_t i = 0; i < seen.size(); ++i)
        CHECK(cv::norm(seen[i] - seen[0]) < (steps[i].target ? 1e-6 : 5)); // 5: the jitter that is left there
}

TEST_CASE("a walk is measured photo by photo, over photos that say nothing, to where nothing leads on",
          "[steady][walk]")
{
    const Path path = walk(16, 3);
    std::vector<cv::Mat> photos;
    for (std::size_t i = 0; i < 12; ++i)
        photos.push_back(with_noise(photo_of_scene(path.poses[i]), 2, i));
    photos[4] = cv::Mat::zeros(size, CV_8UC3); // black
    cv::Mat other;
    cv::flip(real_scene(), other, -1); // another place
    for (std::size_t i = 12; i < 16; ++i) {
        cv::Mat photo;
        cv::warpPerspective(other, photo, Transform(1, 0, 150, 0, 1, 150, 0, 0, 1) * path.poses[i].inv(), size,
                            cv::INTER_LANCZOS4 | cv::WARP_INVERSE_MAP);
        photos.push_back(photo);
    }
    const InMemory source(photos);
    const WalkRegistration w = follow_walk(source.photos(), {.movement = Movement::similar}, source, {});
    REQUIRE(w.photos.size() == 16);
    CHECK(w.size == size);
    CHECK_FALSE(w.photos[0].from_before);
    CHECK_FALSE(w.photos[12].from_before); // begins anew
    for (std::size_t i = 0; i < 16; ++i) {
        INFO("photo " << i << ": " << w.photos[i].doubt);
        CHECK(w.photos[i].doubt.empty() == (i != 4 && i != 12));
        if (i == 0 || i == 12 || i == 4)
            continue;
        const Transform from_before =
            i == 5 ? *w.photos[5].from_before * *w.photos[4].from_before : *w.photos[i].from_before;
        CHECK(corner_distance(from_before, path.poses[i] * path.poses[i == 5 ? 3 : i - 1].inv(), size) < 0.1);
    }
    CHECK_THROWS_AS(follow_walk({}, {}, source, {}), Failure);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(follow_walk(source.photos(), {}, source, Job(stop.get_token())), Stopped);
}

TEST_CASE("a target is followed through the photos, also when it moves by itself, until it is gone", "[steady][walk]")
{
    const Path path = walk(12, 3);
    std::vector<cv::Mat> photos;
    cv::Mat thing;
    cv::resize(real_scene()(cv::Rect(900, 700, 300, 300)), thing, {140, 140});
    std::vector<cv::Point> at;
    for (int i = 0; i < 12; ++i) {
        cv::Mat photo = photo_of_scene(path.poses[std::size_t(i)]);
        at.emplace_back(200 + 12 * i, 180 + 5 * i);
        if (i < 9)
            thing.copyTo(photo(cv::Rect(at.back(), thing.size())));
        photos.push_back(with_noise(photo, 2, std::uint64_t(i)));
    }
    const InMemory source(photos);
    WalkRegistration w = follow_walk(source.photos(), {.movement = Movement::similar}, source, {});
    const cv::Rect2d box((at[3].x + 10) / 900.0, (at[3].y + 10) / 600.0, 120 / 900.0, 120 / 600.0);
    follow_target(source.photos(), {3, box}, source, {}, w);
    for (std::size_t i = 0; i < 12; ++i) {
        INFO(i);
        CHECK(w.photos[i].target.has_value() == (i < 9));
        if (!w.photos[i].target)
            continue;
        const cv::Point2d middle = cv::Point2d(at[i]) + cv::Point2d(69.5, 69.5);
        CHECK(cv::norm(*w.photos[i].target - middle) < 0.3);
    }
    const std::vector<cv::Mat> plain(2, cv::Mat(size, CV_8UC3, cv::Scalar(90, 90, 90)));
    const InMemory walls(plain);
    WalkRegistration nothing = follow_walk(walls.photos(), {}, walls, {});
    CHECK_THROWS_AS(follow_target(walls.photos(), {0, {0.2, 0.2, 0.3, 0.3}}, walls, {}, nothing), Failure);
}

namespace {

constexpr ShotIndex first_shot(0);

Project walked_project(const TempFolder& t, const Path& path, Hold hold)
{
    for (std::size_t i = 0; i < path.poses.size(); ++i)
        write_picture(t / "s" / ("p" + std::to_string(100 + i) + ".png"), photo_of_scene(path.poses[i]));
    const std::array places{t / "s"};
    const Project p = add_scanned({}, scan(places, {}, {}), hold, Division::one_shot);
    const ToMeasure photos = to_measure(p.shot(first_shot));
    return smooth_walk(p, first_shot, photos,
                       follow_walk(photos.photos, {.movement = Movement::similar}, Originals(), {}), Movement::similar,
                       Smoothing{.strength_s = 0.5, .most_lost = 0.2});
}

}

TEST_CASE("a walked shot is smooth in its film, set again without measuring, and true to what is done to its photos",
          "[steady][walk][document]")
{
    TempFolder t;
    Path path = walk(80, 3);
    path.poses.resize(20);
    const Project p = walked_project(t, path, Frames{1});
    const auto from_film = [](const Project& q) {
        std::vector<Transform> all;
        for (const ShotPhoto& photo : q.shots[0]->photos)
            if (alignment_of(photo) && !photo.aside)
                all.push_back(alignment_of(photo)->from_film);
        return all;
    };
    for (std::size_t i = 1; i < 20; ++i) {
        const Alignment& a = *alignment_of(p.shots[0]->photos[i]);
        CHECK(corner_distance(*a.from_before, path.poses[i] * path.poses[i - 1].inv(), size) < 0.05);
    }
    CHECK(roughness(path.poses, from_film(p)) < 0.3 * roughness(path.poses, {}));
    // The pictures themselves: the film's trembles less, by another method.
    const auto tremble = [&](bool steady) {
        double sum = 0;
        cv::Mat before;
        std::vector<cv::Point2d> steps;
        for (std::int64_t i = 0; i < 20; ++i) {
            const auto picture =
                steady ? render(request_for_shares(p.shot(first_shot), std::array{Share{PhotoIndex(i)}}, {450, 300}),
                                Originals())
                       : render(request_for_photo(p.shot(first_shot), PhotoIndex(i), {450, 300}), Originals());
            cv::Mat grey;
            cv::cvtColor(picture.value(), grey, cv::COLOR_BGR2GRAY);
            grey.convertTo(grey, CV_64F);
            if (!before.empty()) {
                cv::Mat window;
                cv::createHanningWindow(window, grey.size(), CV_64F);
                steps.push_back(cv::phaseCorrelate(before, grey, window)); // Foroosh, Zerubia, Berthod 2002
            }
            before = grey;
        }
        for (std::size_t i = 1; i < steps.size(); ++i)
            sum += std::pow(cv::norm(steps[i] - steps[i - 1]), 2);
        return std::sqrt(sum);
    };
    CHECK(tremble(true) < 0.35 * tremble(false));

    // The strength is in seconds: photos held twice as long need twice of it for the same.
    const Smoothing twice{.strength_s = 1, .most_lost = 0.2};
    const Project slow =
        set_smoothing(set_hold(p, first_shot, std::array{PhotoIndex(0)}, Frames{1}), first_shot, twice);
    CHECK(from_film(slow) != from_film(p));
    std::vector<PhotoIndex> all;
    for (std::int64_t i = 0; i < 20; ++i)
        all.emplace_back(i);
    const Project held_long = set_smoothing(set_hold(p, first_shot, all, Frames{2}), first_shot, twice);
    const auto a = from_film(held_long), b = from_film(p);
    for (std::size_t i = 0; i < a.size(); ++i)
        CHECK(corner_distance(a[i], b[i], size) < 1e-6);

    // A photo set aside: its step stays part of the way.
    const Project without = set_smoothing(set_aside(p, first_shot, std::array{PhotoIndex(7)}, true), first_shot,
                                          {.strength_s = 0.6, .most_lost = 0.2});
    Path less = path;
    less.poses.erase(less.poses.begin() + 7);
    CHECK(roughness(less.poses, from_film(without)) < 0.3 * roughness(path.poses, {}));
    // A photo turned: the way is broken there, and no wrong step is made up.
    const Project turned = turn_photos(p, first_shot, std::array{PhotoIndex(7)}, 2);
    CHECK_FALSE(alignment_of(turned.shots[0]->photos[7]));
    CHECK_FALSE(alignment_of(turned.shots[0]->photos[8])->from_before);
    // Photos in another order: steps between photos that no longer follow each other go.
    const Project moved_on = move_photos(p, first_shot, std::array{PhotoIndex(3)}, PhotoIndex(10));
    int broken = 0;
    for (std::size_t i = 1; i < 20; ++i)
        broken += !alignment_of(moved_on.shots[0]->photos[i])->from_before;
    CHECK(broken == 3);

    save_project(p, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").project == p);
    CHECK(forget_target(p, first_shot) == p); // there is none
    CHECK_FALSE(alignment_of(set_smoothing(as_shot(p, first_shot), first_shot, twice).shots[0]->photos[3]));
}

TEST_CASE("what was trusted is a map, and the still background follows from it", "[steady][trust]")
{
    std::vector<cv::Mat> photos;
    cv::Mat thing;
    cv::resize(real_scene()(cv::Rect(900, 700, 300, 300)), thing, {300, 300});
    for (int i = 0; i < 10; ++i) {
        cv::Mat photo = photo_of_scene(turned_by(0, 1, {double(i % 3), 0}));
        thing.copyTo(photo(cv::Rect(300 + 3 * i, 150 + 2 * i, 300, 300)));
        photos.push_back(photo);
    }
    const InMemory source(photos);
    const StillRegistration held = hold_still(source.photos(), {}, source, {});
    REQUIRE_FALSE(held.trusted.empty());
    const auto trust_at = [&](double x, double y) {
        return held.trusted
            .tenths[std::size_t(int(y * held.trusted.rows) * held.trusted.columns + int(x * held.trusted.columns))];
    };
    CHECK(trust_at(0.1, 0.5) >= 8);
    CHECK(trust_at(0.5, 0.5) <= 2);
    const Region still = still_background(held.trusted);
    REQUIRE_FALSE(still.look_at.empty());
    const auto in = [&](double x, double y) {
        return std::any_of(still.look_at.begin(), still.look_at.end(),
                           [&](const cv::Rect2d& r) { return r.contains(cv::Point2d(x, y)); });
    };
    CHECK(in(0.1, 0.5));
    CHECK_FALSE(in(0.5, 0.5));
    TrustMap all;
    all.columns = all.rows = 2;
    all.tenths = {10, 10, 9, 8};
    CHECK(still_background(all) == Region());
    all.tenths = {10, -1, 10, 3};
    CHECK(still_background(all).look_at == std::vector{cv::Rect2d(0, 0, 0.5, 1)});
}

}
