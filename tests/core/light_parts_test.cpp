// Light: what depends on tone and place, regions, steps that are found on the pictures, single photos, 16 bit, strips.
#include "core/picture/step_pictures.h"
#include "core/project/edits.h"
#include "core/project/value_codecs.h"
#include "core/source/transfer.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/flicker_edits.h"
#include "core/steps/flicker/light_steps.h"
#include "core/steps/flicker/strip.h"
#include "core/steps/flicker/trend.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <mutex>
#include <random>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

DeflickerResult evened(const std::vector<cv::Mat>& photos, const DeflickerOptions& options, const Region& region = {})
{
    const InMemory source(photos);
    return deflicker_shot(source.photos(), {}, seconds_of(photos.size()), region, options, source, {});
}

/// The mean luminance of a picture, stops, worked out apart from the core: IEC 61966-2-1 and Rec. ITU-R BT.709, pixel
/// by pixel.
double mean_stops(const cv::Mat& picture)
{
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    double sum = 0;
    for (int y = 0; y < picture.rows; ++y)
        for (int x = 0; x < picture.cols; ++x) {
            const auto& p = picture.at<cv::Vec3b>(y, x);
            sum += 0.0722 * linear(p[0] / 255.0) + 0.7152 * linear(p[1] / 255.0) + 0.2126 * linear(p[2] / 255.0);
        }
    return std::log2(sum / double(picture.total()));
}

/// Flicker of the mean luminance of a part of pictures, in stops.
double flicker_within(const std::vector<cv::Mat>& photos, const cv::Rect& part)
{
    std::vector<double> stops;
    for (const cv::Mat& p : photos)
        stops.push_back(mean_stops(p(part)));
    return flicker_of(stops);
}

std::vector<cv::Mat> rendered(const std::vector<cv::Mat>& photos, const DeflickerResult& e)
{
    std::vector<cv::Mat> out;
    for (std::size_t i = 0; i < photos.size(); ++i)
        out.push_back(apply_correction(photos[i], e.curve.photos[i].correction));
    return out;
}

/// Every pixel of linear light by a function of it and of its place across, 0 to 1.
template <class Change>
cv::Mat changed(const cv::Mat& photo, const Change& change)
{
    cv::Mat out = photo.clone();
    for (int y = 0; y < out.rows; ++y)
        for (int x = 0; x < out.cols; ++x)
            for (int c = 0; c < 3; ++c) {
                auto& v = out.at<cv::Vec3b>(y, x)[c];
                v = cv::saturate_cast<std::uint8_t>(
                    encoded_of(std::clamp(change(linear_of(v / 255.0), double(x) / out.cols), 0.0, 1.0)) * 255);
            }
    return out;
}

const cv::Rect left_side(0, 0, 120, 320), right_side(360, 0, 120, 320);

}

TEST_CASE("light that flickers on one side is evened place by place", "[light][place]")
{
    std::mt19937 random(6);
    std::normal_distribution<double> normal(0, 0.15);
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 30; ++i) {
        const double stops = normal(random); // wholly at the left edge, not at all at the right one
        photos.push_back(
            changed(in_light(-0.9), [&](double l, double across) { return l * std::exp2(stops * (1 - across)); }));
    }
    const DeflickerResult plain = evened(photos, {.by_tone = false, .by_place = false}),
                          by_place = evened(photos, {.by_tone = false, .by_place = true});
    CHECK(plain.after_figures.by_place > 0.02); // it is told that there is more to take out
    CHECK(by_place.after_figures.by_place < 0.25 * by_place.before_figures.by_place);
    const auto gain = rendered(photos, plain), places = rendered(photos, by_place);
    CHECK(flicker_within(photos, left_side) > 0.08);
    CHECK(flicker_within(gain, left_side) + flicker_within(gain, right_side) >
          0.08); // a gain takes from one what it gives to the other
    CHECK(flicker_within(places, left_side) < 0.012);
    CHECK(flicker_within(places, right_side) < 0.012);
    // Nobody has to say so.
    const DeflickerResult automatic = evened(photos, {});
    CHECK(automatic.curve.kind.by_place);
    CHECK(automatic.curve.corrected == Corrected{.by_place = true});
    CHECK(flicker_within(rendered(photos, automatic), left_side) < 0.012);
}

