// Linear light and what becomes of it: scaling, transparency, rounding.
#include "core/picture/canvas.h"
#include "core/picture/picture.h"
#include "core/picture/warp.h"
#include "core/source/decode.h"
#include "core/source/transfer.h"
#include "core/steps/flicker/correction.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <cstdlib>
#include <tuple>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Rings from the middle, finer towards the edge, where one and a half pixels are a ring: cos(r²).
cv::Mat zone_plate(int side)
{
    cv::Mat m(side, side, CV_8UC3);
    const double rate = CV_PI / side;
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double dx = x - side / 2.0, dy = y - side / 2.0;
            const double light = 0.5 + 0.5 * std::cos(rate * (dx * dx + dy * dy));
            const double code = light <= 0.0031308 ? light * 12.92 : 1.055 * std::pow(light, 1 / 2.4) - 0.055;
            m.at<cv::Vec3b>(y, x) = cv::Vec3b::all(std::uint8_t(std::lround(code * 255)));
        }
    return m;
}

/// The variance of light where the rings are finer than the result can show, beyond this share of half the side.
double past_nyquist(const cv::Mat& small, double reduction)
{
    const Canvas light = to_canvas(small);
    double sum = 0, squares = 0;
    std::int64_t n = 0;
    const double half = small.cols / 2.0;
    for (int y = 0; y < small.rows; ++y)
        for (int x = 0; x < small.cols; ++x) {
            const double r = std::hypot(x + 0.5 - half, y + 0.5 - half) / half;
            if (r < 1.0 / reduction || r > 0.95)
                continue;
            const double v = light(y, x)[0];
            sum += v;
            squares += v * v;
            ++n;
        }
    return squares / double(n) - (sum / double(n)) * (sum / double(n));
}

cv::Mat scaled(const cv::Mat& m, cv::Size size)
{
    const double across = double(m.cols) / size.width, down = double(m.rows) / size.height;
    return quantised(warped(linear_rows(m), {across, 0, across / 2 - 0.5, 0, down, down / 2 - 0.5, 0, 0, 1}, size),
                     {.depth = m.depth() == CV_16U ? Depth::sixteen : Depth::eight, .alpha = m.channels() == 4});
}

}

