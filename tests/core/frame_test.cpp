// The dressed frame: shape, crop, drift through views, looks; against arithmetic and pictures made in another way.
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/picture/step_pictures.h"
#include "core/project/project_file.h"
#include "core/source/transfer.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/frame/level.h"
#include "core/steps/frame/looks.h"
#include "core/steps/frame/miniature.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <numbers>
#include <random>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Photos of this size, on ones unless said otherwise.
Project of_photos(int count, cv::Size size, Hold hold = Frames{1})
{
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < count; ++i) {
        auto p = std::make_shared<PhotoFile>();
        p->file = "/s/" + std::to_string(i) + ".png";
        p->size = size;
        shot.photos.push_back({p, hold});
    }
    give_ids(shot);
    Project project;
    project.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return project;
}

constexpr ShotIndex first{0};

std::vector<FrameView> views(const Project& p)
{
    return views_of_frames(p.shot(first), schedule_of(p, p.shot(first)));
}

Project with_views(Project p, const std::vector<std::pair<int, DriftView>>& all)
{
    for (const auto& [photo, view] : all)
        p = set_view(p, first, PhotoIndex(photo), view);
    return p;
}

cv::Mat frame_of(const Project& p, const cv::Mat& picture, std::int64_t frame, cv::Size size = {})
{
    const auto film = film_of(p, first);
    return *render(film->frame(FrameIndex(frame), {.size = size.empty() ? film->size() : size}), OnePicture(picture));
}

}

TEST_CASE("shapes are read as they are written, and what is none is refused", "[frame]")
{
    CHECK(parse_shape("16:9")->value() == Approx(16 / 9.0));
    CHECK(parse_shape("2.39:1")->ratio == Fraction(239, 100));
    CHECK(parse_shape("2.39")->ratio == Fraction(239, 100));
    CHECK(parse_shape("1080x1350")->pixels == cv::Size(1080, 1350));
    CHECK(parse_shape("as-photos")->as_photos());
    for (const char* text : {"16:9", "4:5", "2.39:1", "1.85:1", "1080x1350", "as-photos", "1:1000"})
        CHECK(shape_text(*parse_shape(text)) == text);
    for (const char* text : {"", "0:1", "-4:3", "1:1001", "x", "1080x", "99999x20", "1x1", "16:", "a:b", "4:5:6"})
        CHECK_FALSE(parse_shape(text));
}

TEST_CASE("the largest box of a turned photo touches its edges and passes none", "[frame]")
{
    const double width = 300, height = 200;
    for (const double degrees : {0.0, 0.5, -3.0, 10.0, 44.0})
        for (const double ratio : {16 / 9.0, 1.0, 0.5, 2.39}) {
            const cv::Rect2d b = largest_box({width, height}, ratio, degrees);
            CHECK(b.width * width / (b.height * height) == Approx(ratio));
            const double a = std::abs(degrees) * std::numbers::pi / 180;
            const double x = b.width * width / 2, y = b.height * height / 2;
            const double across = x * std::cos(a) + y * std::sin(a), down = x * std::sin(a) + y * std::cos(a);
            CHECK(across <= width / 2 + 1e-9);
            CHECK(down <= height / 2 + 1e-9);
            CHECK(std::max(across / (width / 2), down / (height / 2)) == Approx(1));
        }
}

