// Parts that play backwards, the long shutter, and places where a film stumbles.
#include "core/picture/in_between.h"
#include "core/picture/long_shutter.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/steps/pace/stumbles.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <numeric>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

Project of_source(const InMemory& source, Hold hold = Frames{1})
{
    Shot shot;
    shot.name = "s";
    for (const SeenPhoto& seen : source.photos())
        shot.photos.push_back({seen.photo, hold});
    give_ids(shot);
    Project p;
    p.delivered_at = Rate(24);
    p.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return p;
}

Project of_count(int count, Hold hold = Frames{1})
{
    return of_source(InMemory(std::vector<cv::Mat>(std::size_t(count), cv::Mat(48, 64, CV_8UC3, cv::Scalar::all(9)))),
                     hold);
}

std::string letters(const Project& p)
{
    std::string all;
    const Schedule schedule = schedule_of(p, p.shot(first));
    for (const FrameSpan& s : schedule.spans())
        all += char('A' + s.photo.value);
    return all;
}

std::vector<PhotoIndex> numbers(std::initializer_list<std::int64_t> list)
{
    std::vector<PhotoIndex> all;
    for (const std::int64_t n : list)
        all.emplace_back(n);
    return all;
}

/// A scene with a textured disc at x, of real texture; steady light.
cv::Mat with_disc(double x, std::uint64_t noise = 0, cv::Size size = {480, 320})
{
    static const cv::Mat& scene = real_scene();
    cv::Mat back = scene(cv::Rect({30, 40}, size)).clone();
    const cv::Mat texture = scene(cv::Rect(600, 500, 120, 120));
    cv::Mat carried;
    const cv::Matx23d move(1, 0, x - 60, 0, 1, 160 - 60);
    cv::warpAffine(texture, carried, move, size, cv::INTER_CUBIC, cv::BORDER_REPLICATE);
    cv::Mat out = back.clone();
    for (int y = 0; y < size.height; ++y)
        for (int k = 0; k < size.width; ++k) {
            const double share = std::clamp(44.5 - std::hypot(k - x, y - 160), 0.0, 1.0);
            for (int c = 0; c < 3; ++c)
                out.at<cv::Vec3b>(y, k)[c] = cv::saturate_cast<std::uint8_t>(
                    share * (220 - 0.5 * carried.at<cv::Vec3b>(y, k)[c]) + (1 - share) * back.at<cv::Vec3b>(y, k)[c]);
        }
    return noise ? with_noise(out, 1.5, noise) : out;
}

double rms(const Canvas& a, const Canvas& b, const cv::Mat1b& where)
{
    cv::Mat d = cv::Mat(a) - cv::Mat(b);
    d = d.mul(d);
    const cv::Scalar m = cv::mean(d, where);
    return std::sqrt((m[0] + m[1] + m[2]) / 3);
}

}

TEST_CASE("a part plays backwards, and the rest as before", "[timing][pacing][backwards]")
{
    const Project p = of_count(8);
    const auto turned = [&](std::initializer_list<std::int64_t> list) {
        return set_part_backwards(p, first, numbers(list), true);
    };
    CHECK(letters(p) == "ABCDEFGH");
    CHECK(letters(turned({2, 3, 4})) == "ABEDCFGH");
    CHECK(letters(turned({0, 1, 6, 7})) == "BACDEFHG");
    CHECK(letters(turned({3})) == "ABCDEFGH");
    CHECK(letters(turned({0, 1, 2, 3, 4, 5, 6, 7})) == "HGFEDCBA");
    CHECK(letters(set_backwards(turned({2, 3, 4}), first, true)) == "HGFCDEBA");
    CHECK(letters(set_there_and_back(turned({6, 7}), first, Return::once)) == "ABCDEFHGHFEDCB");
    CHECK(letters(set_part_backwards(turned({2, 3, 4}), first, numbers({2, 3, 4}), false)) == "ABCDEFGH");
    // What is set aside in the middle of a part leaves it one; what is kept of it is turned within what is kept.
    CHECK(letters(set_aside(turned({2, 3, 4}), first, numbers({3}), true)) == "ABECFGH");
    CHECK(letters(set_kept(turned({2, 3, 4}), first, KeptRange{PhotoIndex(3), PhotoIndex(7)})) == "EDFG");
    CHECK(letters(set_kept(turned({2, 3, 4}), first, KeptRange{PhotoIndex(1), PhotoCount{3}})) == "BDC");
}

