// Light: brightness, evening, the camera's steps, and the gain that is rendered.
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/transfer.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker.h"
#include "core/steps/flicker/exposure_steps.h"
#include "core/steps/flicker/flicker_edits.h"
#include "core/steps/flicker/trend.h"
#include "core/steps/sort/scan_edits.h"
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

DeflickerResult evened(const std::vector<cv::Mat>& photos, const DeflickerOptions& options = {})
{
    const InMemory source(photos);
    return deflicker_shot(source.photos(), {}, seconds_of(photos.size()), {}, options, source, {});
}

}

TEST_CASE("brightness is log2 of linear luminance", "[light]")
{
    // IEC 61966-2-1: the middle of 8 bits, 188, is 0.5029 of linear light; white is 1. BT.709: 0.2126, 0.7152, 0.0722.
    CHECK(brightness_of(cv::Mat(40, 60, CV_8UC3, cv::Scalar(188, 188, 188))).stops ==
          Approx(std::log2(0.5029)).margin(1e-3));
    CHECK(brightness_of(cv::Mat(40, 60, CV_16UC3, cv::Scalar::all(188 * 257))).stops ==
          Approx(std::log2(0.5029)).margin(1e-3));
    CHECK(brightness_of(cv::Mat(40, 60, CV_8UC3, cv::Scalar(10, 10, 188))).stops ==
          Approx(std::log2(0.2126 * 0.5029 + (0.7152 + 0.0722) * 0.00304)).margin(2e-3)); // 10 of 255 is 0.00304
    CHECK(brightness_of(cv::Mat(40, 60, CV_8UC3, cv::Scalar(10, 188, 10))).stops ==
          Approx(std::log2(0.7152 * 0.5029 + (0.2126 + 0.0722) * 0.00304)).margin(2e-3));
    // Clipped and black pixels are left out of it; where there is nothing else, all count.
    cv::Mat half(40, 60, CV_8UC3, cv::Scalar::all(188));
    half.colRange(0, 30).setTo(cv::Scalar::all(255));
    const Brightness b = brightness_of(half);
    CHECK(b.stops == Approx(std::log2(0.5029)).margin(1e-3));
    CHECK(b.usable == Approx(0.5));
    CHECK(brightness_of(cv::Mat(40, 60, CV_8UC3, cv::Scalar::all(255))).stops == Approx(0));
    // A region: only what is in it.
    half.colRange(30, 60).setTo(cv::Scalar::all(100));
    half.colRange(0, 30).setTo(cv::Scalar::all(188));
    CHECK(brightness_of(half, {.look_at = {{0, 0, 0.5, 1}}, .leave_out = {}}).stops ==
          Approx(std::log2(0.5029)).margin(1e-3));
    CHECK(brightness_of(half, {.look_at = {}, .leave_out = {{0.5, 0, 0.5, 1}}}).stops ==
          Approx(std::log2(0.5029)).margin(1e-3));
}

TEST_CASE("light is a plain gain up to near white, and white stays white", "[light][render]")
{
    for (const double stops : {-2.0, -0.3, -0.01, 0.01, 0.3, 1.5}) {
        const double factor = std::exp2(stops);
        CHECK(brightened(0.1, factor) == Approx(0.1 * factor));
        CHECK(brightened(1, factor) == Approx(1));
        CHECK(brightened(0, factor) == 0);
        double before = -1;
        for (double x = 0; x <= 1; x += 1.0 / 4096) {
            CHECK(brightened(x, factor) > before);
            before = brightened(x, factor);
        }
    }
    const cv::Mat m = in_light(0);
    CHECK(cv::norm(apply_correction(m, Correction()), m, cv::NORM_INF) == 0);
    for (const double stops : {-0.5, -0.1, 0.2}) { // what was added is taken back
        const Brightness b = brightness_of(
                             apply_correction(in_light(-1 + stops), Correction{.gain = {-stops, -stops, -stops}})),
                         as_it_was = brightness_of(in_light(-1));
        CHECK(b.stops == Approx(as_it_was.stops).margin(0.005)); // where nothing clips
    }
    cv::Mat deep;
    m.convertTo(deep, CV_16UC3, 257);
    cv::Mat back;
    apply_correction(deep, {.gain = {0.2, 0.2, 0.2}}).convertTo(back, CV_8UC3, 1 / 257.0);
    CHECK(cv::norm(back, apply_correction(m, {.gain = {0.2, 0.2, 0.2}}), cv::NORM_INF) <= 1); // the same in 16 bit
}