TEST_CASE("a shot is dressed for several shapes, and an export takes the one that fits", "[frame][shapes]")
{
    const FilmShape wide = *parse_shape("16:9"), tall = *parse_shape("9:16");
    Project p = of_photos(4, {1500, 1000});
    p = change_framing(p, first, [&](Framing& f) {
        f.shape = wide;
        f.crop = cv::Rect2d(0.1, 0.1, 0.8, 0.675);
        f.grain = Grain{};
    });
    p = with_views(p, {{0, {{0, 0, 1, 0.84}, 0}}, {3, {{0.1, 0.1, 0.5, 0.42}, 0}}});
    const Shot before = p.shot(first);
    p = dress_for(p, first, tall);
    CHECK(framing_of(p.shot(first)).shape == tall);
    CHECK(framing_of(p.shot(first)).grain); // looks are shared at first
    CHECK_FALSE(framing_of(p.shot(first)).crop);
    CHECK(views_of(p.shot(first)).empty());
    CHECK(shapes_beside(p.shot(first)) == std::vector{wide});
    p = set_view(p, first, PhotoIndex(1), DriftView{{0.4, 0.1, 0.2, 0.53}, 3});
    const Project round = dress_for(p, first, wide);
    CHECK(framing_of(round.shot(first)) == framing_of(before));
    CHECK(views_of(round.shot(first)).size() == 2);
    CHECK(shapes_beside(round.shot(first)) == std::vector{tall});
    CHECK(dress_for(round, first, tall) == p);
    SECTION("by the size that is asked for, or by name")
    {
        CHECK(framing_of(in_shape(round, "", {1080, 1920}).shot(first)).shape == tall);
        CHECK(view_of(in_shape(round, "", {1080, 1920}).shot(first).photos[1])->turn == 3);
        CHECK(framing_of(in_shape(round, "", {1920, 1080}).shot(first)).shape == wide);
        CHECK(framing_of(in_shape(round, "", {1000, 1000}).shot(first)).shape == wide);
        CHECK(framing_of(in_shape(round, "9:16", {}).shot(first)).shape == tall);
        CHECK(in_shape(round, "4:5", {}) == round);
        ExportOrder order;
        order.preset = *find_preset("film");
        order.file = "/nowhere/a.mp4";
        order.shape = "9:16";
        const cv::Size size = plan_export(round, order).size;
        CHECK(double(size.width) / size.height == Approx(9 / 16.0).margin(0.002));
    }
    SECTION("and no longer for one")
    {
        const Project one = drop_shape(p, first, tall);
        CHECK(framing_of(one.shot(first)).shape == wide);
        CHECK(shapes_beside(one.shot(first)).empty());
        CHECK(shapes_beside(drop_shape(round, first, tall).shot(first)).empty());
    }
    SECTION("views of photos that are gone are forgotten, and all of it survives the file")
    {
        Project shorter = p;
        auto shot = std::make_shared<Shot>(p.shot(first));
        shot->photos.keep(0, 3);
        shorter.shots[0] = shot;
        CHECK(views_of(dress_for(shorter, first, wide).shot(first)).size() == 1);
        const TempFolder t;
        CHECK(project_from_json(project_to_json(p, t / "a.frenlo"), t / "a.frenlo").project == p);
    }
}

TEST_CASE("the film has the size that its shape gives, filled or with bars", "[frame]")
{
    const Project p = of_photos(3, {1500, 1000});
    const auto size = [&](const char* shape, FrameFit fit, std::optional<cv::Rect2d> crop = {}) {
        return film_size(change_framing(p, first, [&](Framing& f) {
                             f.shape = *parse_shape(shape);
                             f.fit = fit;
                             f.crop = crop;
                         }).shot(first));
    };
    CHECK(size("as-photos", FrameFit::fill) == cv::Size(1500, 1000));
    CHECK(size("16:9", FrameFit::fill) == cv::Size(1500, 844));    // 1500 / 16 * 9
    CHECK(size("16:9", FrameFit::inside) == cv::Size(1778, 1000)); // 1000 / 9 * 16
    CHECK(size("4:5", FrameFit::fill) == cv::Size(800, 1000));
    CHECK(size("4:5", FrameFit::inside) == cv::Size(1500, 1875));
    CHECK(size("1080x1350", FrameFit::fill) == cv::Size(1080, 1350));
    CHECK(size("as-photos", FrameFit::fill, cv::Rect2d(0.1, 0.1, 0.5, 0.25)) == cv::Size(750, 250));
    CHECK(size("1:1", FrameFit::fill, cv::Rect2d(0.1, 0.1, 0.5, 0.5)) == cv::Size(500, 500));
    CHECK(size("1:1000", FrameFit::fill).width >= 1);
}

