// Which part of a shot's photos a narrow tile shows.
#include "core/picture/moving_part.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// A still scene in which a puppet walks between two columns, in light that changes.
std::vector<cv::Mat> puppet(double from, double to, double flicker)
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < 12; ++i) {
        cv::Mat m = real_scene()(cv::Rect(100, 100, 480, 320)).clone();
        cv::resize(m, m, {192, 128}, 0, 0, cv::INTER_AREA);
        const double at = from + (to - from) * i / 11;
        cv::rectangle(m, cv::Rect(int(at * 192) - 6, 70, 12, 30), {30, 60, 220}, -1);
        m.convertTo(m, CV_8U, std::exp2(flicker * std::sin(i * 2.1)));
        pictures.push_back(m);
    }
    return pictures;
}

}

TEST_CASE("a narrow window lies where things move, whatever the light does", "[sheet][moving]")
{
    for (const auto& [from, to] : {std::pair(0.1, 0.25), std::pair(0.45, 0.6), std::pair(0.75, 0.9)})
        for (const double flicker : {0.0, 0.15}) {
            const auto by_column = movement_by_column(puppet(from, to, flicker));
            for (const double share : {0.25, 0.4}) {
                const double left = moving_window(by_column, share);
                CAPTURE(from, flicker, share, left);
                CHECK(left <= from);
                CHECK(left + share >= to);
            }
        }
}

TEST_CASE("where nothing moves, or nothing is known, the middle is shown", "[sheet][moving]")
{
    CHECK(moving_window({}, 0.4) == Approx(0.3));
    CHECK(moving_window(movement_by_column({}), 0.5) == Approx(0.25));
    const std::vector<cv::Mat> same(4, puppet(0.2, 0.2, 0)[0]);
    CHECK(moving_window(movement_by_column(same), 0.5) == Approx(0.25));
    CHECK(moving_window(std::vector<double>{0, 0, 5, 0}, 1) == 0); // all of it
    const std::array lost{cv::Mat(), puppet(0.2, 0.2, 0)[0], cv::Mat()};
    CHECK(moving_window(movement_by_column(lost), 0.5) == Approx(0.25));
}

}
