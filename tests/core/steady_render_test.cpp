// From a measured shot to its film: one resample, the frame, the file, the export.
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/picture/warp.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/steady/steady_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first_shot(0);

/// As the pipeline warps a photo to which nothing else is done.
cv::Mat warped(const cv::Mat& m, const cv::Matx33d& to_source, cv::Size size, Edges edges = Edges::go_on)
{
    return quantised(warped(linear_rows(m), to_source, size, edges),
                     {.depth = m.depth() == CV_16U ? Depth::sixteen : Depth::eight});
}

/// A shot of photos knocked by whole and part pixels; the first is where it should be.
Project knocked(const TempFolder& t, std::vector<cv::Point2d>& knocks)
{
    std::mt19937 random(3);
    std::normal_distribution<double> normal(0, 4);
    const cv::Mat& from = real_scene();
    for (int i = 0; i < 8; ++i) {
        const double y = i == 0 ? 0 : normal(random),
                     x = i == 0 ? 0 : normal(random); // in this order, whatever compiles
        knocks.emplace_back(x, y);
        const cv::Matx33d to_scene(1, 0, 120 - knocks.back().x, 0, 1, 120 - knocks.back().y, 0, 0, 1);
        cv::Mat photo;
        cv::warpPerspective(from, photo, to_scene, {900, 600}, cv::INTER_LANCZOS4 | cv::WARP_INVERSE_MAP);
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"), photo);
    }
    const std::array places{t / "s"};
    return add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
}

Project held(const Project& p, Movement movement = Movement::shift)
{
    const ToMeasure photos = to_measure(p.shot(first_shot));
    return hold_still(p, first_shot, photos,
                      hold_still(photos.photos, {.movement = movement, .reference = 0}, Originals(), {}), movement);
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
        // Beyond the edge the edge goes on, or the picture is mirrored: the outermost pixel twice, again and again.
        const cv::Mat beyond = warped(m, {1, 0, -20, 0, 1, 0, 0, 0, 1}, m.size());
        CHECK(cv::norm(beyond.col(0), beyond.col(15), cv::NORM_INF) == 0);
        const cv::Mat mirrored = warped(m, {1, 0, -200, 0, 1, -20, 0, 0, 1}, {500, 120}, Edges::mirrored);
        for (const auto& [x, from] :
             {std::pair(200, 0), std::pair(199, 0), std::pair(190, 9), std::pair(110, 89), std::pair(109, 89),
              std::pair(20, 0), std::pair(289, 89), std::pair(290, 89), std::pair(300, 79)})
            CHECK(cv::norm(mirrored.col(x).rowRange(20, 80), m.col(from), cv::NORM_INF) == 0);
        CHECK(cv::norm(mirrored.row(19).colRange(200, 290), m.row(0), cv::NORM_INF) == 0);
    }
}

TEST_CASE("a warp is sharp and does not alias", "[render][warp]")
{
    // Half a pixel there and half a pixel back: what Lanczos loses is little.
    const cv::Mat m = real_scene()(cv::Rect(200, 200, 400, 300)).clone();
    const cv::Mat there = warped(m, {1, 0, 0.5, 0, 1, 0.5, 0, 0, 1}, m.size());
    const cv::Mat back = warped(there, {1, 0, -0.5, 0, 1, -0.5, 0, 0, 1}, m.size());
    const cv::Rect inner(20, 20, 360, 260);
    cv::Mat bilinear;
    cv::warpAffine(m, bilinear, cv::Matx23d(1, 0, 0.5, 0, 1, 0.5), m.size(), cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                   cv::BORDER_REPLICATE);
    cv::warpAffine(bilinear, bilinear, cv::Matx23d(1, 0, -0.5, 0, 1, -0.5), m.size(),
                   cv::INTER_LINEAR | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
    CHECK(cv::PSNR(back(inner), m(inner)) > cv::PSNR(bilinear(inner), m(inner)) + 6);
    // Lines finer than the result can show become grey, not other lines.
    cv::Mat lines(300, 300, CV_8UC3);
    for (int x = 0; x < 300; ++x)
        lines.col(x).setTo(x % 2 == 0 ? cv::Scalar::all(0) : cv::Scalar::all(255));
    const cv::Mat small = warped(lines, {3.3, 0, 1.1, 0, 3.3, 1.1, 0, 0, 1}, {90, 90});
    cv::Scalar mean, deviation;
    cv::meanStdDev(small(cv::Rect(10, 10, 70, 70)), mean, deviation);
    CHECK(std::abs(mean[0] - 188) < 2); // half the light: IEC 61966-2-1:1999
    CHECK(deviation[0] < 6);
}

TEST_CASE("alignment, frame and scaling are one resample: sharper than one after the other", "[steady][render]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project p = held(knocked(t, knocks));
    const Shot& shot = p.shot(first_shot);
    REQUIRE(steadying_of(shot));
    CHECK(reference_photo(shot) == PhotoIndex(0));
    for (std::size_t i = 0; i < knocks.size(); ++i) {
        const Motion m = motion_of(alignment_of(shot.photos[i])->from_film, {900, 600});
        CHECK(std::abs(m.shift.x - knocks[i].x) < 0.06);
        CHECK(std::abs(m.shift.y - knocks[i].y) < 0.06);
    }
    const cv::Rect frame = steadying_of(shot)->crop;
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
    const Project whole = set_inside_all(p, first_shot, false);
    CHECK(film_size(whole.shot(first_shot)) == cv::Size(900, 600));
    CHECK(set_inside_all(whole, first_shot, true) == p);
    CHECK_FALSE(steadying_of(as_shot(p, first_shot).shot(first_shot)));
    // A photo that is turned afterwards is as shot until it is measured anew.
    CHECK_FALSE(alignment_of(turn_photos(p, first_shot, std::array{PhotoIndex(3)}, 1).shot(first_shot).photos[3]));
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
        std::vector<cv::Mat> frames;
        for (int i = 1; i <= 8; ++i)
            frames.push_back(cv::imread((t / name / ("f_000" + std::to_string(i) + ".png")).native()));
        return largest_shift(frames);
    };
    CHECK(worst_shift(before, "before") > 3);
    CHECK(worst_shift(held(before), "after") < 0.1);
}