TEST_CASE("two views are joined by a straight line in time, from the first frame to the last", "[frame]")
{
    const Project p = with_views(of_photos(10, {1500, 1000}, Frames{3}),
                                 {{0, {{0, 0, 1, 0.84375}, 0}}, {9, {{0.4, 0.2, 0.5, 0.421875}, 8}}});
    const auto v = views(p);
    REQUIRE(v.size() == 30);
    for (int i = 0; i < 30; ++i) {
        const double t = i / 29.0;
        CHECK(v[std::size_t(i)].box.x == Approx(0.4 * t).margin(1e-12));
        CHECK(v[std::size_t(i)].box.width == Approx(1 - 0.5 * t));
        CHECK(v[std::size_t(i)].turn == Approx(8 * t).margin(1e-12));
    }
    CHECK(film_of(p, first)->runs().size() == 30); // each frame of a held photo is another picture
    const auto back = views(turn_drift_round(p, first));
    CHECK(back.front().box == v.back().box);
    CHECK(back.back().box == v.front().box);
}

TEST_CASE("more views are passed without a jerk, and each is reached at its photo", "[frame]")
{
    const std::vector<std::pair<int, DriftView>> all{{0, {{0, 0.1, 1, 0.8}, 0}},
                                                     {30, {{0.3, 0.3, 0.4, 0.32}, 4}},
                                                     {52, {{0.1, 0.4, 0.5, 0.4}, -2}},
                                                     {80, {{0.4, 0.1, 0.4, 0.32}, 0}},
                                                     {119, {{0.2, 0.2, 0.6, 0.48}, 0}}};
    const auto v = views(with_views(of_photos(120, {1500, 1000}), all));
    for (const auto& [photo, view] : all) {
        CHECK(v[std::size_t(photo)].box.x == Approx(view.box.x).margin(1e-9));
        CHECK(v[std::size_t(photo)].box.height == Approx(view.box.height));
        CHECK(v[std::size_t(photo)].turn == Approx(view.turn).margin(1e-9));
    }
    // The second difference changes smoothly: from frame to frame by a small part of what it is at most.
    const auto second = [&](std::size_t i) { return v[i + 1].box.x - 2 * v[i].box.x + v[i - 1].box.x; };
    double most = 0, jump = 0;
    for (std::size_t i = 1; i + 1 < v.size(); ++i)
        most = std::max(most, std::abs(second(i)));
    for (std::size_t i = 1; i + 2 < v.size(); ++i)
        jump = std::max(jump, std::abs(second(i + 1) - second(i)));
    CHECK(jump < 0.12 * most);
}

TEST_CASE("ease begins and ends at rest, keeps its order, and ends where it should", "[frame]")
{
    for (const Ease ease : {Ease::none, Ease::in, Ease::out, Ease::both}) {
        CHECK(eased(0, ease, 1) == Approx(0).margin(1e-12));
        CHECK(eased(1, ease, 1) == Approx(1));
        for (int i = 0; i < 100; ++i)
            CHECK(eased((i + 1) / 100.0, ease, 0.7) >= eased(i / 100.0, ease, 0.7));
        CHECK(eased(0.3, ease, 0) == Approx(0.3)); // of no strength
    }
    constexpr double little = 1e-3;
    CHECK(eased(little, Ease::in, 1) < 0.01 * little * 2);
    CHECK(1 - eased(1 - little, Ease::out, 1) < 0.01 * little * 2);
    CHECK(eased(little, Ease::both, 1) < 1e-6);
}

TEST_CASE("a film that starts again drifts again, one that goes back drifts back", "[frame]")
{
    Project p = with_views(of_photos(10, {300, 200}), {{0, {{0, 0, 0.5, 0.5}, 0}}, {9, {{0.5, 0.5, 0.5, 0.5}, 0}}});
    auto twice = std::make_shared<Shot>(p.shot(first));
    twice->pacing.times = 2;
    p.shots[0] = twice;
    const auto again = views(p);
    REQUIRE(again.size() == 20);
    CHECK(again[9].box.x == Approx(0.5));
    CHECK(again[10].box.x == Approx(0).margin(1e-12));
    CHECK(again[19].box.x == Approx(0.5));
    auto back = std::make_shared<Shot>(*twice);
    back->pacing.times = 1;
    back->pacing.there_and_back = Return::to_first;
    p.shots[0] = back;
    const auto there = views(p);
    REQUIRE(there.size() == 19);
    CHECK(there[18].box.x == Approx(0).margin(1e-12));
    CHECK(there[9].box.x > 0.4);
}

