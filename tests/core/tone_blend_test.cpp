// Anchor photos, what lies between them, and what is measured for them.
#include "core/base/field_json.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/steps/tone/named_tones.h"
#include "core/steps/tone/operations.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"
#include "core/steps/tone/tone_scopes.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>

#include <cmath>
#include <numeric>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

PhotoIndex nth(std::int64_t number)
{
    return PhotoIndex(number - 1);
}

/// A shot of so many photos that nobody has to read.
Project shot_of(std::size_t photos)
{
    Shot shot;
    shot.name = "s";
    for (std::size_t i = 0; i < photos; ++i) {
        PhotoFile file;
        file.file = "/p" + std::to_string(i) + ".png";
        file.size = {60, 40};
        shot.photos.push_back({.photo = std::make_shared<PhotoFile>(file)});
    }
    return add_shot({}, shot);
}

const Shot& only(const Project& p)
{
    return p.shot(ShotIndex(0));
}

Project with_light(Project project, const std::vector<double>& stops)
{
    auto shot = std::make_shared<Shot>(only(project));
    for (std::size_t i = 0; i < stops.size(); ++i)
        shot->photos.edit(i).steps.set(ToneLight{stops[i], 0});
    project.shots[0] = shot;
    return project;
}

}

TEST_CASE("a monotone cubic goes through its points, never overshoots, and is at most twice as steep", "[tone][blend]")
{
    cv::RNG rng(8);
    for (int n = 0; n < 60; ++n) {
        std::vector<double> x{0}, y{0};
        for (int k = 0; k < 5; ++k) {
            x.push_back(x.back() + rng.uniform(0.5, 6.0));
            y.push_back(rng.uniform(-1.0, 1.0));
        }
        for (std::size_t k = 0; k < x.size(); ++k)
            CHECK(monotone_cubic(x, y, x[k]) == Approx(y[k]).margin(1e-12));
        for (std::size_t k = 0; k + 1 < x.size(); ++k) {
            const double low = std::min(y[k], y[k + 1]), high = std::max(y[k], y[k + 1]),
                         straight = (high - low) / (x[k + 1] - x[k]);
            for (double at = x[k]; at < x[k + 1] - 0.01; at += 0.01) {
                const double v = monotone_cubic(x, y, at), next = monotone_cubic(x, y, at + 0.01);
                REQUIRE(v >= low - 1e-9);
                REQUIRE(v <= high + 1e-9);
                REQUIRE(std::abs(next - v) / 0.01 <= 2 * straight * 1.001 + 1e-9);
            }
        }
    }
    const std::vector<double> two_x{1, 3}, two_y{10, 20};
    CHECK(monotone_cubic(two_x, two_y, 2) == Approx(15));
    CHECK(monotone_cubic(two_x, two_y, -5) == 10);
    CHECK(monotone_cubic(two_x, two_y, 9) == 20);
}

TEST_CASE("one photo's tone holds for the shot, a second one is an anchor, and tone is blended", "[tone][blend]")
{
    Project p = shot_of(11);
    const ShotIndex s(0);
    CHECK(tone_of(only(p), nth(5)) == Tone());
    CHECK_FALSE(is_toned(only(p)));
    p = set_anchor(p, s, nth(1), {.exposure = 1, .warmth = 4000});
    CHECK(tone_of(only(p), nth(11)) == Tone{.exposure = 1, .warmth = 4000});
    CHECK(is_toned(only(p)));
    p = set_anchor(p, s, nth(11), {.exposure = -1, .warmth = 8000});
    const Tone middle = tone_of(only(p), nth(6));
    CHECK(middle.exposure == Approx(0).margin(1e-9));
    CHECK(middle.warmth == Approx(2 / (1 / 4000.0 + 1 / 8000.0))); // their reciprocals' mean
    CHECK(tone_of(only(p), nth(1)).exposure == 1);
    CHECK(tones_of(only(p))[5] == middle);
    SECTION("a photo that is set aside takes no place")
    {
        p = set_aside(p, s, std::array{nth(2), nth(3), nth(4), nth(5)}, true);
        CHECK(tone_of(only(p), nth(6)).exposure == Approx(1 - 2.0 / 6));
    }
    SECTION("no longer an anchor, the other's tone holds; the last one's stays")
    {
        p = drop_anchor(p, s, nth(1));
        CHECK(tone_of(only(p), nth(1)).exposure == -1);
        p = drop_anchor(p, s, nth(11));
        CHECK(anchors_of(only(p)).empty());
        CHECK(tone_of(only(p), nth(3)) == Tone{.exposure = -1, .warmth = 8000});
    }
    SECTION("one tone for all is that of the photo that is looked at")
    {
        p = same_tone_for_all(p, s, nth(6));
        CHECK(anchors_of(only(p)).empty());
        CHECK(tone_of(only(p), nth(1)) == middle);
    }
    SECTION("a change of the whole shot is one of each anchor")
    {
        p = change_tone(p, s, [](Tone& t) { t.contrast = 20; });
        CHECK(tone_of(only(p), nth(1)) == Tone{.exposure = 1, .contrast = 20, .warmth = 4000});
        CHECK(tone_of(only(p), nth(11)).contrast == 20);
    }
    SECTION("copied to photos they are anchors; to another shot it holds for all of it")
    {
        p = add_shot(p, only(shot_of(3)));
        p = copy_tone(p, s, nth(1), std::array{nth(4)});
        CHECK(tone_of(only(p), nth(4)).exposure == 1);
        CHECK(anchors_of(only(p)).size() == 3);
        p = copy_tone_to_shots(p, s, nth(11), std::array{p.shots[1]->id});
        CHECK(tone_of(*p.shots[1], nth(2)).exposure == -1);
        CHECK(anchors_of(*p.shots[1]).empty());
    }
    SECTION("as shot again")
    {
        p = drop_tone(p, s);
        CHECK_FALSE(is_toned(only(p)));
        CHECK_FALSE(toning_of(only(p)));
    }
}