namespace {

/// What the crop is to be, made anew from the photos as they are.
cv::Rect crop_now(const Project& p)
{
    return steadying_of(set_inside_all(set_inside_all(p, first_shot, false), first_shot, true).shot(first_shot))->crop;
}

PhotoIndex outermost(const Project& p)
{
    const auto costliest = costliest_photo(p.shot(first_shot));
    REQUIRE(costliest);
    return costliest->photo;
}

}

TEST_CASE("the crop follows what is done to the photos, and says which one costs most", "[steady][crop]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project p = held(knocked(t, knocks));
    const cv::Rect crop = steadying_of(p.shot(first_shot))->crop;
    const PhotoIndex worst = outermost(p);
    const double share = costliest_photo(p.shot(first_shot))->share;
    const Project without = set_aside(p, first_shot, std::array{worst}, true);
    const cv::Rect larger = steadying_of(without.shot(first_shot))->crop;
    CHECK(larger.area() > crop.area());
    CHECK(double(larger.area() - crop.area()) / (900 * 600) == Approx(share)); // as it was said to be
    for (std::int64_t i = 0; i < 8; ++i)                                       // and no other photo gives more
        CHECK(steadying_of(set_aside(p, first_shot, std::array{PhotoIndex(i)}, true).shot(first_shot))->crop.area() <=
              larger.area());
    CHECK(set_aside(without, first_shot, std::array{worst}, false) == p);
    CHECK(lost_to_crop(p.shot(first_shot)) == Approx(1 - crop.area() / (900.0 * 600)));

    const Project nudged = nudge_photo(p, first_shot, worst, {-40, 25}, 1.5);
    CHECK(steadying_of(nudged.shot(first_shot))->crop.area() < crop.area());
    CHECK(steadying_of(nudged.shot(first_shot))->crop == crop_now(nudged));
    const Motion by = motion_of(alignment_of(nudged.shot(first_shot).photos[worst.at()])->from_film.inv() *
                                    alignment_of(p.shot(first_shot).photos[worst.at()])->from_film,
                                {900, 600});
    CHECK(by.shift.x == Approx(-40));
    CHECK(by.shift.y == Approx(25));
    CHECK(by.turn_degrees == Approx(1.5));
    CHECK(nudge_photo(p, first_shot, PhotoIndex(0), {3, 3}) == p); // the reference photo stays where it is

    CHECK(costliest_photo(set_inside_all(p, first_shot, false).shot(first_shot)) == std::nullopt);
    for (const cv::Size shape :
         {cv::Size(1, 1), cv::Size(16, 9), cv::Size(4, 5)}) { // of another shape, as large as can be
        const cv::Rect other = steadying_of(set_crop_shape(p, first_shot, shape).shot(first_shot))->crop;
        const double ratio = double(shape.width) / shape.height; // whole pixels: each side may be one short
        CHECK(std::abs(other.width - other.height * ratio) < 1 + ratio);
        CHECK((other & crop).area() > 0);
        CHECK((other.height >= crop.height - 2 || other.width >= crop.width - 2));
    }
    const Project whole_square = set_inside_all(set_crop_shape(p, first_shot, {1, 1}), first_shot, false);
    CHECK(steadying_of(whole_square.shot(first_shot))->crop == cv::Rect(150, 0, 600, 600));
    CHECK(set_crop_shape(set_crop_shape(p, first_shot, {1, 1}), first_shot, {}) == p);
    const Project mirrored = set_edges(p, first_shot, Edges::mirrored);
    CHECK(film_size(mirrored.shot(first_shot)) == cv::Size(900, 600));
    const FrameRequest seen = request_for_shares(mirrored.shot(first_shot), std::array{Share{PhotoIndex(1)}}, {90, 60});
    CHECK(placed(seen).placement->edges == Edges::mirrored);

    const Project left = leave_as_shot(p, first_shot, worst);
    CHECK(alignment_of(left.shot(first_shot).photos[worst.at()])->from_film == Transform::eye());
    CHECK(steadying_of(left.shot(first_shot))->crop == larger);
}

