// Between the photos: which in-between a frame is, what speed a shot has, and what lies between two pictures.
#include "core/base/shared_cache.h"
#include "core/export/export.h"
#include "core/picture/hidden_motion.h"
#include "core/picture/in_between.h"
#include "core/picture/large_moves.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/in_between_check.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/pace/range_edits.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <array>
#include <atomic>
#include <map>
#include <numeric>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

const ShotIndex first(0);

std::vector<HeldPhoto> photos(std::initializer_list<std::int64_t> holds)
{
    std::vector<HeldPhoto> held;
    for (const std::int64_t h : holds)
        held.push_back({PhotoIndex(std::int64_t(held.size())), Frames{h}});
    return held;
}

/// So many photos of nothing, on twos, taken a second apart.
Project project_of(int count, std::int64_t hold = 2)
{
    auto shot = std::make_shared<Shot>();
    shot->name = "Pier";
    for (int i = 0; i < count; ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = "/nowhere/p_" + std::to_string(i) + ".png";
        file->size = {720, 480};
        file->captured = CaptureTime{1'777'804'924'000'000 + std::int64_t(i) * 1'000'000};
        shot->photos.push_back({.photo = std::move(file), .hold = Frames{hold}});
    }
    give_ids(*shot);
    Project p;
    p.delivered_at = Rate(24);
    p.shots = {shot};
    return p;
}

double seconds(const Project& p)
{
    return schedule_of(p, p.shot(first)).length().value.approx();
}

/// Two textures of a real photograph, the second a disc that moves and turns over the first; noise as a camera has it.
struct Moving
{
    cv::Mat back, disc;
    cv::Point2d from, by;
    double turn = 0;
    static constexpr double radius = 70;

    [[nodiscard]] cv::Point2d at(double t) const { return from + by * t; }
    [[nodiscard]] Canvas picture(double t, std::uint64_t noise) const
    {
        const cv::Point2d middle = at(t);
        cv::Mat turned = cv::getRotationMatrix2D({float(disc.cols) / 2, float(disc.rows) / 2}, turn * t, 1);
        turned.at<double>(0, 2) += middle.x - disc.cols / 2.0;
        turned.at<double>(1, 2) += middle.y - disc.rows / 2.0;
        cv::Mat carried;
        cv::warpAffine(disc, carried, turned, back.size(), cv::INTER_CUBIC, cv::BORDER_REPLICATE);
        Canvas under = to_canvas(with_noise(back, 1, noise));
        const Canvas over = to_canvas(with_noise(carried, 1, noise + 1));
        for (int y = 0; y < under.rows; ++y)
            for (int x = 0; x < under.cols; ++x) {
                const auto share = float(std::clamp(radius + 0.5 - std::hypot(x - middle.x, y - middle.y), 0.0, 1.0));
                under(y, x) = under(y, x) * (1 - share) + over(y, x) * share;
            }
        return under;
    }
};

cv::Mat eight(const Canvas& canvas)
{
    return quantised(canvas);
}

/// Root mean square of what two pictures differ by where the mask is, of 255.
double apart(const cv::Mat& a, const cv::Mat& b, const cv::Mat1b& mask)
{
    cv::Mat d;
    cv::absdiff(a, b, d);
    d.convertTo(d, CV_64F);
    const cv::Scalar m = cv::mean(d.mul(d), mask);
    return std::sqrt((m[0] + m[1] + m[2]) / 3);
}

double psnr(double rms)
{
    return 20 * std::log10(255 / rms);
}

cv::Mat1b ring(cv::Size size, cv::Point2d middle, double from, double to)
{
    cv::Mat1b mask(size, std::uint8_t(0));
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            if (const double d = std::hypot(x - middle.x, y - middle.y); d >= from && d < to)
                mask(y, x) = 255;
    return mask;
}

}

TEST_CASE("an in-between lies between the photo that was and the one that comes", "[flow][timing]")
{
    // Paced at 12, delivered at 24: every second frame is a photo as shot.
    const Schedule s(photos({1, 1, 1, 1}), Rate(12), Rate(24), Between::motion);
    CHECK(s.frames() == 8);
    for (int i = 0; i < 4; ++i) {
        CHECK(s.shares_at(FrameIndex(2 * i)) == std::vector<Share>{{PhotoIndex(i)}});
        const auto odd = s.shares_at(FrameIndex(2 * i + 1));
        if (i < 3) {
            REQUIRE(odd.size() == 2);
            CHECK(odd[0].photo == PhotoIndex(i));
            CHECK(odd[1].photo == PhotoIndex(i + 1));
            CHECK(odd[1].weight == Approx(0.5));
        } else {
            CHECK(odd == std::vector<Share>{{PhotoIndex(3)}}); // nothing comes after it
        }
    }
    // Moments say the same as frames.
    for (const Moment& m : s.moments())
        for (FrameIndex f = m.begin; f < m.end; ++f)
            CHECK(m.shares == s.shares_at(f));
}