TEST_CASE("alignment, straightening, view and shape are one resample as exact as done in floats at four times the size",
          "[frame]")
{
    const cv::Mat photo = photo_of_scene(cv::Matx33d::eye());
    Project p = of_photos(2, photo.size());
    p = change_framing(p, first, [](Framing& f) {
        f.shape = *parse_shape("16:9");
        f.straighten = 2.5;
    });
    const DriftView view{{0.22, 0.24, 0.5, 0.5 * 900 / 600 * 9 / 16}, -6};
    p = with_views(p, {{0, view}});
    constexpr int width = 320, height = 180;
    const cv::Mat made = frame_of(p, photo, 0, {width, height});

    // The same by hand: each point of the frame, four by four in a pixel, looked up in linear light by cubic splines.
    cv::Mat3f linear(photo.size());
    for (int y = 0; y < photo.rows; ++y)
        for (int x = 0; x < photo.cols; ++x)
            for (int c = 0; c < 3; ++c)
                linear(y, x)[c] = float(linear_of(photo.at<cv::Vec3b>(y, x)[c] / 255.0));
    constexpr int fine = 4;
    cv::Mat2f map(height * fine, width * fine);
    const double a = -6 * std::numbers::pi / 180, s = -2.5 * std::numbers::pi / 180;
    const double box_width = view.box.width * 900, box_height = view.box.height * 600;
    for (int y = 0; y < map.rows; ++y)
        for (int x = 0; x < map.cols; ++x) {
            const double u = ((x + 0.5) / map.cols - 0.5) * box_width, v = ((y + 0.5) / map.rows - 0.5) * box_height;
            const double across = std::cos(a) * u - std::sin(a) * v + (view.box.x + view.box.width / 2 - 0.5) * 900;
            const double down = std::sin(a) * u + std::cos(a) * v + (view.box.y + view.box.height / 2 - 0.5) * 600;
            map(y, x) = cv::Vec2f(float(std::cos(s) * across - std::sin(s) * down + 450 - 0.5),
                                  float(std::sin(s) * across + std::cos(s) * down + 300 - 0.5));
        }
    cv::Mat large, small;
    cv::remap(linear, large, map, cv::noArray(), cv::INTER_LANCZOS4);
    cv::resize(large, small, {width, height}, 0, 0, cv::INTER_AREA);
    double sum = 0;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < 3; ++c) {
                const double truth = encoded_of(std::clamp(double(small.at<cv::Vec3f>(y, x)[c]), 0.0, 1.0)) * 255;
                sum += std::pow(made.at<cv::Vec3b>(y, x)[c] - truth, 2);
            }
    const double psnr = 10 * std::log10(255 * 255 / (sum / (width * height * 3)));
    INFO(psnr);
    CHECK(psnr > 30); // the two filters differ in how sharp they are: both are blurred below to compare places
    cv::Mat mine, other;
    made.convertTo(mine, CV_32F);
    cv::Mat3b coded(height, width);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (int c = 0; c < 3; ++c)
                coded(y, x)[c] = std::uint8_t(
                    std::lround(encoded_of(std::clamp(double(small.at<cv::Vec3f>(y, x)[c]), 0.0, 1.0)) * 255));
    coded.convertTo(other, CV_32F);
    cv::GaussianBlur(mine, mine, {}, 1.5);
    cv::GaussianBlur(other, other, {}, 1.5);
    const double rms = cv::norm(mine, other, cv::NORM_L2) / std::sqrt(double(width * height * 3));
    CHECK(20 * std::log10(255 / rms) > 45);
    CHECK(largest_shift({coded, made}) < 0.05);
}

