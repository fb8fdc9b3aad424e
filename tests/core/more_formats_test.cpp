// Photos beyond JPEG, PNG, TIFF and WebP: telephones' and cameras' own, floats, drawings.
#include "core/picture/picture.h"
#include "core/source/camera_thumbnail.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/transfer.h"
#include "core/steps/tone/tone_stage.h"
#include "tests/support/catch.h"
#include "tests/support/dng.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <ImfRgbaFile.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const cv::Vec3b left(200, 40, 20), right(30, 180, 60);

cv::Mat two_colours()
{
    cv::Mat m(120, 180, CV_8UC3, left);
    m.colRange(90, 180).setTo(right);
    return m;
}

/// The picture at its own size, 8 bit.
cv::Mat shown(const PhotoPtr& photo, cv::Size size = {})
{
    return *render(request_of(photo, size.empty() ? photo->size : size), Originals());
}

void check_colours(const PhotoPtr& photo, int within)
{
    REQUIRE(photo->size == cv::Size(180, 120));
    const cv::Mat m = shown(photo);
    for (const auto& [x, colour] : {std::pair(20, left), std::pair(160, right)})
        for (int c = 0; c < 3; ++c)
            CHECK(std::abs(m.at<cv::Vec3b>(60, x)[c] - colour[c]) <= within);
}

void write_exr(const std::filesystem::path& file, const cv::Mat4f& rgba)
{
    std::filesystem::create_directories(file.parent_path());
    Imf::RgbaOutputFile out(file.c_str(), rgba.cols, rgba.rows, Imf::WRITE_RGBA);
    std::vector<Imf::Rgba> pixels;
    for (const cv::Vec4f& p : rgba)
        pixels.emplace_back(p[0], p[1], p[2], p[3]);
    out.setFrameBuffer(pixels.data(), 1, std::size_t(rgba.cols));
    out.writePixels(rgba.rows);
}

std::string flaw_of(const std::filesystem::path& file)
{
    const Inspected found = inspect(file);
    return found.finding ? found.finding->text : "";
}

}

TEST_CASE("what other programs write as HEIF, AVIF, JPEG XL and PNM comes in", "[format]")
{
    TempFolder t;
    write_picture(t / "a.png", two_colours());
    struct Other
    {
        const char* name;
        const char* program;
        const char* options;
        int within; ///< code values
    };
    const auto o = GENERATE(Other{"a.heic", "heif-enc -q 95", "-o", 3}, Other{"a.avif", "heif-enc -A -q 95", "-o", 3},
                            Other{"a.jxl", "cjxl -d 0", "", 0}, Other{"a.ppm", "convert", "", 0});
    INFO(o.name);
    const auto name = [&](const char* file) { return quoted((t / file).native()) + ' '; };
    output_of(std::string(o.program) + ' ' + name("a.png") + o.options + ' ' + name(o.name) + "2>/dev/null");
    check_colours(scanned(t / o.name), o.within);
    SECTION("and what is cut off is told")
    {
        std::string bytes = read_bytes(t / o.name);
        bytes.resize(bytes.size() / 2);
        write_bytes(t / "cut" / o.name, bytes);
        CHECK_FALSE(flaw_of(t / "cut" / o.name).empty());
    }
}

TEST_CASE("grey and sixteen bits of PNM, and its plain numbers", "[format]")
{
    TempFolder t;
    write_bytes(t / "g.pgm", "P2\n# by hand\n3 1\n65535\n0 32768 65535\n");
    const auto photo = scanned(t / "g.pgm");
    REQUIRE(photo->size == cv::Size(3, 1));
    const cv::Mat m = decode(*photo)->pixels;
    REQUIRE(m.depth() == CV_16U);
    CHECK(m.at<cv::Vec3w>(0, 1) == cv::Vec3w(32768, 32768, 32768));
}

TEST_CASE("floats keep what is brighter than white until tone brings it back", "[format][float]")
{
    TempFolder t;
    write_exr(t / "f.exr", cv::Mat4f(20, 30, cv::Vec4f(4, 2, 1, 1)));
    const auto photo = scanned(t / "f.exr");
    REQUIRE(photo->size == cv::Size(30, 20));
    CHECK(decode(*photo, {}, Numbers::wide)->pixels.depth() == CV_32F);
    CHECK(decode(*photo)->pixels.depth() == CV_16U);
    CHECK(shown(photo).at<cv::Vec3b>(5, 5) == cv::Vec3b(255, 255, 255));
    FrameRequest r = request_of(photo, photo->size);
    placed(r).stages.set(Tone{.exposure = -3});
    r.depth = Depth::sixteen;
    const cv::Vec3w p = render(r, Originals())->at<cv::Vec3w>(5, 5);
    CHECK(p[2] == Approx(65535 * encoded_of(0.5)).margin(70));
    CHECK(p[1] == Approx(65535 * encoded_of(0.25)).margin(70));
    CHECK(p[0] == Approx(65535 * encoded_of(0.125)).margin(70));
}