TEST_CASE("at any two rates an in-between is as far on the way as its time", "[flow][timing][property]")
{
    std::mt19937 random(4);
    for (int round = 0; round < 60; ++round) {
        const Rate paced(Fraction(std::int64_t(2 + random() % 58), std::int64_t(1 + random() % 2)));
        const Rate delivered(Fraction(std::int64_t(10 + random() % 50), 1));
        std::vector<HeldPhoto> held;
        for (int i = 0; i < 20; ++i)
            held.push_back({PhotoIndex(i), Frames{std::int64_t(3 + random() % 3)}}); // none a pause
        const Schedule s(held, paced, delivered, Between::motion);
        const Schedule plain(held, paced, delivered);
        CHECK(s.frames() == plain.frames());
        double place_before = -1;
        for (FrameIndex f(0); f < FrameIndex(s.frames()); ++f) {
            const auto shares = s.shares_at(f);
            const double sum = std::accumulate(shares.begin(), shares.end(), 0.0,
                                               [](double a, const Share& share) { return a + share.weight; });
            CHECK(sum == Approx(1));
            // Photos begin where their holds do; the frame's place among them, worked out apart.
            const double time = double(f.value) / delivered.value().approx();
            double begin = 0, expected = 19;
            for (int i = 0; i < 19; ++i) {
                const double length =
                    double(std::get<Frames>(held[std::size_t(i)].hold).count) / paced.value().approx();
                if (time < begin + length - 1e-9) {
                    expected = i + std::max(0.0, time - begin) / length;
                    break;
                }
                begin += length;
            }
            const double place = double(shares[0].photo.value) + (shares.size() > 1 ? shares[1].weight : 0);
            CHECK(place == Approx(expected).margin(1e-6));
            CHECK(place >= place_before - 1e-9);
            place_before = place;
        }
    }
}

TEST_CASE("a photo that is held much longer than those beside it is a pause", "[flow][timing]")
{
    const Schedule s(photos({2, 24, 2, 2}), Rate(24), Rate(24), Between::motion);
    CHECK(s.shares_at(FrameIndex(2)) == std::vector<Share>{{PhotoIndex(1)}});
    CHECK(s.shares_at(FrameIndex(24)) == std::vector<Share>{{PhotoIndex(1)}});
    REQUIRE(s.shares_at(FrameIndex(25)).size() == 2); // in the last two frames it becomes the next
    CHECK(s.shares_at(FrameIndex(25))[1].weight == Approx(0.5));
    CHECK(time_of_becoming(std::vector<double>{2, 24, 2, 2}) == std::vector<double>{2, 2, 2, 0});
    CHECK(time_of_becoming(std::vector<double>{3, 4, 5, 6}) == std::vector<double>{3, 4, 5, 0}); // it only gets slower
    CHECK(time_of_becoming(std::vector<double>{5, 0, 5}) == std::vector<double>{5, 0, 0});
    CHECK(time_of_becoming({}).empty());
}

TEST_CASE("photos between whose begin and end no frame begins are told, and no others", "[flow][timing]")
{
    const Schedule s(photos({1, 1, 1, 1, 1, 1, 1, 1}), Rate(48), Rate(24), Between::motion);
    CHECK(s.frames() == 4);
    std::map<PhotoIndex, bool> seen;
    for (FrameIndex f(0); f < FrameIndex(4); ++f)
        for (const Share& share : s.shares_at(f))
            seen[share.photo] = true;
    std::size_t unseen = 0;
    for (int i = 0; i < 8; ++i)
        unseen += seen.contains(PhotoIndex(i)) ? 0 : 1;
    CHECK(s.between_frames().size() == unseen);
    for (const PhotoIndex p : s.between_frames())
        CHECK_FALSE(seen.contains(p));
}

