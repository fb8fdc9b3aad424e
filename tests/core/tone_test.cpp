// The curve, the white balance and the stage of tone.
#include "core/picture/picture.h"
#include "core/source/transfer.h"
#include "core/steps/tone/local_contrast.h"
#include "core/steps/tone/tone_curve.h"
#include "core/steps/tone/tone_stage.h"
#include "core/steps/tone/white_balance.h"
#include "tests/support/catch.h"
#include "tests/support/colour.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// A row of these pixels, toned as a photo of the size.
std::vector<cv::Vec4f> toned_row(std::vector<cv::Vec4f> pixels, const Tone& tone)
{
    row_stage(tone, part_of_plane({int(pixels.size()), 1}))(0, 0, int(pixels.size()), pixels.front().val);
    return pixels;
}

cv::Vec4f toned_pixel(const cv::Vec4f& pixel, const Tone& tone)
{
    return toned_row({pixel}, tone).front();
}

double luminance(const cv::Vec4f& p)
{
    return 0.0722 * p[0] + 0.7152 * p[1] + 0.2126 * p[2];
}

double stops_of(double light)
{
    return std::log2(light / 0.18);
}

}

TEST_CASE("colour differences are those that were published", "[tone][colour]")
{
    // Sharma, Wu, Dalal 2005, table 1: some of the 34 pairs, from memory.
    struct Pair
    {
        cv::Vec3d a, b;
        double difference;
    };
    const auto p = GENERATE(
        Pair{{50, 2.6772, -79.7751}, {50, 0, -82.7485}, 2.0425},
        Pair{{50, 3.1571, -77.2803}, {50, 0, -82.7485}, 2.8615},
        Pair{{50, -1.3802, -84.2814}, {50, 0, -82.7485}, 1.0000}, Pair{{50, 0, 0}, {50, -1, 2}, 2.3669},
        Pair{{50, 2.49, -0.001}, {50, -2.49, 0.0009}, 7.1792}, Pair{{50, 2.49, -0.001}, {50, -2.49, 0.0011}, 7.2195},
        Pair{{50, -0.001, 2.49}, {50, 0.0009, -2.49}, 4.8045}, Pair{{50, 2.5, 0}, {73, 25, -18}, 27.1492},
        Pair{{50, 2.5, 0}, {61, -5, 29}, 22.8977}, Pair{{50, 2.5, 0}, {56, -27, -3}, 31.9030},
        Pair{{50, 2.5, 0}, {58, 24, 15}, 19.4535},
        Pair{{60.2574, -34.0099, 36.2677}, {60.4626, -34.1751, 39.4387}, 1.2644},
        Pair{{90.9257, -0.5406, -0.9208}, {88.6381, -0.8985, -0.7239}, 1.5381},
        Pair{{2.0776, 0.0795, -1.1350}, {0.9033, -0.0636, -0.5514}, 0.9082});
    CHECK(ciede2000(p.a, p.b) == Approx(p.difference).margin(0.0001));
    CHECK(ciede2000(p.b, p.a) == Approx(p.difference).margin(0.0001));
}

TEST_CASE("the tables of light give the chromaticities that were published with them", "[tone][colour]")
{
    Spectrum36 white;
    white.fill(1);
    const auto xy = [&](const Spectrum36& light) {
        const cv::Vec3d xyz = seen_under(white, light);
        const double sum = xyz[0] + xyz[1] + xyz[2];
        return cv::Vec2d(xyz[0] / sum, xyz[1] / sum);
    };
    // CIE 15:2004: D65 0.3127, 0.3290; A 0.4476, 0.4074. Steps of 10 nm are good to some ten-thousandths.
    CHECK(xy(illuminant_d65())[0] == Approx(0.3127).margin(0.0004));
    CHECK(xy(illuminant_d65())[1] == Approx(0.3290).margin(0.0004));
    CHECK(xy(illuminant_a())[0] == Approx(0.4476).margin(0.0008));
    CHECK(xy(illuminant_a())[1] == Approx(0.4074).margin(0.0008));
    CHECK(cv::norm(xy(daylight_of(6504)) - xy(illuminant_d65())) < 0.0005);
}