TEST_CASE("flicker of contrast is evened where darks and lights are taken apart", "[light][tone]")
{
    std::mt19937 random(7);
    std::normal_distribution<double> normal(0, 0.06);
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 30; ++i) {
        const double power = 1 + normal(random); // about a quarter of white
        photos.push_back(changed(in_light(-0.5), [&](double l, double) { return 0.25 * std::pow(l / 0.25, power); }));
    }
    const DeflickerResult plain = evened(photos, {.by_tone = false, .by_place = false}),
                          by_tone = evened(photos, {.by_tone = true, .by_place = false});
    CHECK(plain.after_figures.by_tone > 0.02);
    CHECK(by_tone.after_figures.by_tone < 0.4 * by_tone.before_figures.by_tone);
    // Dark and light pixels by themselves, chosen on the first photo.
    const auto flicker_of_share = [&](const std::vector<cv::Mat>& of, int from, int to) {
        std::vector<double> stops;
        for (const cv::Mat& m : of) {
            double sum = 0, n = 0;
            for (int y = 0; y < m.rows; ++y)
                for (int x = 0; x < m.cols; ++x)
                    if (const int v = photos[0].at<cv::Vec3b>(y, x)[1]; v >= from && v < to) {
                        sum += linear_of(m.at<cv::Vec3b>(y, x)[1] / 255.0);
                        ++n;
                    }
            stops.push_back(std::log2(sum / n));
        }
        return flicker_of(stops);
    };
    const auto gain = rendered(photos, plain), tones = rendered(photos, by_tone);
    for (const auto& [from, to] : {std::pair(40, 70), std::pair(150, 200)}) {
        CAPTURE(from, flicker_of_share(photos, from, to), flicker_of_share(gain, from, to),
                flicker_of_share(tones, from, to));
        CHECK(flicker_of_share(gain, from, to) > 0.015);
        CHECK(flicker_of_share(tones, from, to) < 0.5 * flicker_of_share(gain, from, to));
    }
    // Lighter stays lighter, whatever the correction.
    cv::Mat ramp(1, 256, CV_8UC3);
    for (int v = 0; v < 256; ++v)
        ramp.at<cv::Vec3b>(0, v) = cv::Vec3b::all(std::uint8_t(v));
    const cv::Mat bent = apply_correction(ramp, {.gain = {0.2, 0.2, 0.2}, .by_tone = {2, -2, 1, -1.5, 0.5}});
    for (int v = 1; v < 256; ++v)
        CHECK(bent.at<cv::Vec3b>(0, v)[0] >= bent.at<cv::Vec3b>(0, v - 1)[0]);
}

TEST_CASE("light is measured where it is said, and what moves counts only if it is to", "[light][region]")
{
    std::mt19937 random(8);
    std::normal_distribution<double> normal(0, 0.3);
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 24; ++i) {
        cv::Mat photo = in_light(-0.8);
        const double screen = normal(random); // something large that flickers by itself: two thirds of the picture
        changed(photo(cv::Rect(0, 0, 320, 320)), [&](double l, double) {
            return l * std::exp2(screen);
        }).copyTo(photo(cv::Rect(0, 0, 320, 320)));
        photos.push_back(photo);
    }
    const auto gains = [](const DeflickerResult& e) {
        double most = 0;
        for (const LightChange& c : e.curve.photos)
            most = std::max(most, std::abs(c.correction.gain[1]));
        return most;
    };
    CHECK(gains(evened(photos, {})) > 0.2);
    CHECK(gains(evened(photos, {}, {.look_at = {{0.75, 0, 0.25, 1}}, .leave_out = {}})) < 0.01);
    CHECK(gains(evened(photos, {}, {.look_at = {}, .leave_out = {{0, 0, 0.7, 1}}})) < 0.01);

    std::vector<cv::Mat> walked;
    for (int i = 0; i < 24; ++i) {
        cv::Mat photo = in_light(-1);
        if (i % 3 == 0)
            photo(cv::Rect(16 * i, 60, 110, 140))
                .setTo(cv::Scalar::all(235)); // somebody in a white shirt, now and then
        walked.push_back(photo);
    }
    CHECK(gains(evened(walked, {})) < 0.01);
    CHECK(gains(evened(walked, {.leave_out_moving = false})) > 0.1);
}

