// What kind of flicker a shot has is told from its photos, and what suits it is done without being asked for.
#include "core/source/transfer.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker.h"
#include "core/steps/flicker/flicker_kind.h"
#include "core/steps/flicker/light_clock.h"
#include "core/steps/flicker/trend.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>

#include <cmath>
#include <functional>
#include <numbers>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Photos of one scene whose linear light R, G, B a function changes.
using Change = std::function<void(int photo, cv::Vec3d& rgb)>;

std::vector<cv::Mat> photos_of(int count, const Change& change)
{
    const cv::Mat scene = in_light(-0.6, {240, 160});
    std::vector<cv::Mat> photos;
    for (int i = 0; i < count; ++i) {
        cv::Mat photo = scene.clone();
        photo.forEach<cv::Vec3b>([&](cv::Vec3b& p, const int*) {
            cv::Vec3d rgb;
            for (int c = 0; c < 3; ++c)
                rgb[c] = linear_of(p[2 - c] / 255.0);
            change(i, rgb);
            for (int c = 0; c < 3; ++c)
                p[2 - c] = cv::saturate_cast<std::uint8_t>(255 * encoded_of(std::clamp(rgb[c], 0.0, 1.0)));
        });
        photos.push_back(with_noise(photo, 1.5, std::uint64_t(i) + 5));
    }
    return photos;
}

DeflickerResult evened(const std::vector<cv::Mat>& photos, const std::vector<Exposure>& exposures = {})
{
    const InMemory source(photos);
    return deflicker_shot(exposures.empty() ? source.photos() : source.photos(exposures), {}, seconds_of(photos.size()),
                          {}, {}, source, {});
}

std::vector<double> white(int count, double size, unsigned seed)
{
    std::mt19937 random(seed);
    std::normal_distribution<double> normal(0, size);
    std::vector<double> v(static_cast<std::size_t>(count));
    for (double& x : v)
        x = normal(random);
    return v;
}

}

TEST_CASE("the kind of flicker is told, whichever it is", "[light][kind]")
{
    constexpr int count = 60;
    const auto flicker = white(count, 0.1, 3), green = white(count, 0.1, 4), blue = white(count, 0.1, 5);
    const auto cloud = [](int i) { return -0.5 * std::exp(-std::pow((i - 30) / 6.0, 2)); };
    struct Row
    {
        const char* what;
        Change change;
        Corrected suits;
        const char* says;
    };
    const std::vector<Row> rows{
        {"white, with a cloud",
         [&](int i, cv::Vec3d& l) { l *= std::exp2(flicker[std::size_t(i)] + cloud(i)); },
         {},
         "This flickers at random."},
        {"a cloud alone", [&](int i, cv::Vec3d& l) { l *= std::exp2(cloud(i)); }, {}, "Hardly anything flickers."},
        {"mains light",
         [&](int i, cv::Vec3d& l) { l *= std::exp2(0.1 * std::sin(2 * std::numbers::pi * i / 3 + 0.4) + cloud(i)); },
         {},
         "This flickers every third photo."},
        {"colours",
         [&](int i, cv::Vec3d& l) {
             l[0] *= std::exp2(flicker[std::size_t(i)]);
             l[1] *= std::exp2(green[std::size_t(i)]);
             l[2] *= std::exp2(blue[std::size_t(i)]);
         },
         {.each_colour = true},
         "This flickers at random, each colour by itself."},
        {"highlights",
         [&](int i, cv::Vec3d& l) {
             const double u = std::clamp((std::max({l[0], l[1], l[2]}) - 0.12) / 0.4, 0.0, 1.0);
             l *= std::exp2(2 * flicker[std::size_t(i)] * u * u * (3 - 2 * u));
         },
         {.by_tone = true},
         "This flickers at random, in the highlights only."},
    };
    for (const Row& row : rows) {
        const DeflickerResult e = evened(photos_of(count, row.change));
        CAPTURE(row.what, e.curve.kind.size, e.curve.kind.period, int(e.curve.kind.tones), e.curve.kind.by_colour,
                e.curve.kind.by_place);
        CHECK(told(e.curve.kind) == row.says);
        CHECK(e.curve.corrected == row.suits);
    }
}