TEST_CASE("whatever parts play backwards: the same photos, each as long, turned twice as before",
          "[timing][pacing][backwards][property]")
{
    std::mt19937 random(31);
    for (int round = 0; round < 60; ++round) {
        const int count = 1 + int(random() % 24);
        Project p = of_count(count, Frames{1 + std::int64_t(random() % 3)});
        std::vector<PhotoIndex> part;
        for (int i = 0; i < count; ++i)
            if (random() % 2)
                part.emplace_back(i);
        const Project turned = set_part_backwards(p, first, part, true);
        std::string sorted = letters(turned);
        std::sort(sorted.begin(), sorted.end());
        CHECK(sorted == letters(p));
        CHECK(schedule_of(turned, turned.shot(first)).frames() == schedule_of(p, p.shot(first)).frames());
        CHECK(set_part_backwards(turned, first, part, false) == p);
        CHECK(letters(set_backwards(set_backwards(turned, first, true), first, false)) == letters(turned));
        // Photos that are not in a part stay where they are.
        const auto before = letters(p), now = letters(turned);
        for (int i = 0; i < count; ++i)
            if (std::find(part.begin(), part.end(), PhotoIndex(i)) == part.end())
                CHECK(now[std::size_t(i)] == before[std::size_t(i)]);
    }
}

TEST_CASE("a picture is on its way to the next one, but for a pause and the last", "[timing][shutter]")
{
    const auto held = [](std::initializer_list<std::int64_t> holds) {
        std::vector<HeldPhoto> all;
        for (const std::int64_t h : holds)
            all.push_back({PhotoIndex(std::int64_t(all.size())), Frames{h}});
        return all;
    };
    const Schedule plain(held({2, 2, 9, 2, 2}), Rate(24), Rate(24));
    CHECK(plain.on_its_way_to(FrameIndex(0)) == FrameIndex(2));
    CHECK(plain.on_its_way_to(FrameIndex(1)) == FrameIndex(2));
    CHECK(plain.on_its_way_to(FrameIndex(3)) == FrameIndex(4));
    for (std::int64_t f = 4; f < 13; ++f)
        CHECK_FALSE(plain.on_its_way_to(FrameIndex(f)).has_value()); // the pause
    CHECK(plain.on_its_way_to(FrameIndex(13)) == FrameIndex(15));
    CHECK_FALSE(plain.on_its_way_to(FrameIndex(15)).has_value()); // nothing comes
    // With in-betweens each frame is on its way to the next; the same photo after itself is none.
    const Schedule moving(held({1, 1, 1}), Rate(12), Rate(24), Between::motion);
    CHECK(moving.on_its_way_to(FrameIndex(0)) == FrameIndex(1));
    CHECK(moving.on_its_way_to(FrameIndex(3)) == FrameIndex(4));
    CHECK_FALSE(moving.on_its_way_to(FrameIndex(5)).has_value());
    const std::vector<HeldPhoto> again{{PhotoIndex(0), Frames{2}}, {PhotoIndex(0), Frames{2}}};
    CHECK_FALSE(Schedule(again, Rate(24), Rate(24)).on_its_way_to(FrameIndex(0)).has_value());
    // All frames of what a film shows as one are on their way to the same, or none is.
    std::mt19937 random(5);
    for (int round = 0; round < 40; ++round) {
        std::vector<HeldPhoto> some;
        for (int i = 0; i < 9; ++i)
            some.push_back({PhotoIndex(i), Frames{std::int64_t(random() % 6)}});
        for (const Between between : {Between::repeat, Between::mix, Between::motion}) {
            const Schedule s(some, Rate(24), Rate(30), between);
            for (const Moment& m : s.moments())
                for (FrameIndex f = m.begin; f < m.end; ++f)
                    CHECK(s.on_its_way_to(f) == s.on_its_way_to(m.begin));
        }
    }
}