TEST_CASE("a region lies on the scene through the alignment", "[light][region][document]")
{
    Shot shot;
    auto file = std::make_shared<PhotoFile>();
    file->size = {600, 400};
    ShotPhoto photo;
    photo.photo = file;
    photo.steps.set(Alignment());
    photo.steps.edit<Alignment>().from_film = Transform(1, 0, 60, 0, 1, -40, 0, 0, 1); // 60 px to the right, 40 up
    shot.photos = {photo};
    shot.steps.edit<LightRegion>().look_at = {{0.2, 0.5, 0.3, 0.25}};
    CHECK(light_region_on(shot, PhotoIndex(0)) == light_region(shot)); // not steadied: the photo is the film's plane
    shot.steps.set(Steadying());
    shot.steps.edit<Steadying>().size = {600, 400};
    const Region on_photo = light_region_on(shot, PhotoIndex(0));
    CHECK(on_photo.look_at[0].x == Approx(0.2 + 60.0 / 600));
    CHECK(on_photo.look_at[0].y == Approx(0.5 - 40.0 / 400));
    CHECK(on_photo.look_at[0].width == Approx(0.3));
    const Region back = into_film(shot, PhotoIndex(0), on_photo);
    CHECK(back.look_at[0].x == Approx(0.2));
    CHECK(back.look_at[0].y == Approx(0.5));
}

TEST_CASE("sudden steps are found under flicker, and slow changes are none", "[light][steps]")
{
    const auto x = seconds_of(80);
    int found = 0, exactly = 0, false_ones = 0, ramps = 0;
    for (unsigned seed = 0; seed < 40; ++seed) {
        std::mt19937 random(seed);
        std::normal_distribution<double> normal(0, 0.15);
        std::vector<double> lamp, quiet, cloud;
        for (int i = 0; i < 80; ++i) {
            const double flicker = normal(random), day = -0.01 * i;
            lamp.push_back(day + flicker + (i >= 37 ? 0.7 : 0));
            quiet.push_back(day + flicker + (i == 20 ? 1.5 : 0)); // a flash is no step
            cloud.push_back(day + flicker / 15 -
                            0.7 * std::clamp((i - 30) / 12.0, 0.0, 1.0)); // comes over half a second
        }
        const auto steps = sudden_steps(x, lamp);
        found += steps.size() == 1 && std::abs(double(steps[0]) - 37) <= 1;
        exactly += steps.size() == 1 && steps[0] == 37;
        false_ones += int(sudden_steps(x, quiet).size());
        ramps += int(sudden_steps(x, cloud).size());
    }
    CAPTURE(found, exactly, false_ones, ramps);
    CHECK(found >= 34); // a jump of 0.7 that flicker of 0.21 from photo to photo hides is not to be had each time
    CHECK(exactly >= 30);
    CHECK(false_ones <= 1);
    CHECK(ramps <= 1); // it would stay, and do no harm
}