TEST_CASE("every value of 8 and 16 bit comes back from linear light", "[canvas]")
{
    cv::Mat eight(1, 256, CV_8UC3), sixteen(256, 256, CV_16UC3);
    for (int i = 0; i < 256; ++i)
        eight.at<cv::Vec3b>(0, i) = cv::Vec3b::all(std::uint8_t(i));
    for (int i = 0; i < 65'536; ++i)
        sixteen.at<cv::Vec3w>(i / 256, i % 256) = cv::Vec3w::all(std::uint16_t(i));
    CHECK(cv::norm(quantised(to_canvas(eight)), eight, cv::NORM_INF) == 0);
    CHECK(cv::norm(quantised(to_canvas(sixteen), {.depth = Depth::sixteen}), sixteen, cv::NORM_INF) == 0);
    CHECK(cv::norm(quantised(to_canvas(eight), {.dither = 5}), eight, cv::NORM_INF) ==
          0); // whole numbers have no noise
}

TEST_CASE("light outside 0 to 1, and what is no number, is written as the nearest that can be", "[canvas][bad]")
{
    Canvas c(1, 4);
    c(0, 0) = {-1, 2, 0.5F, 1};
    c(0, 1) = cv::Vec4f::all(std::numeric_limits<float>::infinity());
    c(0, 2) = cv::Vec4f::all(std::numeric_limits<float>::quiet_NaN());
    c(0, 3) = cv::Vec4f::all(1e-9F);
    const cv::Mat m = quantised(c);
    CHECK(m.at<cv::Vec3b>(0, 0) == cv::Vec3b(0, 255, 188));
    CHECK(m.at<cv::Vec3b>(0, 1) == cv::Vec3b(255, 255, 255));
    CHECK(m.at<cv::Vec3b>(0, 2) == cv::Vec3b(0, 0, 0));
    CHECK(m.at<cv::Vec3b>(0, 3) == cv::Vec3b(0, 0, 0));
}

TEST_CASE("a checkerboard of black and white shrinks to half the light", "[canvas][warp]")
{
    cv::Mat board(64, 64, CV_8UC3);
    for (int y = 0; y < 64; ++y)
        for (int x = 0; x < 64; ++x)
            board.at<cv::Vec3b>(y, x) = cv::Vec3b::all((x + y) % 2 == 0 ? 0 : 255);
    const cv::Mat small = scaled(board, {16, 16});
    double low = 0, high = 0;
    cv::minMaxLoc(small(cv::Rect(2, 2, 12, 12)).reshape(1), &low, &high);
    CHECK(low >= 187); // IEC 61966-2-1:1999: half the light is 188
    CHECK(high <= 189);
}

TEST_CASE("what is finer than the result aliases no more than with a published filter", "[canvas][warp]")
{
    // Side by side with ImageMagick's Lanczos in linear light, where the convert of ImageMagick is there (./dev test
    // installs it).
    TempFolder t;
    const cv::Mat plate = zone_plate(512);
    write_picture(t / "plate.png", plate);
    for (const int reduction : {2, 4}) {
        const std::string side = std::to_string(512 / reduction);
        const std::string line = "convert '" + (t / "plate.png").native() +
                                 "' -colorspace RGB -filter Lanczos -resize " + side + "x" + side +
                                 " -colorspace sRGB -depth 8 'PNG24:" + (t / "small.png").native() + "' 2>/dev/null";
        REQUIRE(std::system(line.c_str()) == 0);
        const cv::Mat theirs = cv::imread((t / "small.png").native());
        REQUIRE(theirs.size() == cv::Size(512 / reduction, 512 / reduction));
        const cv::Mat ours = scaled(plate, theirs.size());
        CAPTURE(reduction, past_nyquist(ours, reduction), past_nyquist(theirs, reduction));
        CHECK(past_nyquist(ours, reduction) <= past_nyquist(theirs, reduction) * 1.02 + 2e-6); // 2e-6: 8-bit steps
        cv::Mat area;
        cv::resize(plate, area, theirs.size(), 0, 0, cv::INTER_AREA);
        CHECK(past_nyquist(ours, reduction) < past_nyquist(area, reduction) / 2);
    }
}

TEST_CASE("plain areas keep their value at any size", "[canvas][warp]")
{
    for (const cv::Size size : {cv::Size(320, 213), cv::Size(611, 100), cv::Size(17, 16), cv::Size(5, 4),
                                cv::Size(610, 406), cv::Size(1, 1), cv::Size(900, 700)})
        for (const int v : {0, 1, 128, 254, 255}) {
            const cv::Mat plain(406, 610, CV_8UC3, cv::Scalar(v, 255 - v, v / 2));
            CAPTURE(size.width, size.height, v);
            CHECK(cv::norm(scaled(plain, size), cv::Mat(size, CV_8UC3, cv::Scalar(v, 255 - v, v / 2)), cv::NORM_INF) ==
                  0);
        }
}

TEST_CASE("half as large is the mean of light, whichever way it is reached", "[canvas][warp]")
{
    // Means of light over large areas stay as they are, in a sixth of the size too, where means of four come first.
    cv::Mat photo = real_scene()(cv::Rect(100, 100, 480, 360)).clone();
    for (const cv::Size size : {cv::Size(240, 180), cv::Size(310, 233), cv::Size(80, 60), cv::Size(40, 30)}) {
        const cv::Scalar before = cv::mean(to_canvas(photo)), after = cv::mean(to_canvas(scaled(photo, size)));
        for (int c = 0; c < 3; ++c)
            CHECK(after[c] == Approx(before[c]).epsilon(0.01));
    }
}

TEST_CASE("a quarter turn and a flip move pixels and change none", "[canvas][warp]")
{
    const cv::Mat m = painted({30, 20}, 8);
    cv::Mat turned, flipped;
    cv::rotate(m, turned, cv::ROTATE_90_CLOCKWISE);
    cv::flip(m, flipped, 0);
    // Pixels of the result to pixels of the source.
    CHECK(cv::norm(quantised(warped(linear_rows(m), {0, 1, 0, -1, 0, 19, 0, 0, 1}, {20, 30})), turned, cv::NORM_INF) ==
          0);
    CHECK(cv::norm(quantised(warped(linear_rows(m), {1, 0, 0, 0, -1, 19, 0, 0, 1}, {30, 20})), flipped, cv::NORM_INF) ==
          0);
}

TEST_CASE("a turned picture is where it should be", "[canvas][warp]")
{
    // A soft spot through turns of many sizes: its middle against the analytic place.
    constexpr int side = 200;
    const cv::Point2d spot(130, 80);
    cv::Mat m(side, side, CV_16UC3);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x)
            m.at<cv::Vec3w>(y, x) = cv::Vec3w::all(
                std::uint16_t(60'000 * std::exp(-(std::pow(x - spot.x, 2) + std::pow(y - spot.y, 2)) / 32)));
    for (const double degrees : {-170.0, -95.0, -60.0, -45.0, -20.0, -3.0, 0.4, 12.0, 44.0, 46.0, 90.0, 135.0}) {
        const double a = degrees * CV_PI / 180, c = std::cos(a), s = std::sin(a), m0 = (side - 1) / 2.0;
        const cv::Matx33d to_source(c, -s, m0 - c * m0 + s * m0, s, c, m0 - s * m0 - c * m0, 0, 0, 1);
        const Canvas out = warped(linear_rows(m), to_source, {side, side});
        cv::Point2d sum;
        double light = 0;
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x) {
                sum += cv::Point2d(x, y) * double(out(y, x)[0]);
                light += double(out(y, x)[0]);
            }
        const cv::Vec3d expected = to_source.inv() * cv::Vec3d(spot.x, spot.y, 1);
        CAPTURE(degrees, sum.x / light - expected[0], sum.y / light - expected[1]);
        CHECK(std::hypot(sum.x / light - expected[0], sum.y / light - expected[1]) < 0.002);
    }
}

TEST_CASE("transforms that let points vanish give a picture all the same", "[canvas][warp][bad]")
{
    const cv::Mat m = painted({60, 40}, 2);
    for (const cv::Matx33d& t :
         {cv::Matx33d(0, 0, 0, 0, 0, 0, 0, 0, 0), cv::Matx33d(1, 0, 0, 0, 1, 0, 0.02, 0, -0.5),
          cv::Matx33d(1e9, 0, 0, 0, 1e9, 0, 0, 0, 1), cv::Matx33d(1e-9, 0, 5, 0, 1e-9, 5, 0, 0, 1),
          cv::Matx33d(1, 0, -1e12, 0, 1, 1e12, 0, 0, 1)})
        for (const Edges edges : {Edges::go_on, Edges::mirrored})
            CHECK(quantised(warped(linear_rows(m), t, {50, 30}, edges)).size() == cv::Size(50, 30));
}

TEST_CASE("a photo to which nothing is done keeps every bit, alpha and colour under it too", "[canvas][render]")
{
    TempFolder t;
    cv::Mat noise(40, 60, GENERATE(CV_8UC3, CV_8UC4, CV_16UC3, CV_16UC4));
    cv::randu(noise, 0, noise.depth() == CV_8U ? 256 : 65'536);
    write_picture(t / "p.png", noise);
    FrameRequest r = request_of(scanned(t / "p.png"), noise.size());
    r.depth = noise.depth() == CV_8U ? Depth::eight : Depth::sixteen;
    r.alpha = true;
    const cv::Mat out = *render(r, Originals());
    REQUIRE(out.type() == noise.type());
    CHECK(cv::norm(out, noise, cv::NORM_INF) == 0);
}

TEST_CASE("what is transparent stays so unless a backdrop was chosen, and is black where nothing can be transparent",
          "[canvas][render]")
{
    TempFolder t;
    cv::Mat m(20, 20, CV_8UC4, cv::Scalar(0, 0, 255, 0)); // red that is not seen
    m.colRange(0, 10).setTo(cv::Scalar(0, 255, 0, 255));
    write_picture(t / "p.png", m);
    FrameRequest r = request_of(scanned(t / "p.png"), {14, 10}); // wider than the photo: bars
    r.alpha = true;
    const cv::Mat kept = *render(r, Originals());
    REQUIRE(kept.type() == CV_8UC4);
    CHECK(kept.at<cv::Vec4b>(5, 4)[1] == 255);
    CHECK(kept.at<cv::Vec4b>(5, 4)[3] >= 253); // the filter's lobes
    CHECK(kept.at<cv::Vec4b>(5, 10)[3] == 0);
    CHECK(kept.at<cv::Vec4b>(5, 0)[3] == 0);
    for (int x = 0; x < 14; ++x) // the red that was not seen is not seen at the edge either
        CHECK(kept.at<cv::Vec4b>(5, x)[2] == 0);
    r.alpha = false;
    const cv::Mat film = *render(r, Originals());
    REQUIRE(film.type() == CV_8UC3);
    CHECK(film.at<cv::Vec3b>(5, 10) == cv::Vec3b(0, 0, 0));
    CHECK(film.at<cv::Vec3b>(5, 0) == cv::Vec3b(0, 0, 0));
    r.alpha = true;
    placed(r).backdrop = Backdrop{1, 2, 3};
    const cv::Mat chosen = *render(r, Originals());
    REQUIRE(chosen.type() == CV_8UC3);
    CHECK(chosen.at<cv::Vec3b>(5, 10) == cv::Vec3b(3, 2, 1));
    CHECK(chosen.at<cv::Vec3b>(5, 0) == cv::Vec3b(3, 2, 1));
}

TEST_CASE("a frame inside a frame is a part like any other", "[canvas][render]")
{
    TempFolder t;
    write_picture(t / "a.png", cv::Mat(8, 8, CV_8UC3, cv::Scalar::all(0)));
    write_picture(t / "b.png", cv::Mat(8, 8, CV_8UC3, cv::Scalar::all(255)));
    const FrameRequest black = request_of(scanned(t / "a.png"), {8, 8}),
                       white = request_of(scanned(t / "b.png"), {8, 8});
    FrameRequest inner{.size = {8, 8}, .parts = {black.parts[0], white.parts[0]}};
    inner.parts[0].weight = inner.parts[1].weight = 0.5;
    const FrameRequest outer{.size = {8, 8},
                             .parts = {{0.5, std::make_shared<const FrameRequest>(inner)}, {0.5, white.parts[0].what}}};
    const Canvas light = *render_canvas(outer, Originals());
    CHECK(light(3, 3)[1] == Approx(0.75)); // a half of a half, and a half
    CHECK(outer.photo() == black.photo());
}

TEST_CASE("noise of rounding is one step at most, even, and the same for the same photo", "[canvas]")
{
    Canvas slope(64, 1024);
    for (int y = 0; y < slope.rows; ++y)
        for (int x = 0; x < slope.cols; ++x)
            slope(y, x) = cv::Vec4f(1, 1, 1, 1) * float(linear_of((100 + x / 1023.0) / 255));
    const cv::Mat dithered = quantised(slope, {.dither = 7});
    CHECK(cv::norm(dithered, quantised(slope, {.dither = 7}), cv::NORM_INF) == 0);
    CHECK(cv::norm(dithered, quantised(slope, {.dither = 8}), cv::NORM_INF) == 1);
    CHECK(cv::norm(dithered, quantised(slope), cv::NORM_INF) <= 1);
    for (const int x : {100, 400, 900}) // the mean of some pixels is between the steps, where it belongs
        CHECK(cv::mean(dithered.colRange(x - 32, x + 32))[0] == Approx(100 + x / 1023.0).margin(0.03));
    // Parts of rows give what whole rows give; one of which nothing was made gets none.
    Quantised parts(slope.size(), {.dither = 7});
    for (int y = 0; y < slope.rows; ++y)
        for (const auto& [begin, end, rounding] :
             {std::tuple(0, 300, Rounding::as_asked), std::tuple(300, 500, Rounding::plain),
              std::tuple(500, slope.cols, Rounding::as_asked)})
            parts.take(y, begin, end, slope.ptr<float>(y) + 4 * std::ptrdiff_t(begin), rounding);
    cv::Mat expected = dithered.clone();
    quantised(slope).colRange(300, 500).copyTo(expected.colRange(300, 500));
    CHECK(cv::norm(parts.picture(), expected, cv::NORM_INF) == 0);
}

TEST_CASE("a 16-bit ramp through the removal of flicker and a mix keeps every step that arithmetic keeps",
          "[canvas][render]")
{
    TempFolder t;
    cv::Mat ramp(16, 4096, CV_16UC3);
    for (int x = 0; x < ramp.cols; ++x)
        ramp.col(x).setTo(cv::Scalar::all(8'000 + 4 * x));
    write_picture(t / "p.png", ramp);
    FrameRequest r = request_of(scanned(t / "p.png"), ramp.size());
    r.depth = Depth::sixteen;
    r.parts.push_back(r.parts[0]);
    r.parts[0].weight = 0.25;
    r.parts[1].weight = 0.75;
    placed(r, 0).stages.set(Correction{.gain = {0.3, 0.3, 0.3}});
    placed(r, 1).stages.set(Correction{.gain = {-0.2, -0.2, -0.2}});
    const cv::Mat out = *render(r, Originals());
    double worst = 0;
    for (int x = 0; x < ramp.cols; ++x) {
        const double light = linear_of((8'000 + 4 * x) / 65'535.0);
        const double exact = encoded_of(light * (0.25 * std::exp2(0.3) + 0.75 * std::exp2(-0.2))) * 65'535;
        for (int y = 0; y < ramp.rows; ++y)
            worst = std::max(worst, std::abs(out.at<cv::Vec3w>(y, x)[1] - exact));
    }
    CHECK(worst < 1.1); // one dithered rounding, and a tenth for floats
}

TEST_CASE("a JPEG that the decoder itself makes smaller is near what scaling in linear light gives", "[canvas][jpeg]")
{
    // The decoder drops frequencies of encoded values; what it loses against linear light is said in
    // docs/architecture.md.
    const cv::Mat scene = real_scene()(cv::Rect(0, 0, 640, 480)).clone();
    const std::string jpeg = encode_jpeg(scene, 95, true);
    const cv::Mat whole = decode_bytes(jpeg, 1, {}, "p.jpg")->pixels;
    for (const int part : {2, 4, 8}) {
        const cv::Size size(640 / part, 480 / part);
        const cv::Mat by_decoder = decode_bytes(jpeg, 1, size, "p.jpg")->pixels, linear = scaled(whole, size);
        REQUIRE(by_decoder.size() == size);
        CAPTURE(part, cv::PSNR(by_decoder, linear));
        CHECK(cv::PSNR(by_decoder, linear) > 28);
        const cv::Scalar a = cv::mean(to_canvas(by_decoder)), b = cv::mean(to_canvas(linear));
        CAPTURE(std::log2(a[1] / b[1]));
        CHECK(std::abs(std::log2(a[1] / b[1])) < 0.05); // stops
    }
}

TEST_CASE("pictures of a few pixels are warped however they lie, and end", "[canvas][warp][bad]")
{
    // One of three by two pixels, a little smaller and turned, once made itself smaller for ever.
    for (const cv::Size size : {cv::Size(1, 1), cv::Size(2, 1), cv::Size(3, 2), cv::Size(2, 7), cv::Size(5, 5)}) {
        Canvas small(size, cv::Vec4f(0.25F, 0.5F, 0.75F, 1));
        const CanvasRows rows{size,
                              [&](int y, int begin, int end, float* to) {
                                  std::copy_n(small.ptr<float>(y) + std::ptrdiff_t(begin) * 4,
                                              std::ptrdiff_t(end - begin) * 4, to);
                              },
                              true,
                              {}};
        for (const double scale : {0.02, 0.7, 1.2, 1.4, 1.5, 1.7, 2.5, 4.5, 9.0, 40.0})
            for (const double degrees : {0.0, 3.0, 45.0, 90.0, 178.0}) {
                const double a = degrees * CV_PI / 180, c = scale * std::cos(a), s = scale * std::sin(a);
                const cv::Matx33d to_source(c, -s, 0.3, s, c, -0.2, 0, 0, 1);
                for (const Edges edges : {Edges::go_on, Edges::mirrored})
                    for (const cv::Size result : {cv::Size(1, 1), cv::Size(7, 4), cv::Size(64, 48)}) {
                        const Canvas made = warped(rows, to_source, result, edges);
                        REQUIRE(made.size() == result);
                        double low = 0, high = 0;
                        cv::minMaxLoc(made.reshape(1), &low, &high);
                        CAPTURE(size.width, size.height, scale, degrees, result.width, low, high);
                        CHECK(low == Approx(0.25).margin(1e-4)); // what is even stays so
                        CHECK(high == Approx(1).margin(1e-4));
                    }
            }
    }
}

}