TEST_CASE("beside the photo lies the backdrop, or the photo out of focus", "[frame]")
{
    const cv::Mat photo(60, 90, CV_8UC3, cv::Scalar(40, 80, 200));
    Project p = change_framing(of_photos(1, {90, 60}), first, [](Framing& f) {
        f.shape = *parse_shape("1:1");
        f.fit = FrameFit::inside;
    });
    p = set_view(p, first, PhotoIndex(0), std::nullopt);
    const cv::Mat bars = frame_of(p, photo, 0);
    REQUIRE(bars.size() == cv::Size(90, 90));
    CHECK(bars.at<cv::Vec3b>(5, 45) == cv::Vec3b(0, 0, 0));
    CHECK(cv::norm(bars.at<cv::Vec3b>(45, 45) - cv::Vec3b(40, 80, 200)) <= 2);
    const cv::Mat blurred =
        frame_of(change_framing(p, first, [](Framing& f) { f.beyond = Beyond::blurred; }), photo, 0);
    CHECK(cv::norm(blurred.at<cv::Vec3b>(5, 45) - cv::Vec3b(40, 80, 200)) <= 4);

    // A view that reaches beyond the photo: its edge is where arithmetic has it, to parts of a pixel.
    const Project over = with_views(of_photos(1, {90, 60}), {{0, {{-0.25, 0, 1, 1}, 0}}});
    const cv::Mat half = frame_of(over, photo, 0);
    REQUIRE(half.size() == cv::Size(90, 60));
    double bright = 0;
    for (int x = 0; x < 90; ++x)
        bright += linear_of(half.at<cv::Vec3b>(30, x)[2] / 255.0) / linear_of(200 / 255.0);
    CHECK(bright == Approx(90 * 0.75).margin(0.2));
    CHECK(half.at<cv::Vec3b>(30, 10) == cv::Vec3b(0, 0, 0));
}

TEST_CASE("a photo as shot, and one beside another, lie in the frame as the film's do", "[frame]")
{
    const Project p = change_framing(with_views(of_photos(4, {300, 200}), {{0, {{0, 0, 0.5, 0.5}, 0}}}), first,
                                     [](Framing& f) { f.fades.in = {Fraction(1)}; });
    const auto film = film_of(p, first);
    const auto part = [](const FrameRequest& r) { return std::get<PlacedPhoto>(r.parts.front().what); };
    const auto as_shot = film->frame(FrameIndex(1), {.size = {150, 100}, .corrections = Corrections::none});
    CHECK(part(as_shot).view == part(film->frame(FrameIndex(1), {.size = {150, 100}})).view);
    CHECK(as_shot.finish.entries().empty());
    const Schedule schedule = schedule_of(p, p.shot(first));
    const auto other = ShotTimeline(p.shots[0], schedule).photo_in_frame(PhotoIndex(3), FrameIndex(1), {150, 100});
    CHECK(part(other).photo == p.shot(first).photos[3].photo);
    CHECK(part(other).view == part(as_shot).view);
}

TEST_CASE("bars leave the shape they should, and ease in and out", "[frame]")
{
    Canvas frame(100, 200, cv::Vec4f(1, 1, 1, 1));
    frame_stage(BarsLook{2.5, 1}, frame); // 200 / 2.5 = 80 rows
    double rows = 0;
    for (int y = 0; y < 100; ++y)
        rows += double(frame(y, 100)[1]);
    CHECK(rows == Approx(80));
    CHECK(frame(9, 5)[1] == 0);
    CHECK(frame(10, 5)[1] == 1);
    CHECK(frame(9, 5)[3] == 1);
    Canvas sides(100, 200, cv::Vec4f(1, 1, 1, 1));
    frame_stage(BarsLook{1.333, 1}, sides);
    double columns = 0;
    for (int x = 0; x < 200; ++x)
        columns += double(sides(50, x)[1]);
    CHECK(columns == Approx(133.3).margin(0.01));

    const Project p = change_framing(of_photos(48, {200, 100}), first, [](Framing& f) {
        f.bars = Letterbox{Fraction(5, 2), Seconds{Fraction(1, 2)}};
    });
    const auto share = [&](std::int64_t at) {
        const FrameRequest request = film_of(p, first)->frame(FrameIndex(at), {.size = {200, 100}});
        const auto* bars = request.finish.find<BarsLook>();
        return bars ? bars->share : 0;
    };
    CHECK(share(0) == 0);
    CHECK(share(6) == Approx(0.5)); // half way through 12 frames
    CHECK(share(12) == Approx(1));
    CHECK(share(30) == Approx(1));
    CHECK(share(47) == 0);
}