TEST_CASE("a long shutter shows what moves as the mean of its way, and the rest as it is", "[flow][shutter]")
{
    for (const double step : {10.0, 22.0}) {
        const Canvas from = to_canvas(with_disc(200, 3)), to = to_canvas(with_disc(200 + step, 5));
        // The truth: many photos of the way, averaged in linear light.
        constexpr double share = 0.5;
        Canvas truth(from.size(), cv::Vec4f());
        constexpr int fine = 40;
        for (int i = 0; i < fine; ++i)
            cv::scaleAdd(to_canvas(with_disc(200 + step * share * (i + 0.5) / fine)), 1.0 / fine, truth, truth);
        const Canvas made = long_shutter(from, to, dense_motion(from, to), share);
        cv::Mat1b moving(from.size(), std::uint8_t(0)), still;
        cv::circle(moving, {int(200 + step / 4), 160}, int(46 + step), 255, -1);
        still = moving == 0;
        CAPTURE(step, rms(made, truth, moving), rms(from, truth, moving));
        CHECK(rms(made, truth, moving) < 0.6 * rms(from, truth, moving));
        CHECK(rms(made, truth, still) < 0.012);     // of 1: the noise of the photos
        const Canvas mix = 0.75 * from + 0.25 * to; // what a mix over the same time would be
        CHECK(rms(made, truth, moving) < rms(mix, truth, moving));
        // No light is lost.
        CHECK(cv::mean(made)[1] == Approx(cv::mean(truth)[1]).epsilon(0.01));
    }
    const Canvas same = to_canvas(with_disc(200));
    CHECK(rms(long_shutter(same, same, dense_motion(same, same), 1), same, cv::Mat1b(same.size(), std::uint8_t(255))) <
          1e-3);
    const Canvas tiny(3, 2, cv::Vec4f(0.5F, 0.5F, 0.5F, 1));
    CHECK(cv::norm(long_shutter(tiny, tiny, dense_motion(tiny, tiny), 0.5), tiny, cv::NORM_INF) < 1e-5);
}

TEST_CASE("a film with a shutter is blurred where it moves, in its view, and each picture once", "[flow][shutter]")
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < 4; ++i)
        pictures.push_back(with_disc(180 + 16 * i));
    const InMemory source(pictures);
    Project p = set_hold(of_source(source), first, numbers({0, 1, 2, 3}), Frames{2});
    const Project open = set_shutter(p, first, 180);
    CHECK(open.shot(first).pacing.shutter == 0.5);
    CHECK(set_shutter(p, first, 900).shot(first).pacing.shutter == 1);
    CHECK(set_shutter(open, first, 0) == p);
    CHECK(set_shutter(p, first, std::nan("")) == p);
    const auto film = film_of(open, first), plain = film_of(p, first);
    CHECK(film->runs() == plain->runs());
    const FrameLook look{.size = {480, 320}};
    CHECK(film->frame(FrameIndex(0), look) == film->frame(FrameIndex(1), look)); // held: made once
    CHECK(film->frame(FrameIndex(1), look) != film->frame(FrameIndex(2), look));
    CHECK(film->frame(FrameIndex(7), look) == plain->frame(FrameIndex(7), look)); // the last goes nowhere
    CHECK(film->frame(FrameIndex(0), {.size = {480, 320}, .corrections = Corrections::none}) ==
          plain->frame(FrameIndex(0), {.size = {480, 320}, .corrections = Corrections::none}));
    const cv::Mat sharp = *render(plain->frame(FrameIndex(0), look), source),
                  blurred = *render(film->frame(FrameIndex(0), look), source);
    const auto edges = [](const cv::Mat& m, const cv::Rect& where) {
        cv::Mat grey, across;
        cv::cvtColor(m(where), grey, cv::COLOR_BGR2GRAY);
        cv::Sobel(grey, across, CV_32F, 1, 0);
        return cv::mean(cv::abs(across))[0];
    };
    const cv::Rect disc(150, 130, 60, 60), corner(0, 0, 90, 60);
    CHECK(edges(blurred, disc) < 0.7 * edges(sharp, disc));
    CHECK(edges(blurred, corner) == Approx(edges(sharp, corner)).epsilon(0.03));
    // In a view, with in-betweens: both ends of the way are seen in it.
    Project viewed = set_between(set_shutter(p, first, 120), first, Between::mix);
    viewed = set_delivered_at(viewed, Rate(25));
    viewed.shots[0] = [&] {
        auto shot = std::make_shared<Shot>(viewed.shot(first));
        shot->pacing.paced_at = Rate(24);
        return shot;
    }();
    viewed = change_framing(viewed, first, [](Framing& f) { f.crop = cv::Rect2d(0.25, 0.25, 0.5, 0.5); });
    const auto close = film_of(viewed, first);
    CHECK(close->size() == cv::Size(240, 160));
    for (FrameIndex f(0); f.value < close->frames(); ++f) {
        const auto picture = render(close->frame(f, {.size = {240, 160}}), source);
        REQUIRE(picture.has_value());
        cv::Mat same_part = pictures[0](cv::Rect(120, 80, 240, 160)), off;
        cv::absdiff(*picture, same_part, off);
        const cv::Rect still(0, 0, 240, 20); // above the disc
        CHECK(cv::mean(off(still))[0] < 2);
    }
}