TEST_CASE("steps of the camera are found on the pictures where Exif is missing, and any of them can stay",
          "[light][steps]")
{
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 36; ++i) {
        cv::Mat photo = in_light(-0.7 - 0.01 * i + (i >= 12 ? 1.0 / 3 : 0));
        if (i >= 24) // a lamp: on one side only
            photo = changed(photo, [](double l, double across) { return across < 0.6 ? l * 1.5 : l; });
        photos.push_back(photo);
    }
    const DeflickerResult all = evened(photos, {.camera_steps = true});
    REQUIRE(all.curve.steps.size() == 2);
    CHECK(all.curve.steps[0].jump.cause == LightJump::Cause::camera);
    CHECK(all.curve.steps[0].photo == 12);
    CHECK_FALSE(all.curve.steps[0].jump.kept);
    CHECK(all.curve.photos[12].correction.gain[1] - all.curve.photos[11].correction.gain[1] ==
          Approx(-1.0 / 3).margin(0.02));
    CHECK(all.curve.photos[12].steps == Approx(-1.0 / 3).margin(0.02));
    CHECK(all.curve.steps[1].jump.cause == LightJump::Cause::scene);
    CHECK(all.curve.photos[24].correction.gain[1] - all.curve.photos[23].correction.gain[1] == Approx(0).margin(0.02));

    DeflickerOptions options{.camera_steps = true};
    options.steps = {{12, {0, LightJump::Cause::camera, true}}};
    const DeflickerResult stays = evened(photos, options);
    CHECK(stays.curve.steps.at(0).jump.kept);
    CHECK(stays.curve.photos[12].correction.gain[1] - stays.curve.photos[11].correction.gain[1] ==
          Approx(0).margin(0.02));
}

TEST_CASE("a shadow over part of the picture is marked", "[light][suspect]")
{
    std::vector<cv::Mat> photos(30, in_light(-0.8));
    photos[11] = changed(photos[11], [](double l, double across) { return across < 0.4 ? l * 0.4 : l; });
    const DeflickerResult e = evened(photos, {});
    for (std::size_t i = 0; i < photos.size(); ++i)
        CHECK(e.curve.photos[i].outlier == (i == 11));
}

TEST_CASE("photos of another shape, black ones and ones that cannot be read are evened past", "[light]")
{
    std::vector<cv::Mat> photos;
    for (int i = 0; i < 30; ++i)
        photos.push_back(in_light(i % 2 ? -0.8 : -0.9));
    cv::Mat upright;
    cv::rotate(in_light(-0.9), upright, cv::ROTATE_90_CLOCKWISE);
    photos[9] = upright;
    photos[17] = cv::Mat::zeros(320, 480, CV_8UC3);
    photos[24].release();
    const DeflickerResult e = evened(photos, {.by_tone = true, .by_place = true});
    std::vector<double> left;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        const Correction& c = e.curve.photos[i].correction;
        for (const double g : c.gain)
            CHECK(std::isfinite(g));
        if (i != 9 && i != 17 && i != 24) // a tenth of a stop is taken out, half of it from each
            CHECK(c.gain[1] == Approx(i % 2 ? -0.05 : 0.05).margin(0.02));
    }
    CHECK(e.curve.photos[24].correction.nothing());
    CHECK(e.curve.photos[17].outlier);
}

