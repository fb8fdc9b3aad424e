// Pictures that were looked at once, so that a change of the code shows where it changes them. Photos are made here, in
// code that nothing else uses, and written without loss: a JPEG decoder's own freedom would need tolerance. What is
// left of freedom is the compiler's order of floating-point sums, which moves a value across a rounding edge: 1 code
// value, seldom 2.
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/accepted.h"
#include "tests/support/catch.h"
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

const cv::Size photo_size(360, 240), small(120, 80);

/// A paper sea in an evening light, with ramps that show banding and edges that show ringing.
cv::Mat harbour(int number)
{
    cv::Mat m(photo_size, CV_8UC3);
    for (int y = 0; y < m.rows; ++y)
        for (int x = 0; x < m.cols; ++x) {
            const double wave = 150 + 6 * std::sin(x / 17.0 + number);
            const bool sea = y > wave;
            const int stripe = (x / 4 + y / 4) % 2 * 12;
            m.at<cv::Vec3b>(y, x) =
                sea ? cv::Vec3b(std::uint8_t(150 - y / 3), std::uint8_t(90 + x / 12), std::uint8_t(30 + stripe))
                    : cv::Vec3b(std::uint8_t(90 + y / 2), std::uint8_t(170 + stripe / 3), std::uint8_t(200 + y / 6));
        }
    cv::circle(m, {250, 60}, 22, {210, 236, 246}, -1);
    const cv::Point boat(40 + 30 * number, 140);
    cv::fillPoly(m,
                 std::vector<std::vector<cv::Point>>{
                     {boat, boat + cv::Point(60, 0), boat + cv::Point(48, 22), boat + cv::Point(10, 22)}},
                 {240, 240, 244});
    cv::fillPoly(m,
                 std::vector<std::vector<cv::Point>>{
                     {boat + cv::Point(30, -50), boat + cv::Point(30, -4), boat + cv::Point(58, -4)}},
                 {60, 80, 200});
    return m;
}

cv::Mat in_sixteen(const cv::Mat& m)
{
    cv::Mat wide;
    m.convertTo(wide, CV_16U, 257);
    return wide;
}

/// The sky is glass.
cv::Mat transparent(const cv::Mat& m)
{
    cv::Mat with;
    cv::cvtColor(m, with, cv::COLOR_BGR2BGRA);
    for (int y = 0; y < 140; ++y)
        for (int x = 0; x < with.cols; ++x)
            with.at<cv::Vec4b>(y, x)[3] = std::uint8_t(std::min(255, y * 255 / 140));
    return with;
}

struct Folder
{
    TempFolder t;
    Shot shot;
    Folder()
    {
        write_picture(t / "s" / "a1.png", harbour(0));
        write_picture(t / "s" / "a2.png", harbour(1));
        write_picture(t / "s" / "a3.png", in_sixteen(harbour(2)));
        write_picture(t / "s" / "a4.png", transparent(harbour(3)));
        const std::array places{t / "s"};
        shot = *add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot).shots.front();
    }
};

cv::Mat rendered(const FrameRequest& request)
{
    return render(request, Originals()).value();
}

void check_golden(const std::string& name, const cv::Mat& picture)
{
    const double step = picture.depth() == CV_16U ? 257 : 1;
    const Compared c = with_golden(name, picture, step, 0.001);
    INFO(c.message);
    CHECK(c.same);
}

}

TEST_CASE("photos look as they did when they were last looked at", "[golden][render]")
{
    Folder f;
    const auto photo = [&](int i, cv::Size size, Fit fit = Fit::inside) {
        return request_for_photo(f.shot, PhotoIndex(i), size, fit);
    };
    check_golden("plain-third", rendered(photo(0, small)));
    check_golden("plain-odd-size", rendered(photo(0, {97, 65})));
    check_golden("plain-larger", rendered(photo(0, {540, 360}))(cv::Rect(360, 60, 120, 100)));
    check_golden("inside-with-bars", rendered(photo(0, {80, 80})));
    check_golden("fill", rendered(photo(0, {80, 80}, Fit::fill)));
    FrameRequest turned = photo(1, {80, 120});
    placed(turned).turns = 3;
    check_golden("turned", rendered(turned));
    check_golden("sixteen-to-eight", rendered(photo(2, small)));
    FrameRequest deep = photo(2, small);
    deep.depth = Depth::sixteen;
    check_golden("sixteen", rendered(deep));
    FrameRequest glass = photo(3, small);
    placed(glass).backdrop = {200, 60, 30};
    check_golden("transparent-on-red", rendered(glass));
    placed(glass).backdrop.reset();
    glass.alpha = true;
    check_golden("transparent", rendered(glass));
}

TEST_CASE("a film looks as it did when it was last looked at", "[golden][render]")
{
    Folder f;
    for (std::size_t i = 0; i < 3; ++i) {
        const double turn = 0.02 * (double(i) - 1);
        Alignment a;
        a.from_film = {std::cos(turn), -std::sin(turn), 3.25 * double(i), std::sin(turn), std::cos(turn), 1.5, 0, 0, 1};
        f.shot.photos.edit(i).steps.set(a);
        PhotoLight l;
        l.change.correction = {{0.25 * double(i), 0.2, -0.15},
                               {0.3, 0.1, 0, -0.1, -0.2},
                               {0, 0.1, 0.2, 0.3, 0, 0, 0, 0, -0.3, -0.2, -0.1, 0}};
        f.shot.photos.edit(i).steps.set(l);
    }
    const auto film = [&](const Shot& shot, std::vector<Share> shares, Corrections lit = Corrections::applied) {
        return request_for_shares(shot, shares, small, Fit::inside, lit);
    };
    Shot lit = f.shot;
    lit.steps.set(Deflicker());
    check_golden("light", rendered(film(lit, {{PhotoIndex(1)}})));
    Shot steady = f.shot;
    steady.steps.set(Steadying());
    steady.steps.edit<Steadying>().size = photo_size;
    steady.steps.edit<Steadying>().crop = {12, 8, 330, 220};
    check_golden("steady", rendered(film(steady, {{PhotoIndex(1)}})));
    steady.steps.set(Deflicker());
    check_golden("steady-and-light", rendered(film(steady, {{PhotoIndex(2)}})));
    check_golden("steady-as-shot", rendered(film(steady, {{PhotoIndex(2)}}, Corrections::none)));
    steady.steps.edit<Steadying>().crop = {-20, -12, 400, 266};
    check_golden("steady-edges-go-on", rendered(film(steady, {{PhotoIndex(0)}})));
    steady.steps.edit<Steadying>().edges = Edges::mirrored;
    check_golden("steady-edges-mirrored", rendered(film(steady, {{PhotoIndex(0)}})));
    check_golden("mixed", rendered(film(f.shot, {{PhotoIndex(0), 0.25}, {PhotoIndex(1), 0.75}})));
    FrameRequest deep = film(steady, {{PhotoIndex(0), 0.5}, {PhotoIndex(2), 0.5}});
    deep.depth = Depth::sixteen;
    check_golden("mixed-steady-light-sixteen", rendered(deep));
}

}