TEST_CASE("printed exposures stand for exact thirds and halves of a stop", "[light][exposure]")
{
    // APEX, CIPA DC-008: what cameras print for each third, from memory: common practice.
    const auto stops = [](Fraction t, Fraction n, int iso) {
        return exposure_stops({.seconds = t, .f_number = n, .iso = iso, .focal_mm = {}}).value();
    };
    CHECK(stops(Fraction(1), Fraction(1), 100) == Approx(0));
    CHECK(stops(Fraction(1, 50), Fraction(1), 100) == Approx(-17.0 / 3));
    CHECK(stops(Fraction(1, 60), Fraction(1), 100) == Approx(-6));
    CHECK(stops(Fraction(1, 125), Fraction(1), 100) == Approx(-7));
    CHECK(stops(Fraction(1, 8000), Fraction(1), 100) == Approx(-13));
    CHECK(stops(Fraction(1, 45), Fraction(1), 100) == Approx(-5.5)); // a half
    CHECK(stops(Fraction(30), Fraction(1), 100) == Approx(5));
    CHECK(stops(Fraction(1), Fraction(28, 5), 100) == Approx(-5)); // f/5.6
    CHECK(stops(Fraction(1), Fraction(8), 100) == Approx(-6));
    CHECK(stops(Fraction(1), Fraction(71, 10), 100) == Approx(-17.0 / 3)); // f/7.1
    CHECK(stops(Fraction(1), Fraction(1), 125) == Approx(1.0 / 3));
    CHECK(stops(Fraction(1), Fraction(1), 3200) == Approx(5));
    // A change from 1/60 to 1/50: a third, where the printed values say 0.263.
    CHECK(stops(Fraction(1, 50), Fraction(8), 100) - stops(Fraction(1, 60), Fraction(8), 100) == Approx(1.0 / 3));
    CHECK(stops(Fraction(7, 5), Fraction(1), 100) == Approx(0.5)); // 1.4 s
    CHECK_FALSE(exposure_stops({.seconds = {}, .f_number = {}, .iso = 100, .focal_mm = {}}));
    CHECK(exposure_stops({.seconds = Fraction(1, 60), .f_number = {}, .iso = 100, .focal_mm = {}}).value() ==
          Approx(-6)); // a lens without contacts
}

TEST_CASE("flicker goes, the day's light stays, and a moving subject does not pump", "[light]")
{
    std::mt19937 random(3);
    std::normal_distribution<double> normal(0, 0.1);
    std::vector<cv::Mat> photos;
    std::vector<double> added, day;
    for (int i = 0; i < 48; ++i) {
        added.push_back(normal(random));
        day.push_back(-0.5 - 0.015 * i);
        cv::Mat photo = in_light(day.back() + added.back());
        photo(cv::Rect(5 * i, 100, 120, 120)).setTo(cv::Scalar::all(240)); // white, and in no light
        photos.push_back(photo);
    }
    const DeflickerResult e = evened(photos);
    std::vector<double> left;
    for (std::size_t i = 0; i < 48; ++i)
        left.push_back(added[i] + e.curve.photos[i].correction.gain[1]);
    CHECK(flicker_of(left) < 0.012);
    CHECK(flicker_of(added) > 0.08);
    CHECK(e.before_figures.shared > 0.08);
    CHECK(e.after_figures.shared < flicker_of(day) + 0.004); // the day's own course has some, by how it is defined
    const auto smooth = cubic_smoothed(left);                // by no more than the flicker's own slow part
    for (const double s : smooth)
        CHECK(std::abs(s - smooth[24]) < 0.1);
    CHECK(std::abs(smooth[47] - smooth[0]) < 0.05); // it gets dark by 0.7 stop, as it did
    // Half of it; none of it.
    const DeflickerResult half = evened(photos, {.strength = 0.5});
    CHECK(half.after_figures.shared == Approx(e.before_figures.shared / 2).margin(0.02));
    CHECK(evened(photos, {.strength = 0}).curve.photos[3].correction.gain[1] == Approx(0).margin(0.002));
}