TEST_CASE("a fade is the exact average in linear light, from the colour to the photo and back", "[frame]")
{
    const cv::Mat photo(20, 30, CV_8UC3, cv::Scalar(60, 120, 180));
    const Project p = change_framing(of_photos(24, {30, 20}), first, [](Framing& f) {
        f.fades.in = {Fraction(1, 4)}; // 6 frames
        f.fades.out = {Fraction(1, 3)};
        f.fades.colour = {200, 10, 30};
    });
    const auto red = [&](std::int64_t frame) { return double(frame_of(p, photo, frame).at<cv::Vec3b>(10, 15)[2]); };
    CHECK(red(0) == 200);
    CHECK(red(23) == 200);
    CHECK(red(12) == 180);
    for (int i = 1; i < 6; ++i) {
        const double t = i / 6.0;
        CHECK(red(i) ==
              Approx(255 * encoded_of(t * linear_of(180 / 255.0) + (1 - t) * linear_of(200 / 255.0))).margin(1));
    }
}

TEST_CASE("grain keeps the light, is new on every frame or stays with its photo, and as large at every size", "[frame]")
{
    const auto grained = [](cv::Size size, std::int64_t seed) {
        Canvas frame(size, cv::Vec4f(0.2F, 0.2F, 0.2F, 1));
        frame_stage(GrainLook{0.5, seed}, frame);
        return frame;
    };
    const Canvas one = grained({960, 540}, 1), other = grained({960, 540}, 2), again = grained({960, 540}, 1);
    CHECK(cv::mean(one)[1] == Approx(0.2).margin(0.002));
    CHECK(cv::norm(one, again) == 0);
    CHECK(cv::norm(one, other) > 1);
    cv::Scalar mean, small, large;
    cv::meanStdDev(one, mean, small);
    cv::meanStdDev(grained({1920, 1080}, 1), mean, large);
    CHECK(small[1] == Approx(large[1]).epsilon(0.15));

    const auto seeds = [](bool held) {
        const Project p = change_framing(of_photos(4, {30, 20}, Frames{3}), first, [&](Framing& f) {
            f.grain = Grain{0.5, held};
        });
        std::set<std::int64_t> all;
        for (int i = 0; i < 12; ++i)
            all.insert(film_of(p, first)->frame(FrameIndex(i), {.size = {30, 20}}).finish.find<GrainLook>()->seed);
        return all.size();
    };
    CHECK(seeds(false) == 12);
    CHECK(seeds(true) == 4);
}

TEST_CASE("in a miniature a bright point becomes a round disc that keeps its light, and the band stays sharp",
          "[frame]")
{
    const Miniature m{.y = 0.2, .width = 0.1, .softness = 0.3, .blur = 0.02, .stronger = 0};
    Canvas frame(720, 1080, cv::Vec4f(0, 0, 0, 1));
    const cv::Point at(540, 600);
    frame(at) = cv::Vec4f(1000, 1000, 1000, 1);
    frame(144, 300) = cv::Vec4f(1, 1, 1, 1); // in the band
    frame_stage(MiniatureLook{m}, frame);
    CHECK(frame(144, 300)[1] == Approx(1));
    CHECK(frame(144, 301)[1] == Approx(0).margin(1e-4));
    const double radius = disc_radius(m, frame.size(), at.x, at.y);
    CHECK(radius == Approx(0.02 * 720));
    double light = 0, across = 0, down = 0;
    for (int y = -30; y <= 30; ++y)
        for (int x = -30; x <= 30; ++x) {
            const double v = double(frame(at.y + y, at.x + x)[1]);
            light += v;
            across += v * x * x;
            down += v * y * y;
        }
    CHECK(light == Approx(1000).epsilon(0.01)); // energy
    // Of an even disc the mean square of one coordinate is a quarter of the radius's.
    CHECK(std::sqrt(across / light) * 2 == Approx(radius).epsilon(0.03));
    CHECK(std::sqrt(across / down) == Approx(1).epsilon(0.02)); // round
    const double inside = double(frame(at.y, at.x)[1]), near = double(frame(at.y, at.x + int(radius) - 3)[1]);
    CHECK(near == Approx(inside).epsilon(0.02)); // even, not a smear

    // What is sharp does not bleed into the blur: a bright band beside dark.
    Canvas band(720, 1080, cv::Vec4f(0, 0, 0, 1));
    for (int y = 120; y < 168; ++y)
        band.row(y).setTo(cv::Vec4f(1, 1, 1, 1));
    frame_stage(MiniatureLook{m}, band);
    CHECK(band(300, 500)[1] < 1e-4F);
    CHECK(band(150, 500)[1] == Approx(1).margin(0.01));
    Canvas flat(72, 108, cv::Vec4f(0.3F, 0.3F, 0.3F, 1));
    frame_stage(MiniatureLook{m}, flat);
    double least = 1;
    cv::minMaxLoc(flat.reshape(1), &least, nullptr);
    CHECK(least == Approx(0.3).margin(1e-4));
}