TEST_CASE("what was measured goes with its photos, and no further than it is true", "[steady][document]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project p = held(knocked(t, knocks));
    const auto alignment = [](const Project& q, std::size_t shot, std::size_t photo) {
        const Alignment* lies = alignment_of(q.shots[shot]->photos[photo]);
        return lies ? std::optional(*lies) : std::nullopt;
    };
    const Project halves = split_shot(p, first_shot, PhotoIndex(3));
    for (std::size_t i = 0; i < 8; ++i)
        CHECK(alignment(halves, i < 3 ? 0 : 1, i < 3 ? i : i - 3) == alignment(p, 0, i));
    for (const std::size_t s : {0, 1}) { // each its own crop
        REQUIRE(steadying_of(*halves.shots[s]));
        CHECK(steadying_of(*halves.shots[s])->crop.area() >= steadying_of(*p.shots[0])->crop.area());
    }
    CHECK(steadying_of(*halves.shots[0])->crop != steadying_of(*halves.shots[1])->crop);
    const Project joined = join_with_next(halves, first_shot);
    CHECK(alignment(joined, 0, 2));
    CHECK_FALSE(alignment(joined, 0, 5)); // against another plane, for all that is known
    // A better set of the same size lies as the old one did; of another size it must be measured anew.
    auto same = std::make_shared<PhotoFile>(*p.shots[0]->photos[2].photo);
    same->file = t / "better" / "p2.png";
    const std::array swap{Match{p.shots[0]->photos[2].photo, same}};
    CHECK(alignment(replace_photos(p, first_shot, swap), 0, 2) == alignment(p, 0, 2));
    auto larger = std::make_shared<PhotoFile>(*same);
    larger->size = {1800, 1200};
    const std::array other{Match{p.shots[0]->photos[2].photo, larger}};
    CHECK_FALSE(steadying_of(*replace_photos(p, first_shot, other).shots[0]));
}

TEST_CASE("one photo is aligned anew, against any other and by any movement, without measuring the rest", "[steady]")
{
    TempFolder t;
    std::vector<cv::Point2d> knocks;
    const Project measured = held(knocked(t, knocks));
    const Project p = nudge_photo(measured, first_shot, PhotoIndex(5), {30, 30}); // wrong
    const Shot& shot = p.shot(first_shot);
    for (const std::size_t against : {0, 3}) {
        const Alignment a = align_to(seen_photo(shot.photos[5]), seen_photo(shot.photos[against]),
                                     alignment_of(shot.photos[against])->from_film, Movement::turn, {}, Originals());
        const Project again = set_alignment(p, first_shot, PhotoIndex(5), a);
        const Motion m = motion_of(alignment_of(again.shot(first_shot).photos[5])->from_film, {900, 600});
        CHECK(std::abs(m.shift.x - knocks[5].x) < 0.1);
        CHECK(std::abs(m.shift.y - knocks[5].y) < 0.1);
        CHECK(again.shot(first_shot).photos[4] == p.shot(first_shot).photos[4]);
        CHECK(steadying_of(again.shot(first_shot))->crop == crop_now(again));
    }
    write_picture(t / "black.png", cv::Mat::zeros(600, 900, CV_8UC3));
    const SeenPhoto black{scanned(t / "black.png"), 0, Damage::refuse};
    CHECK_THROWS_WITH(align_to(black, seen_photo(shot.photos[0]), Transform::eye(), Movement::turn, {}, Originals()),
                      Catch::Contains("black.png"));
}

}