TEST_CASE("flicker in colour is taken out of each colour", "[light]")
{
    std::mt19937 random(4);
    std::normal_distribution<double> normal(0, 0.05);
    std::vector<cv::Mat> photos;
    std::array<std::vector<double>, 3> added, left;
    for (int i = 0; i < 40; ++i) {
        std::array<double, 3> stops{};
        for (std::size_t c = 0; c < 3; ++c) {
            added[c].push_back(normal(random));
            stops[c] = -0.4 + added[c].back();
        }
        photos.push_back(in_light(stops));
    }
    const DeflickerResult e = evened(photos, {.window_s = 4, .each_colour = true});
    for (std::size_t c = 0; c < 3; ++c) {
        for (std::size_t i = 0; i < 40; ++i)
            left[c].push_back(added[c][i] + e.curve.photos[i].correction.gain[c]);
        CHECK(flicker_of(added[c]) > 0.03);
        CHECK(flicker_of(left[c]) < 0.01);
    }
    CHECK(e.before_figures.by_colour > 0.03);
    CHECK(e.after_figures.by_colour < 0.01);
    CHECK(evened(photos, {.each_colour = false}).after_figures.by_colour >
          0.03); // a gain of all leaves it, and says so
}

TEST_CASE("known gains are recovered", "[light]")
{
    std::mt19937 random(11);
    std::uniform_real_distribution<double> any(-0.4, 0.4);
    std::vector<double> gains;
    std::vector<Brightness> measured;
    std::vector<const Brightness*> photos;
    for (int i = 0; i < 20; ++i) {
        gains.push_back(any(random));
        cv::Mat photo = in_light(-1.2 + gains.back());                       // nothing clips
        photo(cv::Rect(20 * i, 90, 70, 110)).setTo(cv::Scalar(10, 90, 200)); // somebody goes through
        measured.push_back(brightness_of(photo));
    }
    for (const Brightness& b : measured)
        photos.push_back(&b);
    const CommonBrightness shared = common_brightness(photos, {});
    for (std::size_t i = 1; i < gains.size(); ++i) {
        CHECK(shared.luminance[i] - shared.luminance[0] == Approx(gains[i] - gains[0]).margin(0.005));
        for (const auto& colour : shared.colours)
            CHECK(colour[i] - colour[0] == Approx(gains[i] - gains[0]).margin(0.005));
    }
}

TEST_CASE("a lamp that is switched on stays on or is taken out, and a flash is marked", "[light][steps]")
{
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 40; ++i)
        photos.push_back(in_light(-1.2 + (i >= 20 ? 0.8 : 0) + (i == 9 ? 1.1 : 0)));
    const DeflickerResult e = evened(photos);
    REQUIRE(e.curve.steps.size() == 1);
    CHECK(e.curve.steps[0].photo == 20);
    CHECK(e.curve.steps[0].jump.stops == Approx(0.8).margin(0.03));
    CHECK(e.curve.photos[20].correction.gain[1] - e.curve.photos[19].correction.gain[1] == Approx(0).margin(0.01));
    for (std::size_t i = 0; i < 40; ++i)
        CHECK(e.curve.photos[i].outlier == (i == 9));
    CHECK(e.curve.photos[9].correction.gain[1] == Approx(-1.1).margin(0.03));
    DeflickerOptions away;
    away.steps = {{20, {0.8, LightJump::Cause::scene, false}}};
    const DeflickerResult without = evened(photos, away);
    CHECK(without.curve.photos[20].correction.gain[1] - without.curve.photos[19].correction.gain[1] ==
          Approx(-0.8).margin(0.03));
    CHECK_FALSE(without.curve.steps[0].jump.kept);
}