TEST_CASE("a single photo stays as shot, or its neighbours stand in for it", "[light][document][render]")
{
    TempFolder t;
    constexpr ShotIndex first(0);
    constexpr PhotoIndex flash(6);
    for (std::size_t i = 0; i < 12; ++i)
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), in_light(i == 6 ? 0.2 : i % 2 ? -0.9 : -1.0));
    const std::array places{t / "s"};
    const Project p = add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
    const DeflickerInput photos = deflicker_input(p, p.shot(first), {});
    const Project even = set_deflicker(
        p, first, photos,
        deflicker_shot(photos.photos.photos, photos.from_film, photos.seconds, {}, photos.options, Originals(), {}),
        {});
    const auto seen = [&](const Project& project, PhotoIndex photo) {
        return render(request_for_shares(project.shot(first), std::array{Share{photo}}, {240, 160}), Originals())
            .value();
    };
    CHECK(to_look_at(even.shot(first).photos[6]));
    CHECK_FALSE(to_look_at(even.shot(first).photos[5]));
    CHECK(light_now(even.shot(first), flash).value() ==
          Approx(light_now(even.shot(first), PhotoIndex(5)).value()).margin(0.1));

    const Project left = resolve_light(even, first, flash, LightRemedy::as_shot);
    CHECK_FALSE(to_look_at(left.shot(first).photos[6]));
    CHECK(cv::norm(seen(left, flash), seen(p, flash), cv::NORM_INF) == 0);
    CHECK(light_now(left.shot(first), flash).value() - light_now(left.shot(first), PhotoIndex(5)).value() > 0.8);

    const Project mixed = resolve_light(even, first, flash, LightRemedy::mixed);
    const auto shares = standing_in(mixed.shot(first), flash);
    REQUIRE(shares.size() == 2);
    CHECK(shares[0] == Share{PhotoIndex(5), 0.5});
    CHECK(shares[1] == Share{PhotoIndex(7), 0.5});
    // The mean of linear light of both, as they are in the film.
    const cv::Mat mix = seen(mixed, flash), a = seen(even, PhotoIndex(5)), b = seen(even, PhotoIndex(7));
    for (const cv::Point& at : {cv::Point(20, 30), cv::Point(120, 80), cv::Point(200, 140)}) {
        const double mean = (linear_of(a.at<cv::Vec3b>(at)[1] / 255.0) + linear_of(b.at<cv::Vec3b>(at)[1] / 255.0)) / 2;
        CHECK(mix.at<cv::Vec3b>(at)[1] == Approx(encoded_of(mean) * 255).margin(1));
    }
    // Neighbours that are mixed themselves are passed over; at the end there is one.
    const Project two = resolve_light(mixed, first, PhotoIndex(7), LightRemedy::mixed);
    CHECK(standing_in(two.shot(first), flash)[1] == Share{PhotoIndex(8), 0.5});
    const Project end = resolve_light(even, first, PhotoIndex(0), LightRemedy::mixed);
    CHECK(standing_in(end.shot(first), PhotoIndex(0)) == std::vector<Share>{{PhotoIndex(1), 1}});
    CHECK(standing_in(even.shot(first), flash) == std::vector<Share>{{flash, 1}});
    // Evened again, what was decided stays.
    const Project again = set_deflicker(
        mixed, first, photos,
        deflicker_shot(photos.photos.photos, photos.from_film, photos.seconds, {}, photos.options, Originals(), {}),
        {});
    CHECK(again == mixed);

    // A strip: one column of each photo, the flash in it as shot, and gone in the film.
    const StripPhotos small = strip_photos(even.shot(first), Originals(), {});
    REQUIRE(small.at.size() == 12);
    const auto columns = [&](const Project& project, Corrections lit) {
        std::vector<double> stops;
        const cv::Mat strip = strip_of(project.shot(first), small, 0.5, lit);
        CHECK(strip.cols == 12);
        for (int i = 0; i < 12; ++i)
            stops.push_back(brightness_of(strip.col(i)).stops);
        return stops;
    };
    CHECK(columns(even, Corrections::none)[6] - columns(even, Corrections::none)[5] > 0.8);
    CHECK(columns(even, Corrections::applied)[6] - columns(even, Corrections::applied)[5] == Approx(0).margin(0.1));
    CHECK(columns(left, Corrections::applied)[6] - columns(left, Corrections::applied)[5] > 0.8);
    CHECK(columns(mixed, Corrections::applied)[6] - columns(mixed, Corrections::applied)[5] == Approx(0).margin(0.02));
}