TEST_CASE("the rate of a film is what its photos were: nothing there, one, two that are the same", "[flow][timing]")
{
    CHECK(Schedule({}, Rate(24), Rate(24), Between::motion).frames() == 0);
    const Schedule one(photos({4}), Rate(24), Rate(24), Between::motion);
    CHECK(one.shares_at(FrameIndex(3)) == std::vector<Share>{{PhotoIndex(0)}});
    const std::vector<HeldPhoto> same{{PhotoIndex(0), Frames{2}}, {PhotoIndex(0), Frames{2}}};
    const Schedule twice(same, Rate(24), Rate(24), Between::motion);
    CHECK(twice.shares_at(FrameIndex(1)) == std::vector<Share>{{PhotoIndex(0)}});
}

TEST_CASE("a speed course makes photos longer and shorter, and keeps the length where it is to", "[flow][speed]")
{
    Project p = project_of(49); // 98 frames
    p = set_speed_at(p, first, PhotoIndex(0), 100);
    p = set_speed_at(p, first, PhotoIndex(24), 50);
    p = set_speed_at(p, first, PhotoIndex(48), 100);
    const auto speeds = speeds_of(p.shot(first));
    CHECK(speeds[0] == Approx(100));
    CHECK(speeds[24] == Approx(50));
    CHECK(speeds[12] == Approx(75)); // eased at both ends: half of the way at half of it
    for (std::size_t i = 1; i <= 24; ++i)
        CHECK(speeds[i] <= speeds[i - 1]);
    // Each boundary within half a frame of the exact one.
    const Schedule s = schedule_of(p, p.shot(first));
    double exact = 0;
    for (std::size_t i = 0; i < 49; ++i) {
        exact += 2 * 100 / speeds[i];
        CHECK(std::abs(double(s.spans()[i].end.value) - exact) <= 0.5 + 1e-6);
    }
    CHECK(s.frames() > 98);

    SpeedCourse course = speed_course_of(p.shot(first));
    course.keep_length = true;
    p = set_speed_course(p, first, course);
    CHECK(schedule_of(p, p.shot(first)).frames() == 98);
    CHECK(total_of(paced_photos(p, p.shot(first)), Rate(24)).value == Fraction(98, 24)); // to the last fraction
}

TEST_CASE("whatever the course, totals are exact and the way back is the way there", "[flow][speed][property]")
{
    std::mt19937 random(8);
    std::uniform_real_distribution<double> percent(5, 800);
    for (int round = 0; round < 40; ++round) {
        const int count = 2 + int(random() % 60);
        Project p = project_of(count, std::int64_t(1 + random() % 4));
        const Fraction before = total_of(held_photos(p.shot(first)), Rate(24)).value;
        SpeedCourse course{.keep_length = true};
        for (int n = 0; n < 5; ++n)
            course.points.push_back(
                {p.shot(first).photos[random() % std::size_t(count)].id, percent(random), Ease(random() % 4)});
        p = set_speed_course(p, first, course);
        const auto held = paced_photos(p, p.shot(first));
        CHECK(total_of(held, Rate(24)).value == before);
        for (const HeldPhoto& h : held)
            CHECK(is_shown(h.hold));
        // Without the course it is as it was.
        Project q = p;
        for (const SpeedPoint& point : speed_course_of(p.shot(first)).points)
            q = remove_speed_point(q, first, point.photo);
        CHECK_FALSE(q.shot(first).steps.has<SpeedCourse>());
        CHECK(total_of(paced_photos(q, q.shot(first)), Rate(24)).value == before);
        // Photos and their speeds turned round: as long.
        const auto speeds = speeds_of(p.shot(first));
        std::vector<double> back(speeds.rbegin(), speeds.rend());
        std::vector<HeldPhoto> there = held_photos(p.shot(first));
        const double forth = total_of(at_speeds(there, speeds, Rate(24), false), Rate(24)).value.approx();
        CHECK(total_of(at_speeds(there, back, Rate(24), false), Rate(24)).value.approx() == Approx(forth));
    }
}