TEST_CASE("what the camera's settings did is undone, so that a sunset is one ramp", "[light][steps]")
{
    std::vector<cv::Mat> photos;
    std::vector<SeenPhoto> seen;
    const std::array<Fraction, 4> printed{Fraction(1, 100), Fraction(1, 80), Fraction(1, 60), Fraction(1, 50)};
    for (int i = 0; i < 48; ++i)
        photos.push_back(in_light(-0.5 - 0.03 * i + (i / 12) / 3.0));
    const InMemory source(photos);
    seen = source.photos();
    for (std::size_t i = 0; i < seen.size(); ++i) {
        auto file = std::make_shared<PhotoFile>(*seen[i].photo);
        file->exposure = {.seconds = printed[i / 12], .f_number = Fraction(8), .iso = 100, .focal_mm = {}};
        seen[i].photo = file;
    }
    const DeflickerResult e = deflicker_shot(seen, {}, seconds_of(48), {}, {.camera_steps = true}, source, {});
    CHECK(e.curve.steps.size() == 3);
    for (const LightStep& s : e.curve.steps) {
        CHECK(s.jump.cause == LightJump::Cause::camera);
        CHECK(s.jump.stops == Approx(1.0 / 3));
    }
    for (int i = 1; i < 48; ++i) { // every photo as much darker than the one before as the day made it
        const double light = -0.03 + (i % 12 == 0 ? 1.0 / 3 : 0) + e.curve.photos[std::size_t(i)].correction.gain[1] -
                             e.curve.photos[std::size_t(i) - 1].correction.gain[1];
        CHECK(light == Approx(-0.03).margin(0.02));
    }
}

TEST_CASE("photos that say nothing are left alone", "[light]")
{
    std::vector<cv::Mat> photos(6, in_light(-0.5));
    photos[2].release(); // cannot be read
    const DeflickerResult e = evened(photos);
    CHECK(e.curve.photos[2].correction.gain == Stops3{});
    for (const LightChange& c : e.curve.photos)
        CHECK(c.correction.gain[0] == Approx(0).margin(0.003));
    CHECK(evened({in_light(0)}).curve.photos[0].correction.gain == Stops3{});
    CHECK(evened(std::vector<cv::Mat>(4, cv::Mat::zeros(320, 480, CV_8UC3))).curve.photos[1].correction.gain[0] ==
          Approx(0).margin(1e-6));
    const InMemory source(photos);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(small_photos(source.photos(), {}, 480, source, Job(stop.get_token())), Stopped);
    CHECK(flicker_of(std::vector<double>{}) == 0);
    CHECK(flicker_of(std::vector<double>(9, 0.7)) == Approx(0).margin(1e-12));
}

TEST_CASE("an evened shot is seen evened, comes back from its file, and is as shot again", "[light][document]")
{
    TempFolder t;
    constexpr ShotIndex first(0);
    const std::array<double, 8> added{0.1, -0.12, 0.05, -0.08, 0.14, -0.02, 0.09, -0.11};
    for (std::size_t i = 0; i < added.size(); ++i)
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"), in_light(-0.6 + added[i]));
    const std::array places{t / "s"};
    const Project p = add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
    const Deflicker deflicker{.each_colour = true};
    const DeflickerInput photos = deflicker_input(p, p.shot(first), deflicker);
    const Project even = set_deflicker(
        p, first, photos,
        deflicker_shot(photos.photos.photos, photos.from_film, photos.seconds, {}, photos.options, Originals(), {}),
        deflicker);
    REQUIRE(deflicker_of(even.shot(first)));
    CHECK(deflicker_of(even.shot(first))->after.shared < 0.3 * deflicker_of(even.shot(first))->before.shared);
    std::vector<double> before, after;
    for (std::int64_t i = 0; i < 8; ++i) {
        before.push_back(
            brightness_of(render(request_for_photo(even.shot(first), PhotoIndex(i), {480, 320}), Originals()).value())
                .stops);
        after.push_back(
            brightness_of(
                render(request_for_shares(even.shot(first), std::array{Share{PhotoIndex(i)}}, {480, 320}), Originals())
                    .value())
                .stops);
        CHECK(after.back() ==
              Approx(light_of(even.shot(first).photos[std::size_t(i)])->after).margin(0.01)); // as it was said to be
    }
    CHECK(flicker_of(after) < 0.3 * flicker_of(before));
    save_project(even, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").project == even);
    CHECK(light_as_shot(even, first) == p);
}

}