TEST_CASE("long lines say how a photo is to be turned", "[frame]")
{
    for (const double degrees : {-6.0, -1.3, 0.0, 2.2, 8.0}) {
        cv::Mat house(600, 900, CV_8UC3, cv::Scalar::all(190));
        for (int i = 0; i < 7; ++i) {
            cv::rectangle(house, {100 + 110 * i, 150, 60, 260}, cv::Scalar(60, 70, 80), -1);
            cv::line(house, {0, 450 + 15 * i}, {899, 450 + 15 * i}, cv::Scalar(90, 100, 120), 3);
        }
        cv::Mat turned;
        cv::warpAffine(house, turned, cv::getRotationMatrix2D({450, 300}, -degrees, 1.2), house.size(), cv::INTER_CUBIC,
                       cv::BORDER_REPLICATE); // clockwise
        const auto found = find_level(with_noise(turned, 3, 7));
        REQUIRE(found);
        CHECK(*found == Approx(-degrees).margin(0.15));
    }
    cv::Mat noise(400, 600, CV_8UC3);
    cv::randu(noise, 0, 255);
    CHECK_FALSE(find_level(noise));
}

TEST_CASE("dress is copied, taken off, kept in the file, and follows nothing that it should not", "[frame]")
{
    Project p = of_photos(9, {300, 200});
    auto other = std::make_shared<Shot>(of_photos(5, {300, 200}).shot(first));
    other->name = "t";
    give_ids(*other);
    p.shots.push_back(other);
    p = change_framing(p, first, [](Framing& f) {
        f.shape = *parse_shape("4:5");
        f.crop = cv::Rect2d(0.25, 0.125, 0.5, 0.75);
        f.straighten = -1.5;
        f.ease = Ease::both;
        f.bars = Letterbox{Fraction(2), Seconds{Fraction(1, 3)}};
        f.miniature = Miniature{.x = 0.25, .blur = 0.03125};
        f.grain = Grain{0.25, true};
        f.fades = {Seconds{Fraction(1)}, Seconds{Fraction(1, 2)}, {1, 2, 3}};
    });
    p = with_views(p, {{0, {{0, 0, 0.5, 0.5}, 1.5}}, {8, {{0.5, 0.5, 0.25, 0.25}, 0}}});
    const std::array to{p.shots[1]->id};
    const Project both = copy_dress(p, first, to);
    CHECK(framing_of(*both.shots[1]) == framing_of(p.shot(first)));
    CHECK(views_of(*both.shots[1]) == std::vector<PhotoIndex>{PhotoIndex(0), PhotoIndex(4)});
    const TempFolder t;
    CHECK(project_from_json(project_to_json(both, t / "p.frenlo"), t / "p.frenlo").project == both);
    CHECK_FALSE(is_dressed(drop_dress(p, first).shot(first)));
    CHECK(film_size(drop_dress(p, first).shot(first)) == cv::Size(300, 200));
    // A box of no size says nothing.
    CHECK_FALSE(
        framing_of(change_framing(p, first, [](Framing& f) { f.crop = cv::Rect2d(0.5, 0.5, 0, 0); }).shot(first)).crop);
    // The film is as large as its larger view gives, 80 x 100 of its 150 x 100; of the smaller one, 75 x 50, each row
    // is two.
    CHECK(enlargement(p.shot(first)) == Approx(2));
}

}
