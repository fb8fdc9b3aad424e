// What a lens did to straight lines, walls that lean together, and both in the one placement of a photo.
#include "core/base/problem.h"
#include "core/picture/canvas.h"
#include "core/picture/frame_view.h"
#include "core/picture/picture.h"
#include "core/picture/straight_rows.h"
#include "core/project/project_file.h"
#include "core/source/lens.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/frame/level.h"
#include "core/steps/retouch/healing.h"
#include "core/steps/steady/steady_values.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/calib3d.hpp>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <functional>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

Project of_photos(int count, cv::Size size)
{
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < count; ++i) {
        auto p = std::make_shared<PhotoFile>();
        p->file = "/s/" + std::to_string(i) + ".png";
        p->size = size;
        shot.photos.push_back({p, Frames{1}});
    }
    give_ids(shot);
    Project project;
    project.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return project;
}

/// A picture of this size, each pixel the mean of what the scene has at 5 x 5 points of it; grey, in linear light.
Canvas sampled(cv::Size size, const std::function<double(cv::Point2d)>& light)
{
    Canvas canvas(size);
    constexpr int fine = 5;
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            double sum = 0;
            for (int i = 0; i < fine; ++i)
                for (int k = 0; k < fine; ++k)
                    sum += light({x + (i + 0.5) / fine - 0.5, y + (k + 0.5) / fine - 0.5});
            const auto v = float(sum / fine / fine);
            canvas(y, x) = {v, v, v, 1};
        }
    return canvas;
}

Canvas drawn(const CanvasRows& rows)
{
    Canvas canvas(rows.size);
    for (int y = 0; y < rows.size.height; ++y)
        rows.row(y, 0, rows.size.width, canvas.ptr<float>(y));
    return canvas;
}

CanvasRows rows_of(const Canvas& canvas)
{
    return {canvas.size(),
            [canvas](int y, int begin, int end, float* to) {
                std::copy_n(canvas.ptr<float>(y) + std::ptrdiff_t(begin) * 4, std::ptrdiff_t(end - begin) * 4, to);
            },
            true,
            {}};
}

/// Soft waves: no finer than what a photo can hold.
double waves(cv::Point2d p)
{
    return 0.5 + 0.2 * std::sin(p.x / 7) + 0.2 * std::cos((p.x + 2 * p.y) / 11);
}

/// A wall of dark uprights and level joints on light ground, with noise: what a camera that looks up makes of it.
cv::Mat wall(cv::Size size, double turn, double uprights, unsigned seed)
{
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> share(0, 1);
    std::vector<double> columns, courses;
    for (double x = -size.width * 0.5; x < size.width * 1.5; x += size.width * (0.04 + 0.09 * share(random)))
        columns.push_back(x);
    for (double y = -size.height * 0.5; y < size.height * 1.5; y += size.height * (0.08 + 0.12 * share(random)))
        courses.push_back(y);
    const Transform upright = out_of_upright(turn, uprights, cv::Size2d(size)).inv();
    const auto is_near = [](const std::vector<double>& sorted, double at, double by) {
        const auto next = std::lower_bound(sorted.begin(), sorted.end(), at - by);
        return next != sorted.end() && *next < at + by;
    };
    const Canvas light = sampled(size, [&](cv::Point2d p) {
        const cv::Point2d at = moved(upright, p + cv::Point2d(0.5, 0.5));
        if (is_near(columns, at.x, 3))
            return 0.15;
        return is_near(courses, at.y, 1.5) ? 0.4 : 0.7;
    });
    return with_noise(quantised(light), 4, seed);
}

}

TEST_CASE("a lens's rings lie where Brown's formula has them, and where OpenCV does", "[lens]")
{
    const cv::Size photo(1200, 800);
    const Lens lens{-0.11, 0.03};
    const LensMap map(lens, cv::Size2d(photo));
    // OpenCV's own distortion, with half the diagonal as focal length. It does not fill the photo again: a factor.
    const double unit = std::hypot(1200, 800) / 2;
    const cv::Matx33d camera{unit, 0, 599.5, 0, unit, 399.5, 0, 0, 1};
    const cv::Vec4d coefficients(lens.k1, lens.k2, 0, 0);
    std::vector<double> factors;
    for (const cv::Point2d& p : {cv::Point2d(3, 5), {300, 300}, {599.5, 20}, {1100, 700}, {650, 390}}) {
        std::vector<cv::Point3d> ray{{(p.x - 599.5) / unit, (p.y - 399.5) / unit, 1}};
        std::vector<cv::Point2d> drawn_at;
        cv::projectPoints(ray, cv::Vec3d(), cv::Vec3d(), camera, coefficients, drawn_at);
        const cv::Point2d mine = map.taken(p) - cv::Point2d(599.5, 399.5);
        const cv::Point2d theirs = drawn_at.front() - cv::Point2d(599.5, 399.5);
        CHECK(std::abs(mine.x * theirs.y - mine.y * theirs.x) < 1e-6 * unit);
        factors.push_back(cv::norm(theirs) / cv::norm(mine));
        const cv::Point2d back = map.straight(map.taken(p));
        CHECK(cv::norm(back - p) < 1e-6);
    }
    for (const double f : factors)
        CHECK(f == Approx(factors.front()).epsilon(1e-9));
}

