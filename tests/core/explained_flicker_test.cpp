// What is surely flicker, whatever the light does: told by differences of tones and colours, and by coming again.
#include "core/steps/flicker/explained_flicker.h"
#include "core/steps/flicker/light_steps.h"
#include "tests/support/catch.h"

#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

using Series = std::vector<double>;

Series noise(std::size_t n, double sigma, unsigned seed)
{
    std::mt19937 random(seed);
    std::normal_distribution<double> normal(0, sigma);
    Series made(n);
    for (double& v : made)
        v = normal(random);
    return made;
}

Series sum(const Series& a, const Series& b, double share = 1)
{
    Series made = a;
    for (std::size_t k = 0; k < a.size(); ++k)
        made[k] += share * b[k];
    return made;
}

double rms(const Series& v)
{
    return std::sqrt(std::inner_product(v.begin(), v.end(), v.begin(), 0.0) / double(v.size()));
}

/// A cloud that comes within four photos and goes as quickly.
Series cloud(std::size_t n)
{
    Series made(n, 0);
    for (std::size_t k = 0; k < n; ++k) {
        const double into = std::min(double(k) - 40, 70 - double(k));
        made[k] = -0.9 * std::clamp(into / 4, 0.0, 1.0);
    }
    return made;
}

constexpr std::size_t photos = 120;

}

TEST_CASE("where some tones do not flicker, their difference tells the flicker, and a cloud stays",
          "[light][explained]")
{
    for (unsigned seed = 0; seed < 20; ++seed) {
        const Series flicker = noise(photos, 0.06, seed);
        const Series light = cloud(photos), y = sum(light, flicker);
        // The darks lie as much below the mean as that has flickered up; another tone goes half as far.
        const Series darks = sum(noise(photos, 0.004, seed + 100), flicker, -1),
                     middle = sum(noise(photos, 0.01, seed + 200), flicker, 0.5);
        const Series told = explained_flicker(y, {darks, middle});
        CAPTURE(seed);
        CHECK(rms(sum(told, flicker, -1)) < 0.25 * rms(flicker));
    }
}

TEST_CASE("the worse a difference tells the flicker, the less of it is taken for told", "[light][explained]")
{
    // The best linear guess from what is there under noise (Wiener): what is left is never more than was there.
    for (const double sigma : {0.01, 0.03, 0.06, 0.12, 0.3}) {
        double left = 0, was = 0;
        for (unsigned seed = 0; seed < 20; ++seed) {
            const Series flicker = noise(photos, 0.06, seed);
            const Series darks = sum(noise(photos, sigma, seed + 100), flicker, -1);
            left += std::pow(rms(sum(explained_flicker(flicker, {darks}), flicker, -1)), 2);
            was += std::pow(rms(flicker), 2);
        }
        const double best = sigma * sigma / (sigma * sigma + 0.06 * 0.06);
        CAPTURE(sigma);
        CHECK(left / was < best + 0.12);
    }
}

TEST_CASE("differences that have nothing to do with the brightness explain nothing", "[light][explained]")
{
    int some = 0;
    for (unsigned seed = 0; seed < 40; ++seed) {
        const Series y = noise(photos, 0.05, seed);
        const Series told = explained_flicker(y, {noise(photos, 0.05, seed + 100), noise(photos, 0.02, seed + 200)});
        some += rms(told) > 0;
        CHECK(rms(told) < 0.5 * rms(y));
    }
    CHECK(some <= 4);
    const Series still(photos, 0.3), y = noise(photos, 0.05, 7);
    CHECK(rms(explained_flicker(y, {still, Series(photos, 0)})) == 0); // series without anything quick
    CHECK(rms(explained_flicker(still, {y})) == 0);                    // nothing flickers
}

TEST_CASE("what comes again after two to six photos is found to a part of a photo, beside a cloud",
          "[light][explained]")
{
    for (const double period : {2.0, 2.37, 3.0, 3.61, 4.5, 5.8})
        for (const double phase : {0.4, 2.1}) {
            Series wave(photos);
            for (std::size_t k = 0; k < photos; ++k)
                wave[k] = 0.12 * std::sin(2 * std::numbers::pi * double(k) / period + phase);
            const Series y = sum(sum(cloud(photos), wave), noise(photos, 0.01, unsigned(period * 10)));
            CAPTURE(period, phase);
            CHECK(rms(sum(explained_flicker(y, {}), wave, -1)) < 0.25 * rms(wave));
        }
}

TEST_CASE("chance does not come again", "[light][explained]")
{
    int some = 0;
    for (unsigned seed = 0; seed < 60; ++seed)
        for (const std::size_t n : {std::size_t(30), std::size_t(60), photos})
            some += rms(explained_flicker(noise(n, 0.08, seed), {})) > 0;
    CHECK(some <= 6); // of 180
    // Slow light and its steps do not come again, either.
    Series lamp(photos, 0);
    std::fill(lamp.begin() + 55, lamp.end(), 0.8);
    CHECK(rms(explained_flicker(lamp, {})) == 0);
    CHECK(rms(explained_flicker(cloud(photos), {})) == 0);
}

TEST_CASE("a photo that stands out has no say in what is explained", "[light][explained]")
{
    const Series flicker = noise(photos, 0.05, 3), darks = sum(noise(photos, 0.003, 4), flicker, -1);
    Series flash = flicker;
    flash[33] += 2; // in all tones alike: the darks do not tell it
    const Series told = explained_flicker(flash, {darks});
    CHECK(rms(sum(told, flicker, -1)) < 0.2 * rms(flicker));
    CHECK(std::abs(told[33]) < 0.3);
}

TEST_CASE("few photos explain nothing", "[light][explained]")
{
    for (const std::size_t n : {std::size_t(0), std::size_t(1), std::size_t(3), std::size_t(23)}) {
        const Series y = noise(n, 0.1, 1);
        CHECK(explained_flicker(y, {y}) == Series(n, 0));
    }
}

TEST_CASE("one photo that is off is no step, wherever it is, nor is the edge of a cloud", "[light][steps]")
{
    int false_ones = 0, edges = 0;
    for (unsigned seed = 0; seed < 60; ++seed) {
        Series x(photos), rising(photos);
        std::iota(x.begin(), x.end(), 0.0);
        for (std::size_t k = 0; k < photos; ++k)
            rising[k] = 0.5 * std::clamp((double(k) - 45) / 20, 0.0, 1.0);
        Series y = sum(rising, noise(photos, 0.05, seed));
        y[56] -= 0.35; // near the end of the rise, where what comes after lies above it all
        false_ones += int(sudden_steps(x, y).size());
        edges += int(sudden_steps(x, sum(cloud(photos), noise(photos, 0.03, seed + 500))).size());
    }
    CHECK(false_ones <= 6); // of 60; before both sides were asked, most of them
    CHECK(edges <= 6);      // of 120
}

}