TEST_CASE("TIFF of 32 bits, floats and whole numbers, has the colours that another program wrote", "[format][float]")
{
    TempFolder t;
    write_picture(t / "a.png", two_colours());
    const bool floats = GENERATE(true, false);
    output_of("convert " + quoted((t / "a.png").native()) +
              (floats ? " -colorspace RGB -depth 32 -define quantum:format=floating-point " : " -depth 32 ") +
              quoted((t / "a.tif").native()));
    const auto photo = scanned(t / "a.tif");
    CHECK(decode(*photo, {}, Numbers::wide)->pixels.depth() == (floats ? CV_32F : CV_16U));
    check_colours(photo, 1);
}

TEST_CASE("OpenEXR's transparency is straight here, and other primaries become ours", "[format][float]")
{
    TempFolder t;
    write_exr(t / "a.exr", cv::Mat4f(8, 8, cv::Vec4f(0.1F, 0.2F, 0.05F, 0.5F))); // multiplied
    const auto photo = scanned(t / "a.exr");
    CHECK(photo->alpha);
    const cv::Vec4f p = decode(*photo, {}, Numbers::wide)->pixels.at<cv::Vec4f>(3, 3);
    CHECK(p[2] == Approx(0.2).epsilon(0.002));
    CHECK(p[1] == Approx(0.4).epsilon(0.002));
    CHECK(p[3] == Approx(0.5).epsilon(0.002));
    write_bytes(t / "cut.exr", read_bytes(t / "a.exr").substr(0, 300));
    CHECK_FALSE(flaw_of(t / "cut.exr").empty());
}

TEST_CASE("a drawing is sharp at every size, and fetches nothing", "[format][svg]")
{
    TempFolder t;
    write_picture(t / "secret.png", cv::Mat(20, 20, CV_8UC3, cv::Scalar(0, 0, 255)));
    write_bytes(t / "d.svg", "<?xml version='1.0'?><svg xmlns='http://www.w3.org/2000/svg' width='60' height='40'>"
                             "<rect width='30' height='40' fill='#00ff00'/><image href='secret.png' x='40' width='20' "
                             "height='20'/><image href='file://" +
                                 (t / "secret.png").native() + "' x='40' width='20' height='20'/></svg>");
    const auto photo = scanned(t / "d.svg");
    REQUIRE(photo->size == cv::Size(60, 40));
    CHECK(photo->alpha);
    FrameRequest large = request_of(photo, {1200, 800});
    placed(large).backdrop = {0, 0, 0};
    const cv::Mat m = *render(large, Originals());
    CHECK(m.at<cv::Vec3b>(400, 590) == cv::Vec3b(0, 255, 0));
    CHECK(m.at<cv::Vec3b>(400, 609) == cv::Vec3b(0, 0, 0));  // twenty pixels for one: no blur
    CHECK(m.at<cv::Vec3b>(100, 1000) == cv::Vec3b(0, 0, 0)); // no picture from elsewhere
    write_bytes(t / "bad.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='60'><rect");
    CHECK_FALSE(flaw_of(t / "bad.svg").empty());
    write_bytes(t / "box.svg", "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 300 200'/>");
    CHECK(scanned(t / "box.svg")->size.width * 2 == scanned(t / "box.svg")->size.height * 3);
}

TEST_CASE("a raw photo of a known scene is that scene in linear light", "[format][raw]")
{
    TempFolder t;
    cv::Mat3f light(240, 360);
    for (int y = 0; y < light.rows; ++y)
        for (int x = 0; x < light.cols; ++x) {
            const auto wave = float(0.5 + 0.4 * std::sin(x / 23.0) * std::cos(y / 31.0));
            light(y, x) = cv::Vec3f(0.35F, 0.45F, 0.4F) * wave + cv::Vec3f(0.05F, 0.02F, 0.03F);
        }
    const cv::Vec3f neutral = GENERATE(cv::Vec3f(1, 1, 1), cv::Vec3f(0.5F, 1, 0.65F));
    write_dng(t / "r.dng", light, neutral);
    const auto photo = scanned(t / "r.dng");
    REQUIRE(photo->format == PhotoFormat::raw);
    CHECK(photo->camera == "Quayside Quayside R1");
    const cv::Mat m = decode(*photo, {}, Numbers::wide)->pixels;
    REQUIRE(m.depth() == CV_32F);
    REQUIRE(m.size() == photo->size);
    REQUIRE(m.cols > light.cols - 20); // the margin that the filter leaves
    const cv::Rect inside(20, 20, light.cols - 60, light.rows - 60);
    cv::Mat error, relative;
    const cv::Point shift((light.cols - m.cols) / 2, (light.rows - m.rows) / 2);
    cv::absdiff(m(inside), light(inside + shift), error);
    cv::divide(error, light(inside + shift), relative);
    const cv::Scalar mean = cv::mean(relative);
    for (int c = 0; c < 3; ++c)
        CHECK(mean[c] <= 0.01);
    SECTION("half as large where that does")
    {
        const cv::Mat small = decode(*photo, photo->size / 3, Numbers::wide)->pixels;
        CHECK(small.cols < photo->size.width * 2 / 3);
        CHECK(cv::norm(cv::mean(small) - cv::mean(m)) < 0.01);
    }
}