TEST_CASE("with the light one dark and one bright anchor serve all passing clouds", "[tone][blend]")
{
    const std::vector<double> stops{-3, -2, -3, -2.5, -1, -2, -3};
    Project p = with_light(shot_of(7), stops);
    const ShotIndex s(0);
    p = set_anchor(p, s, nth(1), {.exposure = 1});
    p = set_anchor(p, s, nth(5), {.exposure = -1});
    p = set_tone_blend(p, s, ToneBlend::light);
    for (std::size_t i = 0; i < stops.size(); ++i)
        CHECK(tones_of(only(p))[i].exposure == Approx(-2 - stops[i]).margin(1e-9)); // 1 at -3, -1 at -1
    SECTION("a photo that was not measured lies between its neighbours")
    {
        auto shot = std::make_shared<Shot>(only(p));
        shot->photos.edit(3).steps.drop<ToneLight>();
        p.shots[0] = shot;
        CHECK(tone_of(only(p), nth(4)).exposure <= 1);
        CHECK(tone_of(only(p), nth(4)).exposure >= -1);
    }
    SECTION("two anchors of the same light give their mean, themselves aside")
    {
        p = set_anchor(p, s, nth(3), {.exposure = 2});
        CHECK(tone_of(only(p), nth(7)).exposure == Approx(1.5));
        CHECK(tone_of(only(p), nth(3)).exposure == 2);
    }
    SECTION("the darkest and the brightest are suggested, and the ends")
    {
        const auto suggested = suggested_anchors(only(p));
        REQUIRE(suggested.size() == 3); // the first is the darkest
        CHECK(suggested[0].photo == nth(1));
        CHECK(suggested[0].why == AnchorSuggestion::Why::darkest);
        CHECK(suggested[1].photo == nth(5));
        CHECK(suggested[1].why == AnchorSuggestion::Why::brightest);
        CHECK(suggested[2].photo == nth(7));
    }
}

TEST_CASE("light is measured, tone follows it, and the toned film's flicker is told", "[tone][measure]")
{
    TempFolder t;
    std::vector<double> light;
    for (int i = 0; i < 16; ++i) {
        light.push_back(i % 2 ? 0.1 : -0.1); // stops: flicker that nobody took out
        write_picture(t / ("p" + std::to_string(10 + i) + ".png"),
                      in_light(std::array{light.back(), light.back(), light.back()}, {120, 80}));
    }
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < 16; ++i)
        shot.photos.push_back({.photo = scanned(t / ("p" + std::to_string(10 + i) + ".png"))});
    Project p = add_shot({}, shot);
    CHECK(tone_light_missing(only(p)) == 16);
    p = measure_tone_light(p, ShotIndex(0))(Originals(), Job())(p);
    CHECK(tone_light_missing(only(p)) == 0);
    const auto stops = [&](std::int64_t number) {
        return only(p).photos[nth(number).at()].steps.find<ToneLight>()->stops;
    };
    CHECK(stops(2) - stops(1) == Approx(0.2).margin(0.02));
    const ToneFigures plain = tone_figures(only(p), Originals(), Job());
    CHECK(plain.flicker == Approx(plain.toned));
    CHECK(plain.flicker == Approx(0.1).margin(0.02));
    p = set_anchor(p, ShotIndex(0), nth(1), {.exposure = -2, .contrast = 100});
    const ToneFigures steep = tone_figures(only(p), Originals(), Job());
    CHECK(steep.flicker == Approx(plain.flicker));
    CHECK(steep.toned > 1.2 * plain.flicker); // contrast makes it stronger
    SECTION("tone that answers the light takes it away")
    {
        p = set_anchor(p, ShotIndex(0), nth(1), {.exposure = 0.1});
        p = set_anchor(p, ShotIndex(0), nth(2), {.exposure = -0.1});
        p = set_tone_blend(p, ShotIndex(0), ToneBlend::light);
        CHECK(tone_figures(only(p), Originals(), Job()).toned < 0.1 * plain.flicker);
    }
}