TEST_CASE("without what the lens did, a photo is filled to its corners, and no smaller than it must be", "[lens]")
{
    for (const Lens& lens : {Lens{-0.2, 0}, Lens{0.15, 0}, Lens{-0.15, 0.1}, Lens{0.1, -0.1}, Lens{0, 0.1}})
        for (const cv::Size2d& photo : {cv::Size2d(600, 400), cv::Size2d(400, 600), cv::Size2d(500, 500)}) {
            CAPTURE(lens.k1, lens.k2, photo.width, photo.height);
            REQUIRE(can_be_taken_out(lens));
            const LensMap map(lens, photo);
            double nearest = 1e9; // to the edge, over all of the result's edge
            for (int i = 0; i <= 200; ++i)
                for (const cv::Point2d& p :
                     {cv::Point2d(photo.width * i / 200, 0), cv::Point2d(photo.width * i / 200, photo.height),
                      cv::Point2d(0, photo.height * i / 200), cv::Point2d(photo.width, photo.height * i / 200)}) {
                    const cv::Point2d half(0.5, 0.5), at = map.taken(p - half) + half;
                    CHECK(at.x > -0.05);
                    CHECK(at.y > -0.05);
                    CHECK(at.x < photo.width + 0.05);
                    CHECK(at.y < photo.height + 0.05);
                    nearest = std::min({nearest, at.x, at.y, photo.width - at.x, photo.height - at.y});
                }
            CHECK(nearest < 0.6);
        }
    CHECK_FALSE(can_be_taken_out({-0.4, 0}));
    CHECK_FALSE(can_be_taken_out({-0.3, -0.2}));
    CHECK_FALSE(can_be_taken_out({std::nan(""), 0}));
}

TEST_CASE("what is drawn with a lens is straight without it", "[lens]")
{
    const cv::Size size(480, 320);
    for (const Lens& lens : {Lens{-0.18, 0.04}, Lens{0.12, 0}}) {
        const LensMap map(lens, cv::Size2d(size));
        // As the lens draws it: what is at a point as taken is what was at the point without it.
        const Canvas taken = sampled(size, [&](cv::Point2d p) { return waves(map.straight(p)); });
        const Canvas straight = drawn(straight_rows(rows_of(taken), lens)), wanted = sampled(size, waves);
        const cv::Rect inner(6, 6, size.width - 12, size.height - 12); // beyond the edge nothing is known
        cv::Mat off;
        cv::absdiff(cv::Mat(straight)(inner).reshape(1), cv::Mat(wanted)(inner).reshape(1), off);
        double worst = 0;
        cv::minMaxLoc(off, nullptr, &worst);
        CAPTURE(lens.k1, worst);
        CHECK(worst < 0.004);
        // And it does something.
        cv::absdiff(cv::Mat(taken)(inner).reshape(1), cv::Mat(wanted)(inner).reshape(1), off);
        cv::minMaxLoc(off, nullptr, &worst);
        CHECK(worst > 0.2);
    }
    const Canvas plain = sampled({40, 30}, waves);
    CHECK(cv::norm(drawn(straight_rows(rows_of(plain), {})), plain) == 0);
}

TEST_CASE("rows of a photo without its lens are the same in whatever order and parts they are asked for", "[lens]")
{
    const Canvas photo = sampled({200, 300}, waves);
    const Lens lens{-0.2, 0.05};
    const Canvas whole = drawn(straight_rows(rows_of(photo), lens));
    const CanvasRows rows = straight_rows(rows_of(photo), lens);
    Canvas parts(photo.size());
    std::vector<int> order(300);
    std::iota(order.begin(), order.end(), 0);
    std::shuffle(order.begin(), order.end(), std::mt19937(7));
    for (const int y : order)
        for (const auto& [begin, end] : {std::pair(121, 200), std::pair(0, 121)})
            rows.row(y, begin, end, parts.ptr<float>(y) + std::ptrdiff_t(begin) * 4);
    CHECK(cv::norm(whole, parts, cv::NORM_INF) < 1e-5); // sums in another order
}