TEST_CASE("light in 16 bit keeps what 8 bit cannot", "[light][render]")
{
    // A dark ramp in 16 bit, lightened by two stops: each of its steps is still there.
    cv::Mat ramp(4, 2000, CV_16UC3);
    for (int x = 0; x < ramp.cols; ++x)
        ramp.col(x).setTo(cv::Scalar::all(3000 + 4 * x));
    for (const Correction& c :
         {Correction{.gain = {2, 2, 2}}, Correction{.gain = {2, 2, 2}, .by_place = std::vector<double>(12, 0)}}) {
        const cv::Mat lit = apply_correction(ramp, c);
        std::set<int> levels;
        for (int x = 0; x < ramp.cols; ++x) {
            levels.insert(lit.at<cv::Vec3w>(0, x)[0]);
            const double linear = linear_of(ramp.at<cv::Vec3w>(0, x)[0] / 65'535.0) * 4; // far below the knee
            CHECK(lit.at<cv::Vec3w>(0, x)[0] == Approx(encoded_of(linear) * 65'535).margin(1));
        }
        CHECK(levels.size() == 2000);
    }
    // By place the same all over is the same as a gain; a picture of a part of the plane gets its part.
    const cv::Mat photo = in_light(-1);
    const Correction level{.gain = {0.1, 0.1, 0.1}, .by_place = std::vector<double>(12, 0.3)};
    CHECK(cv::norm(apply_correction(photo, level), apply_correction(photo, {.gain = {0.4, 0.4, 0.4}}), cv::NORM_INF) <=
          1);
    Correction tilted;
    for (int row = 0; row < place_rows; ++row)
        for (int column = 0; column < place_columns; ++column)
            tilted.by_place.push_back(0.2 * column - 0.1 * row);
    const cv::Rect part(160, 80, 200, 120);
    const cv::Mat whole = apply_correction(photo, tilted)(part),
                  alone = apply_correction(photo(part).clone(), tilted,
                                           {160 / 480.0, 80 / 320.0, 200 / 480.0, 120 / 320.0});
    CHECK(cv::norm(whole, alone, cv::NORM_INF) <= 1);
}

TEST_CASE("damaged light in a project file is refused with a reason", "[light][document]")
{
    const PhotoLight light{{.stops = -2,
                            .target = -2.1,
                            .correction = {.gain = {0.1, 0.2, 0.3},
                                           .by_tone = {0, 0.1, 0, 0, 0},
                                           .by_place = std::vector<double>(12, 0.05)},
                            .steps = -0.3,
                            .outlier = true},
                           -2.1,
                           LightRemedy::mixed,
                           LightJump{0.5, LightJump::Cause::camera, false}};
    const Json good = to_json(light);
    CHECK(from_json<PhotoLight>(good) == light);
    const auto spoiled = [&](const char* at, const Json& value) {
        Json j = good;
        j[Json::json_pointer(at)] = value;
        return j;
    };
    for (const auto& [bad, says] :
         {std::pair(spoiled("/remedy", "magic"), "\"remedy\": \"magic\""),
          std::pair(spoiled("/change/correction/by_tone", {0, 1}), "\"by_tone\": has not 5 values"),
          std::pair(spoiled("/change/correction/by_place", Json(std::vector<double>(12, 1e9))),
                    "\"change\": \"correction\": \"by_place\": 1000000000.0 is out of range"),
          std::pair(spoiled("/change/correction/gain", {1, 2}), "gain"),
          std::pair(spoiled("/change/stops", 1e6), "stops"), std::pair(spoiled("/change", 3), "is no object"),
          std::pair(spoiled("/change/steps", "much"), "\"much\" is out of range"),
          std::pair(spoiled("/jump/cause", "magic"), "none of its words")})
        CHECK_THROWS_WITH(from_json<PhotoLight>(bad), Catch::Contains(says));
}

TEST_CASE("the slow course is the same smoothing for every curve of the same photos", "[light]")
{
    const auto x = seconds_of(60);
    std::mt19937 random(2);
    std::normal_distribution<double> normal(0, 0.1);
    std::vector<double> y, line, twice;
    for (int i = 0; i < 60; ++i) {
        y.push_back(0.3 * std::sin(0.03 * i) + normal(random));
        line.push_back(0.02 * i + (i >= 30 ? 1 : 0));
        twice.push_back(2 * y.back() + line.back());
    }
    const std::array<std::size_t, 3> breaks{0, 30, 60};
    const Trend slow(x, y, breaks, 4);
    const auto of_y = slow.of(y), of_line = slow.of(line), of_twice = slow.of(twice);
    for (std::size_t i = 0; i < 60; ++i) {
        CHECK(of_line[i] == Approx(line[i]).margin(1e-6)); // a line, and a step between stretches, are left alone
        CHECK(of_twice[i] == Approx(2 * of_y[i] + of_line[i]).margin(1e-6));
    }
    CHECK(measuring_side(200) == 480);
    CHECK(measuring_side(10'000) * (measuring_side(10'000) * 2 / 3) * 3 <= 512e6 / 10'000);
    CHECK(measuring_side(10'000) > 100);
}

TEST_CASE("the region stays on the scene while the camera moves", "[light][region]")
{
    std::mt19937 random(12);
    std::normal_distribution<double> normal(0, 0.12);
    std::vector<cv::Mat> photos;
    std::vector<double> screen;
    std::vector<Transform> from_film;
    const cv::Mat scene = in_light(-1, {720, 480});
    for (int i = 0; i < 24; ++i) {
        screen.push_back(normal(random)); // a part of the scene that flickers by itself
        cv::Mat lit = scene.clone();
        const cv::Rect part(300, 180, 120, 100);
        changed(lit(part), [&](double l, double) { return l * std::exp2(screen.back()); }).copyTo(lit(part));
        const cv::Point corner(60 + (i % 4) * 45, 40 + (i % 3) * 35); // a camera that is put down anew
        photos.push_back(lit(cv::Rect(corner, cv::Size(480, 320))).clone());
        from_film.emplace_back(1, 0, 60 - corner.x, 0, 1, 40 - corner.y, 0, 0,
                               1); // its plane is that of the first photo
    }
    const Region region{.look_at = {{250.0 / 480, 150.0 / 320, 100.0 / 480, 80.0 / 320}},
                        .leave_out = {}}; // within that part
    const InMemory source(photos);
    const auto left = [&](const std::vector<Transform>& lying) {
        const DeflickerResult e =
            deflicker_shot(source.photos(), lying, seconds_of(photos.size()), region, {}, source, {});
        std::vector<double> rest;
        for (std::size_t i = 0; i < photos.size(); ++i)
            rest.push_back(screen[i] + e.curve.photos[i].correction.gain[1]);
        return flicker_of(rest);
    };
    CHECK(flicker_of(screen) > 0.06); // the local cubic takes more of slow flicker for light than a Gaussian did
    CHECK(left(from_film) < 0.015);
    CHECK(left({}) > 0.05); // where it lies on the photos alone, it is on something else each time
}

TEST_CASE("values between nodes are linear, and level beyond them", "[light]")
{
    constexpr std::array nodes{-7.0, -5.0, -2.0};
    struct Row
    {
        double x;
        std::size_t first, second;
        double share;
    };
    for (const Row& r : {Row{-9, 0, 0, 0}, Row{-7, 0, 0, 0}, Row{-6, 0, 1, 0.5}, Row{-5, 1, 2, 0}, Row{-3.5, 1, 2, 0.5},
                         Row{-2, 2, 2, 0}, Row{4, 2, 2, 0}}) {
        const Neighbours n = neighbours_of(nodes, r.x);
        CAPTURE(r.x);
        CHECK(n.first == r.first);
        CHECK(n.second == r.second);
        CHECK(n.share == Approx(r.share));
    }
    CHECK(cell_middles(4) == std::vector{0.125, 0.375, 0.625, 0.875});
    // Each colour has its own gain; the order of a picture is B, G, R.
    const cv::Mat grey(2, 2, CV_8UC3, cv::Scalar::all(100));
    const cv::Vec3b tinted = apply_correction(grey, {.gain = {0.5, 0, -0.5}}).at<cv::Vec3b>(0, 0);
    CHECK(tinted[0] == Approx(encoded_of(linear_of(100 / 255.0) * std::exp2(-0.5)) * 255).margin(1));
    CHECK(tinted[1] == 100);
    CHECK(tinted[2] == Approx(encoded_of(linear_of(100 / 255.0) * std::exp2(0.5)) * 255).margin(1));
}

TEST_CASE("steps of the camera are read from Exif and refined on the pictures", "[light][steps][exposure]")
{
    const auto x = seconds_of(40);
    std::vector<double> y;
    std::vector<std::optional<double>> exposures;
    for (int i = 0; i < 40; ++i) {
        // A third more from photo 14 on, of which the lens does 0.04 stop less; half a stop less at 30; Exif is missing
        // at 20 to 22.
        y.push_back(-0.02 * i + (i >= 14 ? 1.0 / 3 - 0.04 : 0) - (i >= 30 ? 0.5 : 0));
        exposures.emplace_back(-6 + (i >= 14 ? 1.0 / 3 : 0) - (i >= 30 ? 0.5 : 0));
    }
    for (std::size_t i = 20; i < 23; ++i)
        exposures[i].reset();
    const auto steps = camera_steps(x, y, exposures);
    REQUIRE(steps.size() == 2);
    CHECK(steps[0].photo == 14);
    CHECK(steps[0].set == Approx(1.0 / 3));
    CHECK(steps[0].true_stops == Approx(1.0 / 3 - 0.04).margin(0.002));
    CHECK(steps[1].photo == 30);
    CHECK(steps[1].true_stops == Approx(-0.5).margin(0.002));
    // Where the light itself jumps by more than settings can be off, that is the scene's.
    for (std::size_t i = 14; i < 40; ++i)
        y[i] += 0.6;
    CHECK(camera_steps(x, y, exposures)[0].true_stops == Approx(1.0 / 3));
    CHECK(camera_steps(x, y, std::vector<std::optional<double>>(40)).empty());
    // Two changes close to each other: too few photos between them to refine by.
    exposures.assign(40, 0.0);
    for (std::size_t i = 10; i < 40; ++i)
        exposures[i] = i >= 12 ? 2.0 / 3 : 1.0 / 3;
    const auto close = camera_steps(x, std::vector<double>(40, -1), exposures);
    REQUIRE(close.size() == 2);
    CHECK(close[0].true_stops == close[0].set);
}

TEST_CASE("small photos are upright, and as wide as wished", "[light]")
{
    cv::Mat clear, deep;
    cv::cvtColor(in_light(-1), clear, cv::COLOR_BGR2BGRA);
    in_light(-1).convertTo(deep, CV_16U, 257);
    const InMemory source({in_light(-1), clear, deep, cv::Mat()});
    auto seen = source.photos();
    seen[1].turns = 1;
    std::vector<double> fractions;
    const Job job({}, [&](double f, std::string_view) {
        static std::mutex m;
        const std::lock_guard lock(m);
        fractions.push_back(f);
    });
    const auto small = small_photos(seen, {}, 120, source, job);
    REQUIRE(small.size() == 4);
    CHECK(small[0].size() == cv::Size(120, 80));
    CHECK(small[1].size() == cv::Size(80, 120));
    CHECK(small[1].channels() == 4); // so that what is transparent does not count
    CHECK(small[3].empty());
    CHECK(*std::max_element(fractions.begin(), fractions.end()) == 1);
    const auto all = brightness_of_all(small, {}, {}, {});
    CHECK(all[2].stops == Approx(all[0].stops).margin(0.003)); // 16 bit says what 8 bit does
    CHECK(all[1].stops == Approx(all[0].stops).margin(0.003));
    CHECK(all[3].empty());
    const auto flicker_controller =
        brightness_of_all(small, std::vector<Correction>(4, {.gain = {0.2, 0.2, 0.2}}), {}, {});
    CHECK(flicker_controller[2].stops - all[2].stops == Approx(0.2).margin(0.03)); // near white less
}

}