TEST_CASE("points of a course are carried, and those of photos that are gone say nothing", "[flow][speed]")
{
    Project p = set_speed_at(project_of(10), first, PhotoIndex(3), 50, Ease::none);
    const PhotoId point = p.shot(first).photos[3].id;
    p = move_speed_point(p, first, point, PhotoIndex(5), 25);
    REQUIRE(speed_course_of(p.shot(first)).points.size() == 1);
    CHECK(speeds_of(p.shot(first))[0] == 25); // before the first point as there
    CHECK(seconds(p) == Approx(4 * 20.0 / 24));
    CHECK(set_speed_at(p, first, PhotoIndex(5), 50).shot(first).steps.get<SpeedCourse>().points.size() == 1);
    SpeedCourse gone = speed_course_of(p.shot(first));
    gone.points[0].photo = PhotoId::fresh();
    CHECK(seconds(set_speed_course(p, first, gone)) == Approx(20.0 / 24));
    CHECK(speed_course_of(set_speed_course(p, first, gone).shot(first)).points.empty());
    SpeedCourse mad = speed_course_of(p.shot(first));
    mad.points[0].percent = std::nan("");
    CHECK(speeds_of(set_speed_course(p, first, mad).shot(first))[0] == 100);
    mad.points[0].percent = -5;
    CHECK(speeds_of(set_speed_course(p, first, mad).shot(first))[0] == speed_limits.low);
    mad.points.assign(10'000, {p.shot(first).photos[5].id, 50, Ease::none});
    CHECK(speeds_of(set_speed_course(p, first, mad).shot(first))[2] == 50);
}

TEST_CASE("holds follow the time until the next photo was taken", "[flow][speed]")
{
    Project p = project_of(6);
    auto shot = std::make_shared<Shot>(p.shot(first));
    std::int64_t at = 1'777'804'924'000'000;
    for (std::size_t i = 0; i < 6; ++i) { // from the fourth photo on the interval is three seconds
        auto file = std::make_shared<PhotoFile>(*shot->photos[i].photo);
        file->captured = CaptureTime{at};
        at += (i < 3 ? 1 : 3) * 1'000'000;
        shot->photos.edit(i).photo = std::move(file);
    }
    p.shots = {shot};
    std::vector<PhotoIndex> all;
    for (int i = 0; i < 6; ++i)
        all.emplace_back(i);
    const Project q = hold_as_taken(p, first, all);
    const auto length = [&](std::size_t i) { return length_of(q.shot(first).photos[i].hold, Rate(24)).value.approx(); };
    CHECK(length(3) == Approx(3 * length(0)).epsilon(1e-6));
    CHECK(total_of(held_photos(q.shot(first)), Rate(24)).value == Fraction(12, 24));
    for (std::size_t i = 0; i < 6; ++i) {
        auto file = std::make_shared<PhotoFile>(*shot->photos[i].photo);
        file->captured.reset();
        shot->photos.edit(i).photo = std::move(file);
    }
    CHECK_THROWS_AS(hold_as_taken(p, first, all), Failure);
}

TEST_CASE("holds vary by chance, the same each time, and the sum stays", "[flow][speed]")
{
    const Project p = project_of(40, 3);
    std::vector<PhotoIndex> all;
    for (int i = 0; i < 40; ++i)
        all.emplace_back(i);
    const Project q = vary_holds(p, first, all, 1, 7);
    CHECK(seconds(q) == seconds(p));
    CHECK(q == vary_holds(p, first, all, 1, 7));
    CHECK_FALSE(q == vary_holds(p, first, all, 1, 8));
    int other = 0;
    for (const ShotPhoto& photo : q.shot(first).photos) {
        const std::int64_t f = std::get<Frames>(photo.hold).count;
        CHECK(f >= 2);
        CHECK(f <= 4);
        other += f != 3;
    }
    CHECK(other >= 10);
    const Project on_ones = project_of(4, 1);
    CHECK(vary_holds(on_ones, first, {all.begin(), all.begin() + 4}, 5, 1) == on_ones); // none below one
}

TEST_CASE("an in-between of a thing that moves is nearer to the truth than a mix", "[flow][motion]")
{
    // The middle of three pictures is known. By how much better: the aim is 1.5 dB.
    std::mt19937 random(31);
    std::uniform_real_distribution<double> some(-9, 9);
    const cv::Mat scene = real_scene();
    double better = 0;
    constexpr int rounds = 4;
    for (int round = 0; round < rounds; ++round) {
        Moving m;
        m.back = scene(cv::Rect(40 + 90 * round, 60, 480, 320)).clone();
        m.disc = scene(cv::Rect(500 - 70 * round, 250 + 20 * round, 200, 200)).clone();
        m.by = {2 * some(random), 2 * some(random)};
        m.turn = some(random) / 2;
        m.from = cv::Point2d(240, 160) - m.by / 2;
        const Canvas before = m.picture(0, 1), truth = m.picture(0.5, 3), after = m.picture(1, 5);
        const InBetween made = in_between(before, after, dense_motion(before, after), 0.5);
        const Canvas mix = before * 0.5 + after * 0.5;
        cv::Mat difference;
        cv::absdiff(eight(before), eight(after), difference);
        cv::Mat grey;
        cv::cvtColor(difference, grey, cv::COLOR_BGR2GRAY);
        const cv::Mat1b moves = grey > 12;
        const double ours = apart(eight(made.picture), eight(truth), moves),
                     mixed = apart(eight(mix), eight(truth), moves);
        CAPTURE(round, psnr(ours), psnr(mixed), made.mixed);
        CHECK(psnr(ours) > psnr(mixed) + 1.5);
        CHECK(made.mixed < 0.5);
        better += (psnr(ours) - psnr(mixed)) / rounds;
        // What stands still keeps its noise, and nothing of the disc.
        const cv::Mat1b far = ring(m.back.size(), m.at(0.5), Moving::radius + 30, 1000);
        CHECK(apart(eight(made.picture), eight(truth), far) < 2.5);
    }
    CHECK(better > 6);
}

TEST_CASE("what is hidden moves as what it belongs to, up to the outline of what covers it", "[flow][motion]")
{
    // A red thing at the left, which goes right; blue ground that stands still, striped. Where it will lie is hidden.
    const cv::Size size(60, 40);
    constexpr int outline = 24, covered = 40;
    cv::Mat3b picture(size);
    cv::Mat2f motion(size, cv::Vec2f());
    cv::Mat1b hidden(size, std::uint8_t(0));
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            picture(y, x) =
                x < outline ? cv::Vec3b(20, 20, std::uint8_t(180 + y)) : cv::Vec3b(x % 8 < 4 ? 190 : 160, 60, 30);
            if (x < covered)
                motion(y, x) = {16, 1};
            hidden(y, x) = x >= outline - 3 && x < covered ? 1 : 0;
        }
    fill_hidden(motion, hidden, picture);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            CAPTURE(x, y);
            REQUIRE(motion(y, x) == (x < outline ? cv::Vec2f(16, 1) : cv::Vec2f()));
        }
    // Nothing is seen in both: nothing to carry, and it ends.
    cv::Mat2f alone(size, cv::Vec2f(3, 4));
    fill_hidden(alone, cv::Mat1b(size, std::uint8_t(1)), picture);
    CHECK(alone(7, 7) == cv::Vec2f(3, 4));
}

