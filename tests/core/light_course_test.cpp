// The slow course of light that changes as it likes, found without being told how fast it may change.
#include "core/steps/flicker/light_steps.h"
#include "core/steps/flicker/trend.h"
#include "tests/support/catch.h"

#include <cmath>
#include <functional>
#include <numeric>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

std::vector<double> made(int count, const std::function<double(int)>& value)
{
    std::vector<double> v;
    for (int i = 0; i < count; ++i)
        v.push_back(value(i));
    return v;
}

double rms(const std::vector<double>& a, const std::vector<double>& b)
{
    double squares = 0;
    for (std::size_t i = 0; i < a.size(); ++i)
        squares += (a[i] - b[i]) * (a[i] - b[i]) / double(a.size());
    return std::sqrt(squares);
}

/// White flicker on this light, its course found automatically, by how much that misses the light; the mean of several
/// seeds.
double missed(const std::vector<double>& light, double flicker, double window_s = 0)
{
    double squares = 0;
    constexpr int seeds = 6;
    for (int seed = 0; seed < seeds; ++seed) {
        std::mt19937 random(unsigned(seed) + 11);
        std::normal_distribution<double> normal(0, flicker);
        std::vector<double> y = light, x;
        for (std::size_t i = 0; i < y.size(); ++i) {
            y[i] += normal(random);
            x.push_back(double(i) / 24);
        }
        const std::vector<std::size_t> breaks{0, y.size()};
        squares += std::pow(rms(Trend(x, y, breaks, window_s).of(y), light), 2) / seeds;
    }
    return std::sqrt(squares);
}

/// What a Gaussian of sigma 5 photos makes of it, without any flicker.
double gaussian_misses(const std::vector<double>& light)
{
    std::vector<double> smooth;
    for (std::size_t i = 0; i < light.size(); ++i) {
        double sum = 0, weights = 0;
        for (std::size_t k = 0; k < light.size(); ++k) {
            const double d = (double(k) - double(i)) / 5;
            sum += std::exp(-0.5 * d * d) * light[k];
            weights += std::exp(-0.5 * d * d);
        }
        smooth.push_back(sum / weights);
    }
    return rms(smooth, light);
}

}

TEST_CASE("light that changes within a second stays, and white flicker goes, without being told how fast",
          "[light][course]")
{
    constexpr int photos = 120;
    constexpr double flicker = 0.05;
    const auto day = made(photos, [](int i) { return 0.5 * std::sin(i * 0.03); });
    const auto cloud = made(photos, [](int i) { return i >= 50 && i < 60 ? -0.8 : 0.0; }); // ten photos, at once
    const auto lamp = made(photos, [](int i) { return i >= 70 ? 0.9 : 0.0; });
    const auto dusk = made(photos, [](int i) { return -3.0 * i / photos; });
    CHECK(missed(day, flicker) < 0.4 * flicker);
    CHECK(missed(dusk, flicker) < 0.4 * flicker);
    for (const auto& light : {cloud, lamp}) {
        CHECK(missed(light, flicker) < 0.65 * flicker); // beside an edge only photos on one side can be asked
        CHECK(missed(light, flicker) < 0.5 * gaussian_misses(light)); // which flattens them, even without flicker
    }
    CHECK(missed(cloud, flicker, 4) >
          3 * missed(cloud, flicker)); // told that only what takes four seconds stays, it goes
}

TEST_CASE("how fast the light changes decides how long is looked at, and it is told", "[light][course]")
{
    std::mt19937 random(3);
    std::normal_distribution<double> normal(0, 0.05);
    const auto window_of = [&](const std::function<double(int)>& light) {
        std::vector<double> x, y;
        for (int i = 0; i < 160; ++i) {
            x.push_back(double(i) / 24);
            y.push_back(light(i) + normal(random));
        }
        return Trend(x, y, std::vector<std::size_t>{0, 160}, 0).window_s();
    };
    const double slow = window_of([](int i) { return 0.002 * i; }),
                 fast = window_of([](int i) { return 0.8 * std::sin(i * 0.4); });
    CHECK(slow > 2 * fast);
    CHECK(fast < 1);
    const std::vector<double> x{0, 1, 2, 3}, y{0, 0.1, 0, 0.1};
    CHECK(Trend(x, y, std::vector<std::size_t>{0, 4}, 2.5).window_s() == 2.5); // as it was set
}

TEST_CASE("a flash has no say in the slow course, a cloud of ten photos has", "[light][course]")
{
    std::vector<double> x, y(60, 0.0), prior(60, 1);
    for (int i = 0; i < 60; ++i)
        x.push_back(double(i) / 24);
    y[30] = 1.5;
    const std::vector<std::size_t> all{0, 60};
    CHECK(std::abs(Trend(x, y, all, 0).of(y)[30]) < 0.01);
    for (std::size_t i = 40; i < 50; ++i)
        y[i] = -0.5;
    const auto slow = Trend(x, y, all, 0).of(y);
    CHECK(slow[45] == Approx(-0.5).margin(0.02));
    CHECK(std::abs(slow[30]) < 0.02);
}

TEST_CASE("a smooth day has no flicker, by the definition that reports use", "[light][course]")
{
    // A local cubic gives a cubic back, up to its ends (Cleveland 1979).
    const auto cubic = made(90, [](int i) { return 1e-6 * i * i * i - 2e-4 * i * i + 0.01 * i; });
    CHECK(flicker_of(cubic) < 1e-9);
    CHECK(rms(cubic_smoothed(cubic), cubic) < 1e-9);
    const auto every_other = made(90, [](int i) { return i % 2 ? 0.1 : -0.1; });
    CHECK(flicker_of(every_other) == Approx(0.1).margin(0.005));
    CHECK(flicker_of(std::vector<double>{}) == 0);
}

TEST_CASE("what flickers in the sun and is still at night is flicker there, and no steps", "[light][course]")
{
    constexpr int photos = 160, sunny = 60;
    constexpr double flicker = 0.12;
    std::size_t steps = 0;
    double squares = 0;
    constexpr int seeds = 10;
    for (int seed = 0; seed < seeds; ++seed) {
        std::mt19937 random(unsigned(seed) + 40);
        std::normal_distribution<double> normal(0, 1);
        std::vector<double> x, y, light;
        for (int i = 0; i < photos; ++i) {
            x.push_back(double(i) / 24);
            light.push_back(-3.0 * i / photos);
            y.push_back(light.back() + (i < sunny ? flicker : 0.003) * normal(random));
        }
        steps += sudden_steps(x, y).size();
        const auto slow = Trend(x, y, std::vector<std::size_t>{0, photos}, 0).of(y);
        squares +=
            std::pow(rms({slow.begin(), slow.begin() + sunny}, {light.begin(), light.begin() + sunny}), 2) / seeds;
    }
    CHECK(steps <= seeds / 2); // one strength for the whole shot found 66
    CHECK(std::sqrt(squares) < 0.4 * flicker);
}

}