TEST_CASE("a step that is twice as large as those about it is told, evenly quickening ones are not", "[stumbles]")
{
    const auto told = [](std::vector<double> steps) { return steps_too_large(steps); };
    CHECK(told({0.02, 0.02, 0.02, 0.05, 0.02, 0.02}) == std::vector<std::size_t>{3});
    CHECK(told({0.02, 0.025, 0.03, 0.035, 0.042, 0.05, 0.06}).empty());
    CHECK(told({0.02, 0.02, 0.02, 0.02}).empty());
    CHECK(told({0.001, 0.001, 0.004, 0.001, 0.001}).empty());        // too little to be seen
    CHECK(told({0.02, 0.02, 0.06, 0.06, 0.06, 0.02, 0.02}).empty()); // it is quick for a while
    CHECK(told({}).empty());
    CHECK(told({0.5}).empty());
}

TEST_CASE("stumbles are found under noise: a pose that stayed, and one that was left out", "[stumbles]")
{
    for (const unsigned seed : {1U, 2U, 3U, 4U}) {
        std::mt19937 random(seed);
        std::vector<cv::Mat> pictures;
        const int stays = 4 + int(random() % 3), jumps = 11 + int(random() % 4);
        double x = 100;
        for (int i = 0; i < 18; ++i) {
            if (i > 0)
                x += i == stays ? 0 : i == jumps ? 26 : 9 + double(random() % 3);
            cv::Mat photo = with_disc(x, seed * 100 + unsigned(i) + 1);
            photo.convertTo(photo, -1, 1 + 0.04 * (double(random() % 100) / 50 - 1)); // flicker
            pictures.push_back(photo);
        }
        const InMemory source(pictures);
        const Project p = of_source(source);
        double last = 0;
        const Stumbles found =
            find_stumbles(p.shot(first), source, Job({}, [&](double f, std::string_view) { last = f; }));
        CAPTURE(seed, stays, jumps);
        CHECK(found.still == numbers({stays}));
        CHECK(found.too_far == numbers({jumps}));
        CHECK(last == 1);
    }
    std::stop_source stop;
    stop.request_stop();
    const InMemory none(std::vector<cv::Mat>{cv::Mat(48, 64, CV_8UC3, cv::Scalar::all(9))});
    CHECK_THROWS_AS(find_stumbles(of_source(none).shot(first), none, Job(stop.get_token())), Stopped);
}

TEST_CASE("a step is filled with in-betweens, and no other", "[stumbles][flow]")
{
    const Project p = of_count(5);
    const Project filled = fill_steps_to(p, first, numbers({3}));
    const Shot& shot = filled.shot(first);
    CHECK(shot.pacing.between == Between::motion);
    CHECK(shot.photos[2].hold == Hold(Frames{2}));
    CHECK(shot.photos[2].to_next == Between::motion);
    for (const std::size_t i : {0U, 1U, 3U, 4U})
        CHECK(shot.photos[i].to_next == Between::repeat);
    const Schedule s = schedule_of(filled, shot);
    CHECK(s.frames() == 6);
    CHECK(s.shares_at(FrameIndex(3)) == std::vector<Share>{{PhotoIndex(2), 0.5}, {PhotoIndex(3), 0.5}});
    const Project again = fill_steps_to(filled, first, numbers({1}));
    CHECK(again.shot(first).photos[2].to_next == Between::motion); // the one before stays
    CHECK(again.shot(first).photos[0].to_next == Between::motion);
    CHECK(fill_steps_to(p, first, numbers({0})).shot(first).photos[0].hold == Hold(Frames{1})); // nothing lies before
}

}