TEST_CASE("a frame without what the lens did is the same at half its size, and on a turned photo", "[lens][frame]")
{
    const cv::Size size(480, 320);
    const Lens lens{-0.15, 0};
    const LensMap map(lens, cv::Size2d(size));
    const OnePicture source(quantised(sampled(size, [&](cv::Point2d p) { return waves(map.straight(p)); })));
    const Project p = set_lens(of_photos(2, size), first, lens);
    CHECK(lens_of(p.shot(first)) == lens);
    const auto film = film_of(p, first);
    REQUIRE(film->size() == size);
    const auto seen = [&](cv::Size at) { return *render(film->frame(FrameIndex(0), {.size = at}), source); };
    const cv::Mat wanted = quantised(sampled(size, waves));
    CHECK(cv::PSNR(seen(size), wanted) > 40);
    const cv::Mat half_wanted =
        quantised(sampled(size / 2, [](cv::Point2d q) { return waves(q * 2 + cv::Point2d(0.5, 0.5)); }));
    CHECK(cv::PSNR(seen(size / 2), half_wanted) > 38);
    // Not a pixel is as it was, though nothing else is done.
    CHECK(cv::PSNR(*render(film->frame(FrameIndex(0), {.size = size, .corrections = Corrections::none}), source),
                   seen(size)) > 60); // how a photo lies is no correction
}

TEST_CASE("a lens that is set after measuring leaves photos to look at, and set back none", "[lens][steady]")
{
    Project p = of_photos(3, {300, 200});
    auto shot = std::make_shared<Shot>(p.shot(first));
    shot->steps.edit<Steadying>().size = {300, 200};
    shot->steps.edit<Steadying>().crop = {0, 0, 300, 200};
    for (std::size_t i = 0; i < 3; ++i)
        shot->photos.edit(i).steps.set(Alignment{});
    p.shots[0] = shot;
    const auto doubts = [](const Project& q) {
        std::size_t count = 0;
        for (const ShotPhoto& photo : q.shot(first).photos)
            count += photo.steps.get<Alignment>().doubt == another_lens;
        return count;
    };
    CHECK(doubts(p) == 0);
    const Project with = set_lens(p, first, {-0.1, 0});
    CHECK(doubts(with) == 3);
    CHECK(doubts(set_lens(with, first, {-0.05, 0})) == 3);
    CHECK(doubts(set_lens(with, first, {})) == 0);
    CHECK_THROWS_AS(set_lens(p, first, {-0.3, -0.2}), Failure);
}

TEST_CASE("a speck on the sensor is healed where it is, whatever the lens did", "[lens][retouch]")
{
    const cv::Size size(480, 320);
    cv::Mat photo(size, CV_8UC3, cv::Scalar(120, 130, 140));
    const cv::Point speck(40, 36); // near a corner, where a lens does most
    cv::circle(photo, speck, 4, cv::Scalar(10, 10, 10), -1, cv::LINE_AA);
    const OnePicture source(photo);
    const Lens lens{-0.2, 0};
    Healing healing;
    HealedMark mark;
    mark.points = {{(speck.x + 0.5) / size.width, (speck.y + 0.5) / size.height}};
    mark.radius = 7.0 / size.width;
    mark.soft = 0.2;
    mark.on_photo = true;
    mark.offset = {0.15, 0.1};
    healing.marks = {mark};
    const auto darkest = [&](const Lens& taken_out, bool healed) {
        const Project p = taken_out.nothing() ? of_photos(1, size) : set_lens(of_photos(1, size), first, taken_out);
        FrameRequest request = film_of(p, first)->frame(FrameIndex(0), {.size = size});
        if (healed)
            std::get<PlacedPhoto>(request.parts.front().what).stages.set(healing);
        cv::Mat grey;
        cv::cvtColor(*render(request, source), grey, cv::COLOR_BGR2GRAY);
        double least = 0;
        cv::minMaxLoc(grey, &least);
        return least;
    };
    for (const Lens& l : {Lens{}, lens}) {
        CAPTURE(l.k1);
        CHECK(darkest(l, false) < 60);
        CHECK(darkest(l, true) > 120);
    }
}