TEST_CASE("a thing that goes over the ground passes in front of it", "[flow][motion]")
{
    // It is seen in both pictures whole, and so is the ground that it passes: what goes is in front.
    constexpr int side = 24, top = 48;
    const cv::Mat scene = real_scene();
    const auto picture = [&](int left) {
        cv::Mat all = scene(cv::Rect(100, 100, 220, 120)).clone();
        scene(cv::Rect(700, 500, side, side)).copyTo(all(cv::Rect(left, top, side, side)));
        return to_canvas(all);
    };
    for (const auto& [from, to] : {std::pair(60, 100), std::pair(100, 60)}) {
        const Canvas before = picture(from), after = picture(to), truth = picture((from + to) / 2);
        DenseMotion motion = dense_motion(before, after);
        // The search is not what is looked at: a thing as small as this it may miss.
        const auto set = [&motion](cv::Mat2f& m, int left, int way) {
            m = cv::Vec2f();
            m(cv::Rect(left, top - motion.part.y, side, side)) = cv::Vec2f(float(way), 0);
        };
        REQUIRE(motion.forth.size() == motion.part.size());
        set(motion.forth, from - motion.part.x, to - from);
        set(motion.back, to - motion.part.x, from - to);
        motion.forth_off = 0;
        motion.back_off = 0;
        motion.first_only = 0;
        motion.second_only = 0;
        const cv::Rect middle((from + to) / 2 + 4, top + 4, side - 8, side - 8);
        const cv::Mat made = eight(in_between(before, after, motion, 0.5).picture);
        CAPTURE(from, to);
        CHECK(cv::norm(made(middle), eight(truth)(middle), cv::NORM_L1) / double(middle.area()) < 6);
    }
}

namespace {

/// Counts what it is asked for, and remembers.
class Counting : public PhotoSource
{
public:
    Counting(std::vector<cv::Mat> pictures, SharedCache* memory) : pictures_(std::move(pictures)), memory_(memory) {}
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override
    {
        ++asked;
        return pictures_.pixels(photo, at_least, damage);
    }
    [[nodiscard]] SourceMemory memory() const override { return {memory_, WhichPixels::original}; }
    [[nodiscard]] std::vector<SeenPhoto> photos() const { return pictures_.photos(); }

    mutable std::atomic<int> asked = 0;

private:
    InMemory pictures_;
    SharedCache* memory_;
};

}

