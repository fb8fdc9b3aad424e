#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("a photo of another shape gets bars inside, and is cut evenly when it fills", "[render]")
{
    TempFolder t;
    cv::Mat m(100, 200, CV_8UC3, cv::Scalar(0, 200, 0));
    m.colRange(0, 50).setTo(cv::Scalar(0, 0, 200)); // left quarter red
    write_picture(t / "p.png", m);
    const auto photo = scanned(t / "p.png");
    FrameRequest inside = request_of(photo, {100, 100});
    placed(inside).backdrop = {1, 2, 3};
    const cv::Mat a = *render(inside, Originals());
    REQUIRE(a.size() == cv::Size(100, 100));
    CHECK(a.at<cv::Vec3b>(10, 50) == cv::Vec3b(3, 2, 1)); // bar above
    CHECK(a.at<cv::Vec3b>(50, 10) == cv::Vec3b(0, 0, 200));
    CHECK(a.at<cv::Vec3b>(24, 60) == cv::Vec3b(3, 2, 1));
    CHECK(a.at<cv::Vec3b>(25, 60) == cv::Vec3b(0, 200, 0));
    const cv::Mat b = *render(request_of(photo, {100, 100}, Fit::fill), Originals());
    CHECK(b.at<cv::Vec3b>(50, 2) == cv::Vec3b(0, 200, 0)); // the quarter at each side is cut off
    CHECK(b.at<cv::Vec3b>(2, 50) == cv::Vec3b(0, 200, 0));
}

TEST_CASE("transparent photos lie on the backdrop", "[render]") // Porter, Duff 1984: over
{
    TempFolder t;
    const bool deep = GENERATE(false, true);
    const int one = deep ? 65535 : 255;
    cv::Mat m(10, 10, deep ? CV_16UC4 : CV_8UC4, cv::Scalar(0, 0, one, one / 5.0)); // a fifth of red
    write_picture(t / "p.png", m);
    FrameRequest r = request_of(scanned(t / "p.png"), {10, 10});
    placed(r).backdrop = {0, 0, 255};
    r.depth = deep ? Depth::sixteen : Depth::eight;
    const cv::Mat p = *render(r, Originals());
    REQUIRE(p.channels() == 3);
    const cv::Scalar got = cv::mean(p);
    // In linear light, IEC 61966-2-1:1999 written out: a fifth of the red, four fifths of the blue.
    const auto encoded = [](double v) { return 1.055 * std::pow(v, 1 / 2.4) - 0.055; };
    CHECK(got[2] == Approx(one * encoded(1 / 5.0)).margin(1));
    CHECK(got[0] == Approx(one * encoded(4 / 5.0)).margin(1));
}

TEST_CASE("16 bit stay 16 bit when asked, and 8 bit are widened exactly", "[render]")
{
    TempFolder t;
    cv::Mat m(8, 8, CV_16UC3, cv::Scalar(1234, 4321, 65000));
    write_picture(t / "deep.png", m);
    FrameRequest r = request_of(scanned(t / "deep.png"), {8, 8});
    r.depth = Depth::sixteen;
    CHECK(cv::norm(*render(r, Originals()), m, cv::NORM_INF) == 0);
    write_picture(t / "flat.png", cv::Mat(8, 8, CV_8UC3, cv::Scalar(0, 128, 255)));
    placed(r).photo = scanned(t / "flat.png");
    CHECK(render(r, Originals())->at<cv::Vec3w>(3, 3) == cv::Vec3w(0, 128 * 257, 65535));
}

TEST_CASE("screen and export show the same picture", "[render]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({2400, 1600}, 3), ExifWish{"", "", 6, false});
    const auto photo = scanned(t / "p.jpg");
    PreviewStore store(t / "cache", 100'000'000);
    const FrameRequest r = request_of(photo, {400, 600});
    const cv::Mat from_preview = *render(r, Previews(store));
    const cv::Mat from_photo = *render(r, Originals());
    CHECK(cv::PSNR(from_preview, from_photo) > 40); // one more JPEG in between, nothing else
}

TEST_CASE("what cannot be read is a problem that names the photo", "[render][bad]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({60, 40}, 3));
    const auto photo = scanned(t / "p.jpg");
    const std::string whole = read_bytes(photo->file);
    write_bytes(photo->file, whole.substr(0, whole.size() / 2));
    const auto cut = render(request_of(photo, {60, 40}), Originals());
    REQUIRE_FALSE(cut);
    CHECK(cut.error().file == photo->file);
    std::filesystem::remove(photo->file);
    REQUIRE_FALSE(render(request_of(photo, {60, 40}), Originals()));
}

TEST_CASE("a one-pixel photo can be rendered at any size", "[render][bad]")
{
    TempFolder t;
    write_picture(t / "p.png", cv::Mat(1, 1, CV_8UC3, cv::Scalar(10, 20, 30)));
    const cv::Mat p = *render(request_of(scanned(t / "p.png"), {64, 40}), Originals());
    CHECK(p.size() == cv::Size(64, 40));
    CHECK(p.at<cv::Vec3b>(20, 32) == cv::Vec3b(10, 20, 30));
}

}