TEST_CASE("walls that lean together stand upright once the top is drawn apart", "[level][frame]")
{
    const cv::Size2d size(1200, 800);
    const Transform t = out_of_upright(0, 0.2, size);
    // A line that is upright in the result comes from one that leans to the middle at its top.
    const cv::Point2d top = moved(t, {900, 0}), bottom = moved(t, {900, 800});
    CHECK(top.x == Approx(600 + 300 / 1.2));
    CHECK(bottom.x == Approx(600 + 300 / 0.8));
    CHECK(moved(t, {600, 400}) == cv::Point2d(600, 400));
    CHECK(out_of_upright(3, 0, size) == out_of_box({.straighten = 3}, size));
    for (const double turn : {0.0, -4.0, 8.0})
        for (const double uprights : {-0.25, 0.1, 0.3})
            for (const double ratio : {1.5, 0.8, 2.39}) {
                const cv::Rect2d box = largest_box(size, ratio, turn, uprights);
                CAPTURE(turn, uprights, ratio, box);
                CHECK(box.width * size.width / (box.height * size.height) == Approx(ratio));
                const Transform back = out_of_upright(turn, uprights, size);
                double nearest = 1e9;
                for (const double x : {box.x, box.br().x})
                    for (const double y : {box.y, box.br().y}) {
                        const cv::Point2d at = moved(back, {x * size.width, y * size.height});
                        nearest = std::min({nearest, at.x, at.y, size.width - at.x, size.height - at.y});
                    }
                CHECK(nearest > -0.01);
                CHECK(nearest < 1);
            }
}

TEST_CASE("uprights and the turn are found on made-up walls under noise, and nothing on waves", "[level]")
{
    std::mt19937 random(20);
    std::uniform_real_distribution<double> share(-1, 1);
    int right = 0;
    constexpr int walls = 10;
    for (int i = 0; i < walls; ++i) {
        const double turn = 6 * share(random), uprights = 0.25 * share(random);
        const auto found = find_uprights(wall({900, 600}, turn, uprights, 100U + unsigned(i)));
        CAPTURE(i, turn, uprights, found.has_value());
        if (found) {
            CAPTURE(found->turn, found->uprights);
            right += std::abs(found->turn - turn) < 0.2 && std::abs(found->uprights - uprights) < 0.015;
        }
    }
    CHECK(right == walls);
    CHECK_FALSE(find_uprights(quantised(sampled({400, 300}, waves))).has_value());
    CHECK_FALSE(find_uprights(cv::Mat(300, 400, CV_8UC3, cv::Scalar::all(90))).has_value());
    CHECK_FALSE(find_uprights(cv::Mat(2, 2, CV_8UC3, cv::Scalar::all(90))).has_value());
}

TEST_CASE("an upright frame is what arithmetic has at its corners, and is exported inside the photo", "[level][frame]")
{
    const cv::Size size(480, 320);
    const Project p = make_upright(of_photos(2, size), first, {2.004, 0.1004});
    CHECK(framing_of(p.shot(first)).straighten == 2);
    CHECK(framing_of(p.shot(first)).uprights == 0.1);
    const auto film = film_of(p, first);
    const cv::Size frame = film->size();
    const FrameView view = still_view(framing_of(p.shot(first)), size);
    const Transform to_photo = out_of_box(view, cv::Size2d(size));
    const OnePicture source(quantised(sampled(size, waves)));
    const cv::Mat seen = *render(film->frame(FrameIndex(0), {.size = frame}), source);
    const cv::Size2d box = box_size(view, cv::Size2d(size));
    const cv::Mat wanted = quantised(sampled(frame, [&](cv::Point2d q) {
        const cv::Point2d half(0.5, 0.5), in_box = q + half;
        return waves(moved(to_photo, {in_box.x * box.width / frame.width, in_box.y * box.height / frame.height}) -
                     half);
    }));
    CHECK(cv::PSNR(seen, wanted) > 40);
}

TEST_CASE("what is set of the lens and of uprights is read again", "[lens][document]")
{
    const TempFolder t;
    Project p = set_lens(of_photos(2, {300, 200}), first, {-0.0625, 0.03125});
    p = change_framing(p, first, [](Framing& f) { f.uprights = -0.125; });
    const auto file = t / "p.frenlo";
    save_project(p, file);
    const Project read = load_project(file).project;
    CHECK(lens_of(read.shot(first)) == Lens{-0.0625, 0.03125});
    CHECK(framing_of(read.shot(first)).uprights == -0.125);
    // Copied with the rest of the dress.
    Project two = p;
    two.shots.push_back(std::make_shared<const Shot>([] {
        Shot s = of_photos(1, {300, 200}).shot(first);
        s.name = "other";
        return s;
    }()));
    two = copy_dress(two, first, std::array{two.shot(ShotIndex(1)).id});
    CHECK(lens_of(two.shot(ShotIndex(1))) == Lens{-0.0625, 0.03125});
    CHECK(framing_of(two.shot(ShotIndex(1))).uprights == -0.125);
}

}