TEST_CASE("a small thing that goes far is found, and lies in the middle half way", "[flow][motion]")
{
    // It goes farther than it is wide, over real ground that stands still.
    const cv::Mat scene = real_scene();
    const cv::Size size(480, 300);
    constexpr int side = 36;
    const cv::Point from(150, 110), by(70, 12);
    const auto picture = [&](cv::Point at) {
        cv::Mat3b all = scene(cv::Rect({100, 100}, size)).clone();
        cv::Mat thing;
        cv::bitwise_not(scene(cv::Rect(760, 480, side, side)), thing);
        thing.copyTo(all(cv::Rect(at, cv::Size(side, side))));
        return all;
    };
    const cv::Mat3b before = picture(from), after = picture(from + by), truth = picture(from + by / 2);
    cv::Mat1f off(size, 0.0F);
    off(cv::Rect(from, cv::Size(side, side))) = 90;
    constexpr int reach = 77;
    const auto moves = large_moves(before, after, off, reach);
    REQUIRE(moves.size() == 1);
    CHECK(cv::norm(moves[0] - cv::Vec2f(float(by.x), float(by.y))) < 0.6);
    cv::Mat2f motion(size, cv::Vec2f());
    take_moves(motion, off, before, after, moves);
    const cv::Point within = from + cv::Point(side / 2, side / 2);
    CHECK(motion(within) == moves[0]);
    CHECK(motion(within - cv::Point(60, 40)) == cv::Vec2f());

    const Canvas a = to_canvas(before), b = to_canvas(after);
    const cv::Mat made = quantised(in_between(a, b, dense_motion(a, b), 0.5).picture);
    const cv::Mat mix = quantised(Canvas(a * 0.5 + b * 0.5));
    const auto apart = [&](const cv::Mat& picture_made, const cv::Rect& where) {
        cv::Mat d;
        cv::absdiff(picture_made(where), truth(where), d);
        const cv::Scalar m = cv::mean(d);
        return (m[0] + m[1] + m[2]) / 3;
    };
    CHECK(apart(made, cv::Rect(from + by / 2 + cv::Point(4, 4), cv::Size(side - 8, side - 8))) < 4);
    const cv::Size half(side / 2, side);
    for (const cv::Point at :
         {from, cv::Point(from + by + cv::Point(side / 2, 0))}) // not there any more, nor yet there
        CHECK(apart(made, cv::Rect(at, half)) < 0.25 * apart(mix, cv::Rect(at, half)));

    constexpr int too_near = 40;
    CHECK(large_moves(before, after, off, too_near).empty());
    CHECK(large_moves(before, before, cv::Mat1f(size, 0.0F), reach).empty());
    const cv::Mat3b plain(size, cv::Vec3b(90, 90, 90));
    CHECK(large_moves(plain, plain, cv::Mat1f(size, 90.0F), reach).empty()); // it would fit anywhere
}

TEST_CASE("what lies between two photos is worked out from them once, and looks the same", "[flow][motion]")
{
    const cv::Mat scene = real_scene();
    const std::vector<cv::Mat> pictures{scene(cv::Rect(40, 60, 320, 240)).clone(),
                                        scene(cv::Rect(46, 62, 320, 240)).clone(),
                                        scene(cv::Rect(52, 64, 320, 240)).clone()};
    SharedCache memory(64 << 20);
    const Counting remembers(pictures, &memory), forgets(pictures, nullptr);
    const auto between = [&](std::size_t from, double way) {
        FrameRequest r{.size = {320, 240}};
        for (const std::size_t i : {from, from + 1})
            r.parts.push_back({i == from ? 1 - way : way, PlacedPhoto{.photo = remembers.photos()[i].photo}});
        r.motion = true;
        return r;
    };
    for (const std::size_t from : {0, 1})
        for (const double way : {0.25, 0.5, 0.75}) {
            const auto a = render(between(from, way), remembers), b = render(between(from, way), forgets);
            REQUIRE(a);
            REQUIRE(b);
            CHECK(cv::norm(*a, *b, cv::NORM_INF) == 0);
        }
    CHECK(remembers.asked == 3);
    CHECK(forgets.asked == 12);

    // Many at once, on all cores: still once, and nobody waits for himself.
    SharedCache other(64 << 20);
    const Counting at_once(pictures, &other);
    tbb::parallel_for(0, 40, [&](int i) {
        if (!render(between(std::size_t(i % 2), 0.1 + 0.02 * i), at_once))
            throw std::runtime_error("no picture");
    });
    CHECK(at_once.asked == 3);

    // Without room it is slower, and right.
    SharedCache small(1000);
    const Counting without_room(pictures, &small);
    const auto a = render(between(0, 0.5), without_room), b = render(between(0, 0.5), forgets);
    REQUIRE(a);
    CHECK(cv::norm(*a, *b, cv::NORM_INF) == 0);
    CHECK(small.spent() == 0);
}