TEST_CASE("a camera that goes to and fro in thirds is corrected by its settings, a ramp into the dusk is not",
          "[light][kind]")
{
    const auto settings = [](int thirds) {
        return Exposure{Fraction(1, 60), Fraction(8), int(std::lround(100 * std::exp2(thirds / 3.0))), {}};
    };
    std::vector<Exposure> to_and_fro, ramp;
    for (int i = 0; i < 40; ++i) {
        to_and_fro.push_back(settings(i >= 12 && i < 25 ? 1 : i >= 33 ? 2 : 0));
        ramp.push_back(settings(i / 4));
    }
    const auto photos = photos_of(40, [&](int i, cv::Vec3d& l) {
        l *= std::exp2((i >= 12 && i < 25 ? 1 : i >= 33 ? 2 : 0) / 3.0 - 0.3);
    });
    const DeflickerResult auto_exposure = evened(photos, to_and_fro);
    CHECK(auto_exposure.curve.corrected == Corrected{.camera_steps = true});
    CHECK(auto_exposure.curve.kind.settings == 3);
    CHECK_THAT(told(auto_exposure.curve.kind), Catch::Contains("The camera changed its exposure 3 times."));
    CHECK(auto_exposure.after[30] == Approx(auto_exposure.after[20]).margin(0.03));

    const auto dusk = photos_of(40, [&](int i, cv::Vec3d& l) { l *= std::exp2(i / 4 / 3.0 - i / 12.0); });
    const DeflickerResult ramped = evened(dusk, ramp);
    CHECK_FALSE(ramped.curve.corrected.camera_steps);
    CHECK(ramped.after[36] == Approx(ramped.after[4]).margin(0.15)); // what the photographer meant stays
}

TEST_CASE("where photos were taken at irregular times, time counts and not number", "[light][clock]")
{
    const std::vector<double> film{0, 1, 2, 3, 4, 5, 6};
    using Gaps = std::vector<std::optional<double>>;
    const auto none = std::nullopt;
    CHECK(light_clock(film, Gaps{none, 10, 10, 10, 10, 10, 10}) == film);       // equal
    CHECK(light_clock(film, Gaps{none, none, none, none, 10, 30, 10}) == film); // mostly unknown
    CHECK(light_clock(film, Gaps{none, 1, 2, 1, 1, 2, 1}) == film);             // whole seconds cannot tell
    CHECK(light_clock(film, Gaps{none, 10, 20, 10, 40, 10, 5}) == std::vector<double>{0, 1, 3, 4, 8, 9, 9.5});
    CHECK(light_clock(film, Gaps{none, 10, 3600, 10, 20, 10, 10}) ==
          std::vector<double>{0, 1, 6, 7, 9, 10, 11}); // a break tears nothing apart
    CHECK(light_clock({}, {}).empty());

    // A day that falls evenly in time, photographed unevenly: by number it has corners that the film's time takes for
    // flicker.
    std::mt19937 random(2);
    std::vector<double> seconds{0}, stops{0};
    Gaps gaps{none};
    std::vector<double> by_number{0};
    for (int i = 1; i < 120; ++i) {
        const double gap = random() % 5 == 0 ? 40 : random() % 2 ? 10 : 20;
        gaps.emplace_back(gap);
        seconds.push_back(seconds.back() + gap);
        stops.push_back(0.3 * std::sin(seconds.back() / 120));
        by_number.push_back(double(i) / 24);
    }
    const auto clock = light_clock(by_number, gaps);
    const std::vector<std::size_t> all{0, stops.size()};
    const auto missed = [&](const std::vector<double>& x) {
        const auto slow = Trend(x, stops, all, 0).of(stops);
        double squares = 0;
        for (std::size_t i = 0; i < stops.size(); ++i)
            squares += std::pow(slow[i] - stops[i], 2) / double(stops.size());
        return std::sqrt(squares);
    };
    CAPTURE(missed(by_number), missed(clock));
    CHECK(missed(clock) < 0.5 * missed(by_number));
}

}
