// Textures that are continued into what is missing, against what is known of them in closed form.
#include "core/steps/retouch/kriging.h"
#include "tests/support/catch.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

template <class Light>
Canvas painted(cv::Size size, const Light& light)
{
    Canvas canvas(size);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const auto v = float(light(x, y));
            canvas(y, x) = {v, v / 2, 1 - v, 1};
        }
    return canvas;
}

cv::Mat1b known_but_for(cv::Size size, cv::Point middle, double radius)
{
    cv::Mat1b known(size, std::uint8_t(255));
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            if (cv::norm(cv::Point2d(x - middle.x, y - middle.y)) <= radius)
                known(y, x) = 0;
    return known;
}

/// Whole, with the hole made 0 and continued.
Canvas continued(const Canvas& whole, const cv::Mat1b& known, double radius)
{
    Canvas made(whole.size(), cv::Vec4f());
    whole.copyTo(made, known);
    krige(made, known, {.picture = made.clone(), .known = known, .corner = {}}, radius);
    return made;
}

double error_inside(const Canvas& made, const Canvas& truth, const cv::Mat1b& known)
{
    return cv::norm(made, truth, cv::NORM_L2, known == 0) / std::sqrt(double(cv::countNonZero(known == 0)));
}

}

TEST_CASE("the autocovariance of a wave is a wave, and nothing is indefinite", "[kriging]")
{
    constexpr double period = 8, strength = 0.2;
    const cv::Size size(96, 96);
    const Canvas waves = painted(size, [&](int x, int) { return 0.5 + strength * std::sin(2 * CV_PI * x / period); });
    constexpr double range = 12;
    const cv::Mat1f c = autocovariance(waves, cv::Mat1b(size, std::uint8_t(255)), range);
    // Half of the square of its strength, of the three colours together; less and less alike towards the range.
    const double variance = strength * strength / 2 * (1 + 0.25 + 1);
    CHECK(c(0, 0) == Approx(variance).epsilon(0.03));
    for (const int by : {1, 2, 4, 8, 13})
        CHECK(std::abs(c(0, by) - variance * std::cos(2 * CV_PI * by / period) *
                                      std::exp(-by * by / (2 * range * range))) < 0.06 * variance);
    CHECK(c(5, 4) == Approx(c(0, 4) * std::exp(-25 / (2 * range * range))).epsilon(0.05)); // the same in every row
    CHECK(c(0, c.cols - 3) == Approx(c(0, 3)).epsilon(1e-4));
    cv::Mat spectrum, real;
    cv::dft(c, spectrum, cv::DFT_COMPLEX_OUTPUT);
    cv::extractChannel(spectrum, real, 0);
    double least = 0;
    cv::minMaxLoc(real, &least);
    CHECK(least > -1e-3 * cv::norm(real, cv::NORM_INF));
    CHECK(cv::countNonZero(autocovariance(waves, cv::Mat1b(size, std::uint8_t(0)), range)) == 0);
}

TEST_CASE("a level and a slope are continued exactly", "[kriging]")
{
    const cv::Size size(60, 50);
    const cv::Mat1b known = known_but_for(size, {30, 25}, 7);
    for (const auto& [across, down] : {std::pair(0.0, 0.0), std::pair(0.004, -0.002), std::pair(-0.001, 0.006)}) {
        const Canvas truth =
            painted(size, [a = across, d = down](int x, int y) { return 0.5 + a * (x - 30) + d * (y - 25); });
        CAPTURE(across, down);
        CHECK(error_inside(continued(truth, known, 7), truth, known) < 2e-3);
    }
}

TEST_CASE("a wave goes on through what is missing, and noise does not", "[kriging]")
{
    const cv::Size size(80, 80);
    const cv::Mat1b known = known_but_for(size, {41, 38}, 8);
    const Canvas waves =
        painted(size, [](int x, int y) { return 0.5 + 0.2 * std::sin(2 * CV_PI * (x + 0.5 * y) / 11); });
    const Canvas flat(size, cv::Vec4f(0.5F, 0.25F, 0.5F, 1));
    CHECK(error_inside(continued(waves, known, 8), waves, known) < 0.25 * error_inside(flat, waves, known));
    // Of noise the best guess is its mean.
    Canvas noise(size);
    cv::RNG random(3);
    random.fill(noise, cv::RNG::NORMAL, 0.5, 0.1);
    const Canvas guessed = continued(noise, known, 8);
    double most = 0;
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            if (known(y, x) == 0)
                most = std::max(most, std::abs(double(guessed(y, x)[0]) - 0.5));
    CHECK(most < 0.15);
    // What is known stays, bit for bit.
    cv::Mat differs;
    cv::absdiff(guessed, noise, differs);
    differs.setTo(0, known == 0);
    CHECK(cv::norm(differs, cv::NORM_INF) == 0);
}

TEST_CASE("where nothing is known all stays as it is", "[kriging][bad]")
{
    const cv::Size size(20, 16);
    Canvas values(size, cv::Vec4f(0.1F, 0.2F, 0.3F, 1));
    const cv::Mat1b nothing(size, std::uint8_t(0)), all(size, std::uint8_t(255));
    const Canvas before = values.clone();
    krige(values, nothing, {.picture = values.clone(), .known = nothing, .corner = {}}, 6);
    CHECK(cv::norm(values, before, cv::NORM_INF) == 0);
    krige(values, all, {.picture = values.clone(), .known = all, .corner = {}}, 6);
    CHECK(cv::norm(values, before, cv::NORM_INF) == 0);
    // A hole as large as can be: a frame of one pixel is known.
    cv::Mat1b frame(size, std::uint8_t(255));
    frame(cv::Rect(1, 1, size.width - 2, size.height - 2)) = 0;
    krige(values, frame, {.picture = values.clone(), .known = frame, .corner = {}}, 6);
    CHECK(cv::norm(values, before, cv::NORM_INF) < 1e-3);
}

}