TEST_CASE("the line of daylight is that of the CIE, and goes on into lamplight", "[tone][white]")
{
    struct Known
    {
        double kelvin, x, y;
    };
    // CIE 15:2004, D50, D55, D65, D75; illuminant A.
    const auto k = GENERATE(Known{5003, 0.3457, 0.3585}, Known{5503, 0.3324, 0.3474}, Known{6504, 0.3127, 0.3290},
                            Known{7504, 0.2990, 0.3149}, Known{2856, 0.4476, 0.4074});
    const double d = -2 * k.x + 12 * k.y + 3;
    CHECK(cv::norm(white_of(k.kelvin) - Uv(4 * k.x / d, 6 * k.y / d)) < 0.0003);
}

TEST_CASE("the white point of a light's own colour is that light", "[tone][white]")
{
    const double kelvin = GENERATE(2000.0, 2856.0, 3300.0, 4000.0, 5003.0, 6504.0, 10'000.0, 24'000.0);
    const double green = GENERATE(-40.0, 0.0, 25.0);
    const Uv uv = chromaticity({kelvin, green});
    const double d = 2 * uv[0] - 8 * uv[1] + 4, x = 3 * uv[0] / d, y = 2 * uv[1] / d;
    const cv::Vec3d rgb = rgb_of_xyz({0.4 * x / y, 0.4, 0.4 * (1 - x - y) / y});
    const auto found = white_point({rgb[2], rgb[1], rgb[0]});
    REQUIRE(found);
    CHECK(1e6 / found->kelvin == Approx(1e6 / kelvin).margin(0.2)); // reciprocal megakelvin
    CHECK(found->green_magenta == Approx(green).margin(0.2));
    INFO(kelvin << " K, " << green << " % green, found " << found->kelvin << ", " << found->green_magenta);
    const cv::Vec3d grey = white_balance(*found) * cv::Vec3d(rgb[2], rgb[1], rgb[0]);
    for (int c = 0; c < 3; ++c)
        CHECK(grey[c] == Approx(0.4).epsilon(0.005));
}

TEST_CASE("what is black has no white point, and daylight changes nothing", "[tone][white]")
{
    CHECK_FALSE(white_point({0, 0, 0}));
    CHECK(cv::norm(white_balance({daylight_kelvin, 0}) - cv::Matx33d::eye()) < 1e-5);
    CHECK(white_balance({9000, 0})(2, 2) > 1); // red: higher is warmer
    const cv::Vec3d magenta = white_balance({daylight_kelvin, 30}) * cv::Vec3d(1, 1, 1);
    CHECK(magenta[1] < magenta[0]);
    CHECK(magenta[1] < magenta[2]);
}