TEST_CASE("clipped highlights of a raw photo have no colour", "[format][raw]")
{
    TempFolder t;
    cv::Mat3f light(120, 160, cv::Vec3f(0.3F, 0.3F, 0.3F));
    light.colRange(80, 160).setTo(cv::Scalar(3, 3, 3)); // beyond the sensor in all colours
    write_dng(t / "r.dng", light, {0.5F, 1, 0.65F});
    const cv::Mat m = decode(*scanned(t / "r.dng"), {}, Numbers::wide)->pixels;
    const cv::Vec3f grey = m.at<cv::Vec3f>(60, 30), white = m.at<cv::Vec3f>(60, 130);
    for (int c = 0; c < 3; ++c) {
        CHECK(grey[c] == Approx(0.3).epsilon(0.02));
        CHECK(white[c] == Approx(1).epsilon(0.01));
    }
}

TEST_CASE("a raw photo lies as its file says", "[format][raw]")
{
    TempFolder t;
    cv::Mat3f light(120, 180, cv::Vec3f(0.1F, 0.1F, 0.1F));
    light.colRange(0, 60).setTo(cv::Scalar(0.8, 0.8, 0.8)); // bright at the left as stored
    write_dng(t / "r.dng", light, {1, 1, 1}, 6);            // seen turned clockwise: bright at the top
    const auto photo = scanned(t / "r.dng");
    CHECK(photo->size.height > photo->size.width);
    const cv::Mat m = decode(*photo)->pixels;
    CHECK(m.at<cv::Vec3w>(10, m.cols / 2)[1] > m.at<cv::Vec3w>(m.rows - 10, m.cols / 2)[1]);
}

TEST_CASE("the first picture of a raw photo is what the camera put into it, turned as the photo is", "[format][raw]")
{
    TempFolder t;
    const int orientation = GENERATE(1, 3, 6, 8);
    CAPTURE(orientation);
    cv::Mat3b preview(200, 300, cv::Vec3b(20, 30, 200)); // red, and blue at the left
    preview.colRange(0, 100).setTo(cv::Scalar(200, 30, 20));
    write_dng(t / "r.dng", cv::Mat3f(240, 360, cv::Vec3f(0.3F, 0.3F, 0.3F)), {1, 1, 1}, orientation, preview);
    const auto photo = scanned(t / "r.dng");
    const cv::Mat first = camera_thumbnail(*photo);
    REQUIRE_FALSE(first.empty());
    CHECK((first.cols > first.rows) == (photo->size.width > photo->size.height));
    const int w = first.cols, h = first.rows;
    const cv::Point blue_at = orientation == 1   ? cv::Point(w / 8, h / 2)
                              : orientation == 3 ? cv::Point(w * 7 / 8, h / 2)
                              : orientation == 6 ? cv::Point(w / 2, h / 8)
                                                 : cv::Point(w / 2, h * 7 / 8);
    const cv::Point red_at = cv::Point(w - 1, h - 1) - blue_at;
    CHECK(first.at<cv::Vec3b>(blue_at)[0] > 150);
    CHECK(first.at<cv::Vec3b>(red_at)[2] > 150);
    // The photo itself is another picture: the sensor's.
    CHECK(std::abs(decode(*photo)->pixels.at<cv::Vec3w>(100, 100)[2] -
                   decode(*photo)->pixels.at<cv::Vec3w>(100, 100)[0]) < 600);
}

TEST_CASE("raw photos that are cut off or unknown are told", "[format][raw]")
{
    TempFolder t;
    write_dng(t / "r.dng", cv::Mat3f(240, 360, cv::Vec3f(0.3F, 0.3F, 0.3F)));
    std::string bytes = read_bytes(t / "r.dng");
    write_bytes(t / "cut.dng", bytes.substr(0, bytes.size() / 2));
    write_bytes(t / "head.dng", bytes.substr(0, 200));
    write_bytes(t / "other.cr2", "II*\0\x10\0\0\0CR\2\0nothing here");
    for (const char* name : {"cut.dng", "head.dng", "other.cr2"}) {
        INFO(name);
        const auto photo = scanned(t / name);
        CHECK((!flaw_of(t / name).empty() || !decode(*photo)));
    }
    CHECK(camera_thumbnail(*scanned(t / "r.dng")).empty());
}

}