TEST_CASE("what is clicked as grey becomes grey", "[tone][measure]")
{
    TempFolder t;
    cv::Mat m(60, 90, CV_16UC3, cv::Scalar(9000, 20000, 30000));
    m.colRange(0, 30).setTo(cv::Scalar(20000, 30000, 40000)); // grey in this light
    m.colRange(60, 90).setTo(cv::Scalar::all(0));
    write_picture(t / "p.png", m);
    Shot shot;
    shot.name = "s";
    shot.photos.push_back({.photo = scanned(t / "p.png")});
    const Project p = add_shot({}, shot);
    const WhitePoint white = white_at(only(p), nth(1), {10, 30}, Originals());
    CHECK(white.kelvin < 5000);
    const Project toned =
        set_anchor(p, ShotIndex(0), nth(1), {.warmth = white.kelvin, .green_magenta = white.green_magenta});
    FrameRequest r = request_for_shares(only(toned), std::array{Share{nth(1)}}, {90, 60});
    r.depth = Depth::sixteen;
    const cv::Vec3w grey = render(r, Originals())->at<cv::Vec3w>(30, 10);
    CHECK(std::abs(grey[0] - grey[1]) < 60); // of 65,535
    CHECK(std::abs(grey[2] - grey[1]) < 60);
    CHECK_THROWS_AS(white_at(only(p), nth(1), {200, 30}, Originals()), Failure);
    CHECK_THROWS_AS(white_at(only(p), nth(1), {80, 30}, Originals()), Failure); // black
}

TEST_CASE("the scopes show the light that comes in, and what is clipped when it goes out", "[tone][scopes]")
{
    TempFolder t;
    cv::Mat m(100, 200, CV_8UC3, cv::Scalar::all(118)); // about middle grey
    m.colRange(0, 50).setTo(cv::Scalar::all(0));
    write_picture(t / "p.png", m);
    Shot shot;
    shot.name = "s";
    shot.photos.push_back({.photo = scanned(t / "p.png")});
    Project p = add_shot({}, shot);
    const ToneScopes plain = tone_scopes(only(p), nth(1), Originals());
    const auto fullest = std::max_element(plain.histogram.begin(), plain.histogram.end()) - plain.histogram.begin();
    const double stops =
        ToneScopes::lowest + (double(fullest) + 0.5) * (ToneScopes::highest - ToneScopes::lowest) / ToneScopes::bins;
    CHECK(stops == Approx(0).margin(0.15));
    CHECK(*std::max_element(plain.histogram.begin(), plain.histogram.end()) == Approx(0.75).margin(0.01));
    CHECK(plain.black == Approx(0.25).margin(0.01));
    CHECK(plain.white == 0);
    CHECK(cv::sum(plain.waveform)[0] == Approx(plain.waveform.cols).epsilon(0.01));
    p = set_anchor(p, ShotIndex(0), nth(1), {.exposure = 3});
    const ToneScopes bright = tone_scopes(only(p), nth(1), Originals());
    CHECK(bright.histogram == plain.histogram); // before tone
    CHECK(bright.white == Approx(0.75).margin(0.01));
}

TEST_CASE("tones are kept with the user under their names", "[tone][named]")
{
    TempFolder t;
    const auto file = t / "deep" / "tones.json";
    CHECK(load_named_tones(file).empty());
    keep_named_tone(file, {"snow", {.exposure = 0.5}});
    keep_named_tone(file, {"dusk", {.warmth = 5000}});
    CHECK(keep_named_tone(file, {"snow", {.exposure = 0.7}}).size() == 2);
    const auto kept = load_named_tones(file);
    REQUIRE(kept.size() == 2);
    CHECK(kept[0].name == "dusk");
    CHECK(kept[1].tone == Tone{.exposure = 0.7});
    CHECK(forget_named_tone(file, "dusk").size() == 1);
    write_bytes(file, "{broken");
    CHECK_THROWS_AS(load_named_tones(file), Failure);
    CHECK_THROWS_AS(keep_named_tone(file, {"x", {}}), Failure);
    CHECK(read_bytes(file) == "{broken"); // nothing of it is lost
}

}
