// From a measured shot to its film: one resample, the frame, the file, the export.
#include "core/document/edits.h"
#include "core/document/pace_edits.h"
#include "core/document/project_file.h"
#include "core/document/remedies.h"
#include "core/document/steady_edits.h"
#include "core/media/export.h"
#include "core/render/picture.h"
#include "core/render/warp.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace {

constexpr ShotIndex first_shot(0);

cv::Mat scene()
{
    cv::Mat m = cv::imread("/usr/share/doc/opencv-doc/examples/data/aloeL.jpg");
    REQUIRE_FALSE(m.empty());
    return m;
}

/// A shot of photos knocked by whole and part pixels; the first is where it should be.
Project knocked(const TempFolder& t, std::vector<cv::Point2d>& knocks)
{
    std::mt19937 random(3);
    std::normal_distribution<double> normal(0, 4);
    const cv::Mat from = scene();
    for (int i = 0; i < 8; ++i) {
        knocks.push_back(i == 0 ? cv::Point2d() : cv::Point2d(normal(random), normal(random)));
        const cv::Matx33d to_scene(1, 0, 120 - knocks.back().x, 0, 1, 120 - knocks.back().y, 0, 0, 1);
        cv::Mat photo;
        cv::warpPerspective(from, photo, to_scene, {900, 600}, cv::INTER_LANCZOS4 | cv::WARP_INVERSE_MAP);
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"), photo);
    }
    const std::array places{t / "s"};
    return add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
}

Project held(const Project& p, Movement movement = Movement::shift, bool cropped = true)
{
    const ToMeasure photos = to_measure(p.shot(first_shot));
    return hold_still(p, first_shot, photos, hold_still(photos.photos, {.movement = movement, .reference = 0}, Originals(), {}), movement, cropped);
}

}

TEST_CASE("a warp that moves nothing changes nothing, and whole pixels stay exact", "[render][warp]")
{
    for (const int type : {CV_8UC3, CV_16UC3}) {
        cv::Mat m;
        painted({90, 60}, 4).convertTo(m, type, type == CV_16UC3 ? 257 : 1);
        CHECK(cv::norm(warped(m, cv::Matx33d::eye(), m.size()), m, cv::NORM_INF) == 0);
        const cv::Mat shifted = warped(m, {1, 0, 7, 0, 1, 3, 0, 0, 1}, {80, 50});
        CHECK(cv::norm(shifted, m(cv::Rect(7, 3, 80, 50)), cv::NORM_INF) == 0);
        // Beyond the edge the edge goes on.
        const cv::Mat beyond = warped(m, {1, 0, -20, 0, 1, 0, 0, 0, 1}, m.size());
        CHECK(cv::norm(beyond.col(0), beyond.col(15), cv::NORM_INF) == 0);
    }
}