TEST_CASE("a chart under lamplight and under blue sky, its grey clicked, looks as by daylight", "[tone][white]")
{
    Spectrum36 grey;
    grey.fill(0.2);
    Spectrum36 white;
    white.fill(1);
    const Spectrum36 day = illuminant_d65(), light = GENERATE(illuminant_a(), daylight_of(10'000));
    const auto photo_of = [&](const Spectrum36& surface, const Spectrum36& under) {
        const cv::Vec3d rgb = rgb_of_xyz(seen_under(surface, under));
        return cv::Vec3d(rgb[2], rgb[1], rgb[0]);
    };
    const cv::Matx33d balance = white_balance(*white_point(photo_of(grey, light)));
    const cv::Vec3d adapted_white = seen_under(white, day);
    const auto lab = [&](const cv::Vec3d& bgr) { return lab_of(xyz_of_rgb({bgr[2], bgr[1], bgr[0]}), adapted_white); };
    // As charts have it: six neutral patches to eighteen others.
    auto chart = surfaces(72, 20260);
    for (int n = 0; n < 24; ++n) {
        chart.emplace_back();
        chart.back().fill(0.03 + 0.037 * n);
    }
    double sum = 0;
    for (const Spectrum36& surface : chart)
        sum += ciede2000(lab(balance * photo_of(surface, light)), lab(photo_of(surface, day)));
    CHECK(sum / double(chart.size()) < 2.0); // the Bradford transform alone does not reach it under A
    for (const double share : {0.03, 0.2, 0.9}) {
        Spectrum36 neutral;
        neutral.fill(share);
        CHECK(ciede2000(lab(balance * photo_of(neutral, light)), lab(photo_of(neutral, day))) < 0.7);
    }
}

TEST_CASE("the curve says what its settings say", "[tone][curve]")
{
    const auto slope = [](const ToneCurve& c, double at) { return (c(at + 0.01) - c(at - 0.01)) / 0.02; };
    const ToneCurve nothing{Tone()};
    CHECK(nothing.straight());
    CHECK(nothing(-3.7) == -3.7);
    CHECK(ToneCurve({.exposure = 1.5})(-2) == -0.5);
    for (const double percent : {-100.0, -40.0, 40.0, 100.0}) {
        const ToneCurve c({.contrast = percent});
        CHECK(c(0) == Approx(0).margin(1e-9));
        CHECK(slope(c, 0) == Approx(std::exp2(percent / 100)).epsilon(0.002));
        CHECK(c(white_stops) == Approx(white_stops).margin(0.001)); // white stays white
        CHECK(slope(c, 7) == Approx(1).margin(0.001));
    }
    const ToneCurve ends({.toe = 1.5, .shoulder = -0.5});
    CHECK(ends(-6) == Approx(-4.5).margin(0.001));
    CHECK(ends(-9) == Approx(-7.5).margin(0.001));
    CHECK(ends(white_stops) == Approx(white_stops - 0.5).margin(0.001));
    CHECK(ends(0) == Approx(0).margin(1e-9));
    CHECK(slope(ends, 0) == Approx(1).margin(0.01)); // joins smoothly
}

TEST_CASE("whatever is set, the order of tones is kept", "[tone][curve]")
{
    cv::RNG rng(11);
    for (int n = 0; n < 200; ++n) {
        const ToneCurve c({.exposure = rng.uniform(-8.0, 8.0),
                           .contrast = rng.uniform(-100.0, 100.0),
                           .toe = rng.uniform(-3.0, 3.0),
                           .shoulder = rng.uniform(-3.0, 3.0)});
        double before = c(-20);
        for (double stops = -19.95; stops < 14; stops += 0.05) {
            REQUIRE(c(stops) > before);
            before = c(stops);
        }
    }
}

TEST_CASE("one stop more is twice the light, and white is white", "[tone][stage]")
{
    for (const double light : {0.0004, 0.01, 0.18, 0.49}) {
        const cv::Vec4f p = toned_pixel({float(light), float(light * 0.8), float(light * 0.6), 1}, {.exposure = 1});
        CHECK(p[0] == Approx(2 * light).epsilon(0.0005)); // the aim: 0.002
        CHECK(p[1] == Approx(1.6 * light).epsilon(0.0005));
        CHECK(p[2] == Approx(1.2 * light).epsilon(0.0005));
    }
    CHECK(toned_pixel({1, 1, 1, 1}, {.exposure = 1}) == cv::Vec4f(1, 1, 1, 1));
    for (const double percent : {-60.0, 60.0}) {
        const cv::Vec4f white = toned_pixel({1, 1, 1, 1}, {.contrast = percent});
        CHECK(white[1] == Approx(1).margin(0.002));
        CHECK(white[0] == white[2]);
    }
}

TEST_CASE("too bright for a screen goes to white on the line of its hue", "[tone][stage]")
{
    const cv::Vec4f orange(0.05F, 0.2F, 0.5F, 1);
    const auto hue = [](const cv::Vec4f& p) { // where between the strongest and the weakest channel the middle one lies
        return (p[1] - p[0]) / (p[2] - p[0]);
    };
    for (const double stops : {0.5, 1.0, 1.5, 1.9}) {
        const cv::Vec4f p = toned_pixel(orange, {.exposure = stops});
        CHECK(hue(p) == Approx(hue(orange)).epsilon(0.001));
        CHECK(p[2] <= 1.0001F);
        CHECK(luminance(p) == Approx(std::min(1.0, luminance(orange) * std::exp2(stops))).epsilon(0.001));
    }
    CHECK(toned_pixel(orange, {.exposure = 4}) == cv::Vec4f(1, 1, 1, 1));
}

TEST_CASE("the stage follows the curve to what floats keep, in dark and light", "[tone][stage]")
{
    const Tone tone{.exposure = 0.7, .contrast = 80, .toe = -1, .shoulder = 0.4};
    const ToneCurve curve(tone);
    std::vector<cv::Vec4f> ramp;
    for (double stops = -12; stops < 2; stops += 0.003)
        ramp.emplace_back(float(0.18 * std::exp2(stops)), float(0.18 * std::exp2(stops)),
                          float(0.18 * std::exp2(stops)), 1.0F);
    const auto out = toned_row(ramp, tone);
    double farthest = 0;
    for (std::size_t i = 0; i < ramp.size(); ++i)
        if (luminance(out[i]) < 0.999)
            farthest = std::max(farthest, std::abs(stops_of(luminance(out[i])) - curve(stops_of(luminance(ramp[i])))));
    CHECK(farthest < 0.0005); // stops; a step of sixteen bits is more everywhere
}

TEST_CASE("colour grows to the edge of what a screen shows, never beyond, and grey stays grey", "[tone][stage]")
{
    cv::RNG rng(3);
    for (int n = 0; n < 500; ++n) {
        const cv::Vec4f p(rng.uniform(0.0F, 1.0F), rng.uniform(0.0F, 1.0F), rng.uniform(0.0F, 1.0F), 1);
        const cv::Vec4f more = toned_pixel(p, {.colour = 100}), less = toned_pixel(p, {.colour = -100});
        for (int c = 0; c < 3; ++c) {
            CHECK(more[c] > -1e-5F);
            CHECK(more[c] < 1.00001F);
            CHECK(less[c] == Approx(luminance(p)).margin(1e-4));
        }
        CHECK(luminance(more) == Approx(luminance(p)).margin(1e-4));
    }
    const cv::Vec4f soft(0.30F, 0.32F, 0.34F, 1), strong = toned_pixel(soft, {.colour = 50});
    CHECK((strong[2] - strong[0]) / (soft[2] - soft[0]) == Approx(1.5).margin(0.1)); // little of it: all of the 50 %
    CHECK(toned_pixel({0.4F, 0.4F, 0.4F, 1}, {.colour = 80})[0] == Approx(0.4).epsilon(1e-5));
}

TEST_CASE("what is transparent is toned as what it is", "[tone][stage]")
{
    const Tone tone{.exposure = 1, .contrast = 30, .warmth = 5200, .colour = 20};
    const cv::Vec4f whole(0.1F, 0.2F, 0.3F, 1), toned = toned_pixel(whole, tone),
                                                half = toned_pixel(whole * 0.5F, tone);
    for (int c = 0; c < 3; ++c)
        CHECK(half[c] == Approx(toned[c] / 2).epsilon(1e-5));
    CHECK(half[3] == 0.5F);
    CHECK(toned_pixel({0, 0, 0, 0}, tone) == cv::Vec4f(0, 0, 0, 0));
}

TEST_CASE("lifted corners undo the fourth power of the cosine, whatever part of the photo is made", "[tone][stage]")
{
    const cv::Size size(300, 200);
    const double stops = 1.2, k = std::exp2(stops / 2) - 1; // 1 + k is 1 / cos^2 in the corner
    Canvas photo(size);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const double r2 = (std::pow(x + 0.5 - 150, 2) + std::pow(y + 0.5 - 100, 2)) / (150.0 * 150 + 100.0 * 100);
            const auto light = float(0.4 / std::pow(1 + k * r2, 2));
            photo(y, x) = {light, light, light, 1};
        }
    const StagePhoto whole = part_of_plane(size);
    const RowStage stage = row_stage(Tone{.corners = stops}, whole);
    Canvas lifted = photo.clone();
    for (int y = 0; y < size.height; ++y)
        stage(y, 0, size.width, lifted.ptr<float>(y));
    CHECK(cv::norm(lifted, Canvas(size, cv::Vec4f(0.4F, 0.4F, 0.4F, 1)), cv::NORM_INF) < 0.0005);
    StagePhoto part = part_of_plane({100, 50});
    part.to_photo = whole.to_photo * Transform(1, 0, 200, 0, 1, 150, 0, 0, 1);
    Canvas corner = photo(cv::Rect(200, 150, 100, 50)).clone();
    const RowStage of_part = row_stage(Tone{.corners = stops}, part);
    for (int y = 0; y < corner.rows; ++y)
        of_part(y, 0, corner.cols, corner.ptr<float>(y));
    CHECK(cv::norm(corner, lifted(cv::Rect(200, 150, 100, 50)), cv::NORM_INF) < 1e-5);
}

TEST_CASE("local contrast lifts what stands out, leaves edges without a halo and noise as it is", "[tone][stage]")
{
    Canvas scene(120, 240);
    cv::RNG rng(5);
    for (int y = 0; y < scene.rows; ++y)
        for (int x = 0; x < scene.cols; ++x) {
            const double base = x < 120 ? 0.05 : 0.6; // an edge of 3.6 stops
            const double wave = std::exp2(0.25 * std::sin(x * 2 * CV_PI / 24));
            const auto light = float(base * (y < 60 ? wave : 1));
            scene(y, x) = {light, light, light, 1};
        }
    const cv::Mat1f out = tones_standing_out(scene);
    double most = 0, at_edge = 0, flat = 0;
    for (int x = 40; x < 90; ++x)
        most = std::max(most, double(std::abs(out(30, x))));
    for (int x = 110; x < 130; ++x)
        at_edge = std::max(at_edge, double(std::abs(out(90, x))));
    for (int x = 20; x < 60; ++x)
        flat = std::max(flat, double(std::abs(out(100, x))));
    CHECK(most > 0.18);    // of the 0.25 stop of the waves
    CHECK(at_edge < 0.25); // of 3.6
    CHECK(flat < 0.02);
    const auto untouched = toned_row(std::vector<cv::Vec4f>(10, {0.2F, 0.2F, 0.2F, 1}), {.local_contrast = 50});
    CHECK(untouched[5][1] == Approx(0.2)); // where nobody has an overview
}

TEST_CASE("a toned picture is the same at any size that it is made at", "[tone][render]")
{
    TempFolder t;
    cv::Mat scene;
    cv::GaussianBlur(real_scene()(cv::Rect(0, 0, 1200, 800)), scene, {}, 16); // so that sizes alone make no difference
    write_picture(t / "p.png", scene);
    FrameRequest large = request_of(scanned(t / "p.png"), {1200, 800}),
                 small = request_of(scanned(t / "p.png"), {300, 200});
    const Tone tone{.exposure = 0.4,
                    .contrast = 40,
                    .toe = 0.5,
                    .warmth = 5000,
                    .colour = 30,
                    .local_contrast = 60,
                    .corners = 0.8};
    for (FrameRequest* r : {&large, &small})
        placed(*r).stages.set(tone);
    cv::Mat shrunk;
    cv::resize(*render(large, Originals()), shrunk, {300, 200}, 0, 0, cv::INTER_AREA);
    cv::Mat difference;
    cv::absdiff(shrunk, *render(small, Originals()), difference);
    CHECK(cv::mean(difference)[1] < 1.0); // codes of 255
    CHECK(cv::norm(difference, cv::NORM_INF) < 8);
}

TEST_CASE("strong contrast of sixteen bits leaves no gap that floats would not", "[tone][render]")
{
    TempFolder t;
    cv::Mat ramp(16, 4096, CV_16UC3);
    for (int x = 0; x < ramp.cols; ++x)
        ramp.col(x).setTo(cv::Scalar::all(x * 16 + 7));
    write_picture(t / "ramp.png", ramp);
    FrameRequest r = request_of(scanned(t / "ramp.png"), ramp.size());
    r.depth = Depth::sixteen;
    const Tone tone{.contrast = 80};
    placed(r).stages.set(tone);
    const cv::Mat out = *render(r, Originals());
    const ToneCurve curve(tone);
    double farthest = 0;
    for (int x = 0; x < ramp.cols; ++x) {
        const double in = linear_of((x * 16 + 7) / 65535.0), light = 0.18 * std::exp2(curve(stops_of(in)));
        farthest = std::max(farthest, std::abs(out.at<cv::Vec3w>(8, x)[1] - 65535 * encoded_of(std::min(1.0, light))));
    }
    CHECK(farthest < 2.5); // codes: floats, and one quantisation with its noise
}

}