TEST_CASE("where nothing can be followed both are mixed, and it is said", "[flow][motion]")
{
    const cv::Size size(320, 200);
    const Canvas before = to_canvas(with_noise(cv::Mat(size, CV_8UC3, cv::Scalar::all(120)), 40, 1)),
                 after = to_canvas(with_noise(cv::Mat(size, CV_8UC3, cv::Scalar::all(120)), 40, 2));
    const InBetween made = in_between(before, after, dense_motion(before, after), 0.5);
    CHECK(made.mixed > 0.4); // some of noise can be found again in other noise

    SECTION("two that are the same, black ones, and very small ones stay what they are")
    {
        const InBetween same = in_between(before, before, dense_motion(before, before), 0.3);
        CHECK(apart(eight(same.picture), eight(before), cv::Mat1b(size, 255)) < 0.5);
        CHECK(same.mixed == 0);
        const Canvas black(size, cv::Vec4f(0, 0, 0, 1));
        CHECK(cv::countNonZero(eight(in_between(black, black, dense_motion(black, black), 0.5).picture).reshape(1)) ==
              0);
        for (const cv::Size little : {cv::Size(1, 1), cv::Size(3, 40), cv::Size(17, 15), cv::Size(12, 300),
                                      cv::Size(33, 31), cv::Size(32, 32), cv::Size(40, 200), cv::Size(64, 33)}) {
            const Canvas a(little, cv::Vec4f(0, 0, 0, 1)), b(little, cv::Vec4f(1, 1, 1, 1));
            const Canvas half = in_between(a, b, dense_motion(a, b), 0.25).picture;
            CHECK(half.size() == little);
            CHECK(half(0, 0)[1] == Approx(0.25).margin(0.01));
        }
    }
    SECTION("a lamp that is switched on lies in between")
    {
        const Canvas dark = before * 0.25;
        const Canvas half = in_between(dark, before, dense_motion(dark, before), 0.5).picture;
        CHECK(cv::mean(half)[1] == Approx((cv::mean(dark)[1] + cv::mean(before)[1]) / 2).epsilon(0.05));
    }
}

TEST_CASE("a film with in-betweens shows them, and what was refused is shown otherwise", "[flow][motion]")
{
    TempFolder folder;
    const cv::Mat scene = real_scene();
    auto shot = std::make_shared<Shot>();
    shot->name = "Pier";
    Moving m{.back = scene(cv::Rect(40, 60, 480, 320)).clone(),
             .disc = scene(cv::Rect(500, 250, 200, 200)).clone(),
             .from = {200, 150},
             .by = {14, 6},
             .turn = 2};
    for (int i = 0; i < 3; ++i) {
        const auto file = folder / ("p_" + std::to_string(i) + ".png");
        write_picture(file, eight(m.picture(i, std::uint64_t(i))));
        shot->photos.push_back({.photo = scanned(file), .hold = Frames{1}});
    }
    give_ids(*shot);
    Project p;
    p.delivered_at = Rate(24);
    p.shots = {shot};
    p = set_between(set_paced_at(p, first, Rate(12)), first, Between::motion);
    const auto frame = [](const Project& project, std::int64_t at) {
        const auto film = film_of(project, first);
        const auto made = render(film->frame(FrameIndex(at), {.size = film->size()}), Originals());
        REQUIRE(made);
        return *made;
    };
    const cv::Mat1b on_disc = ring(m.back.size(), m.at(0.5), 0, Moving::radius - 12);
    const cv::Mat truth = eight(m.picture(0.5, 9));
    CHECK(psnr(apart(frame(p, 1), truth, on_disc)) > 30);
    const cv::Mat mixed = frame(set_between(p, first, Between::mix), 1);
    CHECK(psnr(apart(mixed, truth, on_disc)) < 26); // a mix holds each photo for its whole time: here the first one
    // Photos as shot are as they were shot.
    CHECK(apart(frame(p, 2), cv::imread((folder / "p_1.png").string()), cv::Mat1b(m.back.size(), 255)) == 0);

    const std::array refused{PhotoIndex(0)};
    const cv::Mat repeated = frame(set_to_next(p, first, refused, Between::repeat), 1);
    CHECK(apart(repeated, cv::imread((folder / "p_1.png").string()), cv::Mat1b(m.back.size(), 255)) == 0);
    const Project with_mix = set_to_next(p, first, refused, Between::mix);
    CHECK(psnr(apart(frame(with_mix, 1), truth, on_disc)) < 26);
    CHECK(psnr(apart(frame(with_mix, 3), eight(m.picture(1.5, 9)), ring(m.back.size(), m.at(1.5), 0, 58))) > 30);

    // What cannot be followed is found: a photo of something else.
    CHECK(doubtful_in_betweens(p, p.shot(first), Originals(), Job()).empty());
    auto other = std::make_shared<Shot>(p.shot(first));
    write_picture(folder / "other.png", with_noise(cv::Mat(320, 480, CV_8UC3, cv::Scalar::all(90)), 50, 3));
    other->photos.edit(2).photo = scanned(folder / "other.png");
    p.shots = {other};
    const auto doubtful = doubtful_in_betweens(p, p.shot(first), Originals(), Job());
    REQUIRE(doubtful.size() == 1);
    CHECK(doubtful[0].photo == PhotoIndex(1));
    CHECK(doubtful[0].next == PhotoIndex(2));
}

