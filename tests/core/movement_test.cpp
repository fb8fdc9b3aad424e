// How much moved between two photos of a camera that stands still.
#include "core/steps/pace/movement.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

using namespace frenlo;
using namespace frenlo::test;

namespace {

double moved(const cv::Mat& a, const cv::Mat& b)
{
    return movement(movement_blocks(a), movement_blocks(b));
}

cv::Mat with_thing(const cv::Mat& scene, cv::Point at, int side)
{
    cv::Mat m = scene.clone();
    m(cv::Rect(at, cv::Size(side, side)) & cv::Rect({0, 0}, m.size())).setTo(cv::Scalar(40, 60, 200));
    return m;
}

}

TEST_CASE("noise and light are no movement, a small thing that moves is", "[movement]")
{
    const cv::Mat scene = in_light(-0.5, {960, 640});
    CHECK(moved(scene, scene) == 0);
    CHECK(moved(with_noise(scene, 4, 1), with_noise(scene, 4, 2)) < 1);
    CHECK(moved(with_noise(scene, 3, 1), with_noise(in_light(-0.35, {960, 640}), 3, 2)) <
          1); // it flickers by 0.15 stop
    cv::Mat shade(scene.size(), CV_8UC3), lit;
    for (int x = 0; x < scene.cols; ++x) // a light that comes from the side, slowly over the frame
        shade.col(x).setTo(cv::Scalar::all(200 + 50 * x / scene.cols));
    cv::multiply(scene, shade, lit, 1 / 225.0);
    CHECK(moved(with_noise(scene, 2, 1), with_noise(lit, 2, 2)) < 1);
    // A thing of a fortieth of the frame that goes on by its own width, and by a third of it.
    const cv::Mat before = with_noise(with_thing(scene, {400, 300}, 24), 3, 1);
    CHECK(moved(before, with_noise(with_thing(scene, {424, 300}, 24), 3, 2)) > 2);
    CHECK(moved(before, with_noise(with_thing(scene, {408, 300}, 24), 3, 2)) > 1);
    CHECK(moved(before, with_noise(scene, 3, 2)) > 2); // and one that is gone
}

TEST_CASE("movement of 16 bit and of transparent photos is that of 8 bit", "[movement]")
{
    const cv::Mat a = in_light(-0.5), b = with_thing(a, {200, 100}, 30);
    const double plain = moved(a, b);
    cv::Mat deep_a, deep_b, clear_a, clear_b;
    a.convertTo(deep_a, CV_16U, 257);
    b.convertTo(deep_b, CV_16U, 257);
    CHECK(moved(deep_a, deep_b) == Approx(plain).epsilon(0.01));
    cv::cvtColor(a, clear_a, cv::COLOR_BGR2BGRA);
    cv::cvtColor(b, clear_b, cv::COLOR_BGR2BGRA);
    CHECK(moved(clear_a, clear_b) == Approx(plain).epsilon(0.01));
    const cv::Mat tiny(3, 2, CV_8UC3, cv::Scalar::all(9)); // smaller than the blocks
    CHECK(moved(tiny, tiny) == 0);
    const cv::Mat black = cv::Mat::zeros(60, 90, CV_8UC3);
    CHECK(moved(black, black) == 0); // no ratios to go by
}