TEST_CASE("a warp is sharp, does not alias and does not ring", "[render][warp]")
{
    // Half a pixel there and half a pixel back: what Lanczos loses is little.
    const cv::Mat m = scene()(cv::Rect(200, 200, 400, 300)).clone();
    const cv::Mat there = warped(m, {1, 0, 0.5, 0, 1, 0.5, 0, 0, 1}, m.size());
    const cv::Mat back = warped(there, {1, 0, -0.5, 0, 1, -0.5, 0, 0, 1}, m.size());
    const cv::Rect inner(20, 20, 360, 260);
    cv::Mat bilinear;
    cv::warpAffine(m, bilinear, cv::Matx23d(1, 0, 0.5, 0, 1, 0.5), m.size(), cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
    cv::warpAffine(bilinear, bilinear, cv::Matx23d(1, 0, -0.5, 0, 1, -0.5), m.size(), cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
    CHECK(cv::PSNR(back(inner), m(inner)) > cv::PSNR(bilinear(inner), m(inner)) + 6);
    // Lines finer than the result can show become grey, not other lines.
    cv::Mat lines(300, 300, CV_8UC3);
    for (int x = 0; x < 300; ++x)
        lines.col(x).setTo(x % 2 == 0 ? cv::Scalar::all(0) : cv::Scalar::all(255));
    const cv::Mat small = warped(lines, {3.3, 0, 1.1, 0, 3.3, 1.1, 0, 0, 1}, {90, 90});
    cv::Scalar mean, deviation;
    cv::meanStdDev(small(cv::Rect(10, 10, 70, 70)), mean, deviation);
    CHECK(std::abs(mean[0] - 127.5) < 2);
    CHECK(deviation[0] < 6);
    // A clipped highlight beside grey: no value beyond the two.
    cv::Mat edge(40, 40, CV_8UC3, cv::Scalar::all(120));
    edge.colRange(20, 40).setTo(cv::Scalar::all(255));
    double low = 0, high = 0;
    cv::minMaxLoc(warped(edge, {1, 0, 0.3, 0, 1, 0.4, 0, 0, 1}, edge.size()).reshape(1), &low, &high);
    CHECK(low >= 120);
    CHECK(high <= 255);
}

TEST_CASE("alignment, frame and scaling are one resample: sharper than one after the other", "[steady][render]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project p = held(knocked(t, knocks));
    const Shot& shot = p.shot(first_shot);
    REQUIRE(shot.steady);
    CHECK(reference_photo(shot) == PhotoIndex(0));
    for (std::size_t i = 0; i < knocks.size(); ++i) {
        const Motion m = motion_of(shot.photos[i].alignment->from_reference, {900, 600});
        CHECK(std::abs(m.shift.x - knocks[i].x) < 0.06);
        CHECK(std::abs(m.shift.y - knocks[i].y) < 0.06);
    }
    const cv::Rect frame = shot.steady->frame;
    CHECK(film_size(shot) == frame.size());
    constexpr double error = 0.06; // of the measuring
    for (const auto& k : knocks) { // inside all photos
        CHECK(frame.x >= -k.x - error);
        CHECK(frame.y >= -k.y - error);
        CHECK(frame.br().x <= 900 - k.x + error);
        CHECK(frame.br().y <= 600 - k.y + error);
    }
    const cv::Mat reference = cv::imread((t / "s" / "p0.png").native())(frame);
    for (const std::int64_t i : {1, 4, 7}) {
        const auto seen = render(request_for_shares(shot, std::array{Share{PhotoIndex(i)}}, frame.size()), Originals());
        REQUIRE(seen);
        CHECK(cv::PSNR(*seen, reference) > 32); // it lies on the reference photo
        const auto raw = render(request_for_photo(shot, PhotoIndex(i), {900, 600}), Originals());
        CHECK(cv::PSNR((*raw)(frame), reference) < 28); // and did not before
    }
    // Half the size: against the frame at full size, and then made smaller.
    const cv::Size half(frame.width / 2, frame.height / 2);
    const auto at_once = render(request_for_shares(shot, std::array{Share{PhotoIndex(4)}}, half), Originals());
    const auto full = render(request_for_shares(shot, std::array{Share{PhotoIndex(4)}}, frame.size()), Originals());
    cv::Mat in_two;
    cv::resize(*full, in_two, half, 0, 0, cv::INTER_AREA);
    CHECK(cv::PSNR(*at_once, in_two) > 30);

    // The whole frame instead, and as shot again.
    const Project whole = set_steady_crop(p, first_shot, false);
    CHECK(film_size(whole.shot(first_shot)) == cv::Size(900, 600));
    CHECK(set_steady_crop(whole, first_shot, true) == p);
    CHECK_FALSE(as_shot(p, first_shot).shot(first_shot).steady);
    // A photo that is turned afterwards is as shot until it is measured anew.
    CHECK_FALSE(turn_photos(p, first_shot, std::array{PhotoIndex(3)}, 1).shot(first_shot).photos[3].alignment);
    save_project(p, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").project == p); // every digit
}

TEST_CASE("the exported film holds still, by an independent measure", "[steady][export]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project before = knocked(t, knocks);
    const auto worst_shift = [&](const Project& p, const char* name) {
        ExportOrder order;
        order.file = t / name / "f_%04d.png";
        order.preset = *preset_for_ending(order.file);
        run_export(p, order, Originals(), {});
        double worst = 0;
        cv::Mat first;
        for (int i = 1; i <= 8; ++i) {
            cv::Mat grey = cv::imread((t / name / ("f_000" + std::to_string(i) + ".png")).native(), cv::IMREAD_GRAYSCALE), window;
            grey.convertTo(grey, CV_64F);
            if (first.empty())
                first = grey;
            cv::createHanningWindow(window, grey.size(), CV_64F);
            const cv::Point2d shift = cv::phaseCorrelate(first, grey, window); // Foroosh, Zerubia, Berthod 2002
            worst = std::max(worst, std::hypot(shift.x, shift.y));
        }
        return worst;
    };
    CHECK(worst_shift(before, "before") > 3);
    CHECK(worst_shift(held(before), "after") < 0.1);
}