TEST_CASE("holds as they were tapped: to the nearest frame, nothing adds up, none below one", "[pace][tap]")
{
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < 8; ++i) {
        ShotPhoto p{.photo = std::make_shared<PhotoFile>()};
        p.aside = i == 3;
        shot.photos.push_back(std::move(p));
    }
    const Project before = add_shot(Project{.delivered_at = Rate(24), .shots = {}}, shot);
    // A tap every 0.3 s is 7.2 frames: boundaries at 7, 14, 22, 29.
    const std::array taps{0.3, 0.6, 0.9, 1.2};
    const Project after = hold_as_tapped(before, ShotIndex(0), PhotoIndex(1), taps);
    const auto hold = [&](std::size_t i) { return std::get<Frames>(after.shot(ShotIndex(0)).photos[i].hold).count; };
    CHECK(hold(0) == 1); // before the first
    CHECK(hold(1) == 7);
    CHECK(hold(2) == 7);
    CHECK(hold(3) == 1); // aside: it has no tap
    CHECK(hold(4) == 8);
    CHECK(hold(5) == 7);
    CHECK(hold(6) == 1); // the taps ended here
    // Two taps within a frame are a frame apart; more taps than photos are too many.
    const std::array quick{0.01, 0.02, 0.03, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0};
    const Project fast = hold_as_tapped(before, ShotIndex(0), PhotoIndex(5), quick);
    CHECK(std::get<Frames>(fast.shot(ShotIndex(0)).photos[5].hold).count == 1);
    CHECK(std::get<Frames>(fast.shot(ShotIndex(0)).photos[7].hold).count == 1);
}

TEST_CASE("a loop with a joint goes round without a jump, in films and in loops", "[flow][joint]")
{
    // A ramp of light: from the last photo of the range to its first is the largest jump there is.
    const TempFolder t;
    Project p;
    Shot shot;
    shot.name = "ramp";
    for (int i = 0; i < 16; ++i) {
        const auto file = t / "s" / ("r_" + std::to_string(1001 + i) + ".png");
        write_picture(file, cv::Mat(40, 60, CV_8UC3, cv::Scalar::all(40 + 10 * i)));
        shot.photos.push_back({scanned(file), Frames{1}});
    }
    p = add_shot(p, shot);
    p = set_kept(p, first, KeptRange{PhotoIndex(4), PhotoCount{12}});
    const Project joined = set_joint(p, first, 4);
    const auto grey = [&](const Project& project, std::int64_t at) {
        const auto film = film_of(project, first);
        return int(render(film->frame(FrameIndex(at), {.size = film->size()}), Originals())->at<cv::Vec3b>(20, 30)[0]);
    };
    CHECK(grey(p, 11) - grey(p, 0) == 110);
    CHECK(std::abs(grey(joined, 11) - grey(joined, 0)) < 50);
    CHECK(grey(joined, 0) == grey(p, 0));
    CHECK(film_of(joined, first)->frames() == 12);
    CHECK(film_of(set_there_and_back(joined, first, Return::once), first)->runs().size() ==
          film_of(set_there_and_back(p, first, Return::once), first)->runs().size());
    ExportOrder order;
    order.preset = *find_preset("loop-png");
    order.preset.long_side = 0;
    order.file = t / "l.apng";
    CHECK(run_export(joined, order, Originals(), {}).plan.frames == 12);
    SECTION("and is read back from the file")
    {
        CHECK(project_from_json(project_to_json(joined, t / "a.frenlo"), t / "a.frenlo").project == joined);
    }
}

}
