// What stays in photo after photo: the share that stays, what is left when the scene is taken away, and specks in it.
#include "core/steps/retouch/lasting.h"
#include "core/steps/retouch/specks.h"
#include "tests/support/catch.h"
#include "tests/support/pictures.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const cv::Size size(420, 300);

cv::Mat1b grey_of(const cv::Mat& bgr)
{
    cv::Mat1b grey;
    cv::cvtColor(bgr, grey, cv::COLOR_BGR2GRAY);
    return grey;
}

/// Real texture from so far on, under noise.
cv::Mat1b photo_from(const cv::Point& at, std::uint64_t seed)
{
    return grey_of(with_noise(texture(size, at), 1, seed));
}

/// Darker there by 0.3 stops.
void put_speck(cv::Mat1b& grey, const cv::Point& at, int radius)
{
    cv::Mat1b mask(grey.size(), std::uint8_t(0));
    cv::circle(mask, at, radius, cv::Scalar(255), cv::FILLED, cv::LINE_AA);
    cv::Mat darker = grey * 0.9; // encoded
    darker.copyTo(grey, mask);
}

}

TEST_CASE("the share that stays is one of so many photos where they have nothing to do with each other", "[lasting]")
{
    Differences apart, same;
    for (int i = 0; i < 10; ++i) {
        cv::Mat noise(size, CV_32F);
        cv::theRNG().state = 17U + unsigned(i);
        cv::randn(noise, 0, 0.05);
        apart.photos.push_back(in_steps(noise));
        same.photos.push_back(apart.photos.front());
    }
    CHECK(staying(apart) == Approx(0.1).margin(0.02)); // 1/n: the variance of a mean
    CHECK(staying(same) == Approx(1).margin(0.001));
    CHECK(staying(Differences()) == 1);
}

TEST_CASE("the mean of the differences counts who knows", "[lasting]")
{
    Differences d;
    for (const int v : {10, 20, int(Differences::none), int(Differences::none), 60})
        d.photos.emplace_back(cv::Mat_<schar>(2, 2, schar(v)));
    CHECK(mean_of(d).photos.at(0)(1, 1) == 30);
    d.photos.emplace_back(cv::Mat_<schar>(2, 2, schar(Differences::none)));
    d.photos.emplace_back(cv::Mat_<schar>(2, 2, schar(Differences::none)));
    CHECK(mean_of(d).photos.at(0)(1, 1) == Differences::none); // three of seven
}

TEST_CASE("the scene is taken away where it moves, and a speck stays", "[lasting]")
{
    std::vector<cv::Mat1b> photos;
    const cv::Point speck(200, 150);
    for (int i = 0; i < 6; ++i) {
        photos.push_back(photo_from({60 + 22 * i, 40 + 9 * i}, std::uint64_t(i)));
        put_speck(photos.back(), speck, 4);
    }
    const auto differences = from_scene(photos, 20, Job());
    REQUIRE(differences);
    const cv::Mat_<schar> mean = mean_of(*differences).photos.at(0);
    CHECK(mean(speck) * Differences::stops == Approx(2 * std::log2(0.9)).margin(0.05)); // 0.3 stops of light
    cv::Mat1f left;
    mean.convertTo(left, CV_32F, Differences::stops);
    cv::Mat1b elsewhere(size, std::uint8_t(0));
    elsewhere(cv::Rect(110, 60, 200, 180)) = 255;
    cv::circle(elsewhere, speck, 8, cv::Scalar(0), cv::FILLED);
    cv::Scalar average, deviation;
    cv::meanStdDev(left, average, deviation, elsewhere);
    CHECK(deviation[0] < 0.03);
    const auto found = specks_in(*differences, {.smallest = 4, .largest = 12}, Job());
    REQUIRE(found.size() == 1);
    CHECK(cv::norm(found[0].at - cv::Point2d(speck)) < 1.5);
    CHECK(found[0].radius == Approx(4).margin(1.2));
    CHECK(found[0].strength > 0.15);
}

TEST_CASE("what stands still, or shows something else each time, is no scene that moves", "[lasting]")
{
    std::vector<cv::Mat1b> still, other;
    for (int i = 0; i < 6; ++i) {
        still.push_back(photo_from({60, 40}, std::uint64_t(i)));
        cv::Mat noise(size, CV_8UC1);
        cv::theRNG().state = 5U + unsigned(i);
        cv::randu(noise, 0, 255);
        other.emplace_back(noise);
    }
    CHECK(!from_scene(still, 20, Job()));
    CHECK(!from_scene(other, 20, Job()));
    CHECK(!from_scene({still[0], still[1]}, 20, Job()));
}

TEST_CASE("a speck that one photo shows is none", "[lasting]")
{
    Differences d;
    for (int i = 0; i < 8; ++i) {
        cv::Mat1f noise(size);
        cv::theRNG().state = 70U + unsigned(i);
        cv::randn(noise, 0, 0.02);
        if (i == 3)
            cv::circle(noise, {120, 100}, 5, cv::Scalar(-0.3), cv::FILLED);
        cv::circle(noise, {300, 200}, 5, cv::Scalar(-0.1), cv::FILLED); // each shows that one
        d.photos.push_back(in_steps(noise));
    }
    const auto found = specks_in(d, {}, Job());
    REQUIRE(found.size() == 1);
    CHECK(cv::norm(found[0].at - cv::Point2d(300, 200)) < 1.5);
}

}
