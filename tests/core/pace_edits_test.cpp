#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/even_rate.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first_shot(0);

/// A project of one shot whose photos exist in memory only.
Project made_up(int photos, Hold hold = Frames{1}, Rate rate = Rate(24))
{
    Shot shot;
    shot.name = "Ferry";
    for (int i = 0; i < photos; ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = "/nowhere/ferry_" + std::to_string(i + 1) + ".jpg";
        file->size = {60, 40};
        shot.photos.push_back({file, hold});
    }
    return set_delivered_at(add_shot({}, shot), rate);
}

std::vector<PhotoIndex> all(const Project& p)
{
    std::vector<PhotoIndex> photos;
    for (std::size_t i = 0; i < p.shot(first_shot).photos.size(); ++i)
        photos.emplace_back(std::int64_t(i));
    return photos;
}

std::vector<PhotoIndex> some(int begin, int end)
{
    std::vector<PhotoIndex> photos;
    for (int i = begin; i < end; ++i)
        photos.emplace_back(i);
    return photos;
}

Schedule film(const Project& p)
{
    return schedule_of(p, p.shot(first_shot));
}

std::vector<std::int64_t> holds_in_frames(const Project& p)
{
    std::vector<std::int64_t> frames;
    for (const auto& photo : p.shot(first_shot).photos)
        frames.push_back(std::holds_alternative<Frames>(photo.hold) ? std::get<Frames>(photo.hold).count : -1);
    return frames;
}

std::pair<std::int64_t, std::int64_t> kept(const Project& p)
{
    const auto [begin, end] = kept_photos(p, p.shot(first_shot));
    return {begin.value, end.value};
}

}

TEST_CASE("photos are spread over a length in whole frames, the remainder evenly", "[document][pace]")
{
    // Common practice, no source: these 13 photos last 4 s. 96 frames are 5 photos of 8 and 8 of 7.
    const Project p = spread_over(made_up(13), first_shot, some(0, 13), Seconds{Fraction(4)});
    const auto frames = holds_in_frames(p);
    CHECK(std::accumulate(frames.begin(), frames.end(), std::int64_t(0)) == 96);
    CHECK(std::count(frames.begin(), frames.end(), 8) == 5);
    CHECK(std::count(frames.begin(), frames.end(), 7) == 8);
    CHECK(std::search_n(frames.begin(), frames.end(), 2, 8) == frames.end()); // evenly: no two long ones in a row
    CHECK(film(p).length().value == Fraction(4));
    // Only the chosen ones, and only those that are shown.
    Project q = set_hold(made_up(6), first_shot, some(1, 2), Frames{0});
    q = set_aside(q, first_shot, some(2, 3), true);
    q = spread_over(q, first_shot, some(0, 4), Seconds{Fraction(1)});
    CHECK(holds_in_frames(q) == std::vector<std::int64_t>{12, 0, 1, 12, 1, 1});
    // Paced at 12 and delivered at 24, the frames are those that it was thought in.
    const Project paced =
        spread_over(set_paced_at(made_up(13), first_shot, Rate(12)), first_shot, some(0, 13), Seconds{Fraction(4)});
    CHECK(holds_in_frames(paced)[0] + holds_in_frames(paced)[1] <= 8);
    CHECK(film(paced).length().value == Fraction(4));
    // 12.5 frames would be half of one: whole frames of the delivery rate are taken.
    const Project half = spread_over(set_paced_at(made_up(5, Frames{1}, Rate(25)), first_shot, Rate(Fraction(25, 2))),
                                     first_shot, some(0, 5), Seconds{Fraction(1)});
    CHECK(film(half).frames() == 25);
    // More photos than frames: equal times, and the schedule says who falls between.
    const Project dense = spread_over(made_up(48), first_shot, some(0, 48), Seconds{Fraction(1)});
    CHECK(film(dense).frames() == 24);
    CHECK(film(dense).between_frames().size() == 24);
}

TEST_CASE("speed and target length keep each photo's share, exact in total", "[document][pace][property]")
{
    std::mt19937 random(17);
    const auto from = [&](int low, int high) { return std::uniform_int_distribution<int>(low, high)(random); };
    for (int round = 0; round < 60; ++round) {
        Project p = made_up(from(1, 30));
        for (const PhotoIndex photo : all(p))
            p = set_hold(p, first_shot, std::array{photo}, Frames{from(0, 6)});
        const Fraction before = length_of_photos(p, p.shot(first_shot), all(p)).value;
        const Fraction speed(from(1, 400), 100), target(from(1, 200), 10);
        const Project faster = change_speed(p, first_shot, all(p), speed);
        CHECK(length_of_photos(faster, faster.shot(first_shot), all(p)).value == before / speed);
        CHECK(change_speed(faster, first_shot, all(p), Fraction(1) / speed) == p); // and back again, to the letter
        const Project fitted = fit_to(p, first_shot, all(p), Seconds{target});
        if (before > Fraction(0))
            CHECK(length_of_photos(fitted, fitted.shot(first_shot), all(p)).value == target);
    }
    CHECK(holds_in_frames(change_speed(made_up(4, Frames{2}), first_shot, some(0, 2), Fraction(1, 2))) ==
          std::vector<std::int64_t>{4, 4, 2, 2});
    CHECK_THROWS_AS(change_speed(made_up(2, Seconds{Fraction(60)}), first_shot, some(0, 2), Fraction(1, 100)), Failure);
    // Divided ever again a hold gets too fine: a message, and nothing happens.
    Project fine = made_up(2);
    CHECK_THROWS_AS(([&] {
                        for (int i = 0; i < 60; ++i)
                            fine = change_speed(fine, first_shot, some(0, 2), Fraction(97, 89));
                    }()),
                    Failure);
}

TEST_CASE("another delivery rate: same photos per frame, or same clock time", "[document][pace]")
{
    Project p = made_up(12, Frames{2});
    p = set_hold(p, first_shot, some(0, 1), Seconds{Fraction(1, 6)}); // 4 frames
    const auto frames = film(p).photo_of_each_frame();
    REQUIRE(frames.size() == 4 + 11 * 2);
    for (const char* text : {"12", "23.976", "25", "30", "59.94"}) {
        const Rate rate = *parse_rate(text);
        for (const auto& paced : {std::optional<Rate>(), std::optional(Rate(12))}) {
            const Project before = set_paced_at(p, first_shot, paced);
            const Project same_photos = deliver_at(before, rate, RateIntent::same_photos_per_frame);
            CHECK(film(same_photos).photo_of_each_frame() == film(before).photo_of_each_frame());
            CHECK(film(same_photos).rate() == rate);
            const Project same_time = deliver_at(before, rate, RateIntent::same_clock_time);
            const Fraction off = film(same_time).length().value - film(before).length().value;
            CHECK(std::abs(off.approx()) <= 0.5 / rate.value().approx() + 1e-12);
            if (film(same_time).between_frames().empty()) // a to b to a: nothing was lost, all is as it was
                CHECK(deliver_at(same_time, Rate(24), RateIntent::same_clock_time) == before);
            CHECK(deliver_at(same_photos, Rate(24), RateIntent::same_photos_per_frame) == before);
        }
    }
    CHECK(deliver_at(p, Rate(24), RateIntent::same_clock_time) == p);
    // A rate that no one could read again is refused, with what to do.
    const Project odd = set_paced_at(set_delivered_at(p, Rate(24)), first_shot, *parse_rate("23.976"));
    CHECK_THROWS_AS(deliver_at(odd, *parse_rate("29.97"), RateIntent::same_photos_per_frame), Failure);
}

TEST_CASE("the kept range by its ends, with a fixed length, and slid", "[document][pace][range]")
{
    const Project p = made_up(1000, Frames{1}, Rate(25));
    CHECK(kept(p) == std::pair<std::int64_t, std::int64_t>{0, 1000});
    Project q = keep_from(p, first_shot, PhotoIndex(100));
    CHECK(kept(q) == std::pair<std::int64_t, std::int64_t>{100, 1000});
    q = keep_to(q, first_shot, PhotoIndex(199));
    CHECK(kept(q) == std::pair<std::int64_t, std::int64_t>{100, 200});
    CHECK(film(q).frames() == 100);
    CHECK(kept(keep_to(q, first_shot, PhotoIndex(50))) ==
          std::pair<std::int64_t, std::int64_t>{0, 51}); // past its start
    CHECK(kept(keep_from(q, first_shot, PhotoIndex(500))) == std::pair<std::int64_t, std::int64_t>{500, 1000});
    CHECK(kept(slide_kept(q, first_shot, 30)) == std::pair<std::int64_t, std::int64_t>{130, 230});
    CHECK(kept(slide_kept(q, first_shot, 5000)) == std::pair<std::int64_t, std::int64_t>{900, 1000});
    CHECK(kept(slide_kept(q, first_shot, -5000)) == std::pair<std::int64_t, std::int64_t>{0, 100});
    CHECK(slide_kept(p, first_shot, 3) == p); // nothing to slide

    for (const bool by_time : {true, false}) { // 5 s are 125 photos, slid by up to 875
        std::variant<PhotoCount, Seconds> five = PhotoCount{125};
        if (by_time)
            five = Seconds{Fraction(5)};
        Project f = fix_kept(q, first_shot, five);
        CHECK(kept(f) == std::pair<std::int64_t, std::int64_t>{100, 225});
        CHECK(film(f).length().value == Fraction(5));
        CHECK(kept(slide_kept(f, first_shot, 5000)) == std::pair<std::int64_t, std::int64_t>{875, 1000});
        CHECK(kept(keep_from(f, first_shot, PhotoIndex(990))) == std::pair<std::int64_t, std::int64_t>{875, 1000});
        CHECK(kept(keep_to(f, first_shot, PhotoIndex(299))) == std::pair<std::int64_t, std::int64_t>{175, 300});
        CHECK(kept(keep_to(f, first_shot, PhotoIndex(30))) == std::pair<std::int64_t, std::int64_t>{0, 125});
        CHECK(kept(fix_kept(f, first_shot, std::nullopt)) ==
              std::pair<std::int64_t, std::int64_t>{100, 225});                                // free again
        CHECK(kept(slide_kept(set_keep_every(f, first_shot, 2), first_shot, 1)).first == 102); // by photos of the film
    }
    CHECK(set_kept(q, first_shot, std::nullopt) == p);
    const DisplayTimeline page = display_timeline(q, q.shot(first_shot));
    CHECK(page.schedule.frames() == 1000);
    CHECK(page.kept_begin == FrameIndex(100));
    CHECK(page.kept_end == FrameIndex(200));
}

TEST_CASE("a version is a shot of its own with the same photos", "[document][pace][range]")
{
    const Project p = keep_to(made_up(40), first_shot, PhotoIndex(9));
    Project two = keep_as_version(p, first_shot);
    REQUIRE(two.shots.size() == 2);
    CHECK(two.shots[1]->name == "Ferry 2");
    CHECK(two.shots[1]->photos[3].photo == two.shots[0]->photos[3].photo);
    two = keep_from(two, ShotIndex(1), PhotoIndex(20));
    CHECK(two.shots[0] == p.shots[0]);
    CHECK(schedule_of(two, two.shot(ShotIndex(1))).frames() == 20);
    // A shot that is split hands its range to the part where it lies.
    const Project late = split_shot(set_kept(made_up(40), first_shot, KeptRange{PhotoIndex(25), PhotoIndex(30)}),
                                    first_shot, PhotoIndex(20));
    CHECK_FALSE(late.shots[0]->pacing.kept);
    CHECK(late.shots[1]->pacing.kept == KeptRange{PhotoIndex(5), PhotoIndex(10)});
}

TEST_CASE("holds grow and shrink by frames of the film, and stay within what a hold can be", "[document][pace]")
{
    Project p = made_up(4, Frames{2}, Rate(24));
    p = set_hold(p, first_shot, some(1, 2), Seconds{Fraction(1, 8)});
    p = set_hold(p, first_shot, some(2, 3), Frames{0}); // not shown
    const auto hold = [&](const Project& of, std::size_t photo) { return of.shot(first_shot).photos[photo].hold; };
    const Project longer = lengthen(p, first_shot, all(p), 3);
    CHECK(hold(longer, 0) == Hold(Frames{2 + 3}));
    CHECK(hold(longer, 1) == Hold(Seconds{Fraction(1, 8) + Fraction(3, 24)}));
    CHECK(hold(longer, 2) == Hold(Frames{0})); // what is not shown stays so
    const Project shorter = lengthen(p, first_shot, all(p), -100);
    CHECK(hold(shorter, 0) == Hold(Frames{1})); // never nothing by pulling an edge
    CHECK(hold(shorter, 1) == Hold(Seconds{Fraction(1, 24)}));
    CHECK(hold(lengthen(p, first_shot, all(p), max_hold_frames), 0) == Hold(Frames{max_hold_frames}));
    CHECK(lengthen(p, first_shot, some(0, 1), 5).shot(first_shot).photos[3].hold == Hold(Frames{2}));
    CHECK(lengthen(p, first_shot, all(p), 0) == p);
    CHECK(lengthen(lengthen(p, first_shot, all(p), 7), first_shot, all(p), -7) == p);

    // At a rate that is no whole number a frame is one exactly.
    const Project video =
        set_hold(set_delivered_at(p, Rate(Fraction(24'000, 1001))), first_shot, some(1, 2), Seconds{Fraction(1, 8)});
    CHECK(hold(lengthen(video, first_shot, some(1, 2), 1), 1) ==
          Hold(Seconds{Fraction(1, 8) + Fraction(1001, 24'000)}));
}

TEST_CASE("the film's first and last hold are set and taken back", "[document][pace]")
{
    const Project p = made_up(5, Frames{2});
    const Project ends = set_last_hold(set_first_hold(p, first_shot, Frames{12}), first_shot, Seconds{Fraction(1, 2)});
    CHECK(film(ends).frames() == 12 + 3 * 2 + 12);
    CHECK(film(ends).photo_at(FrameIndex(11)) == PhotoIndex(0));
    CHECK(film(ends).photo_at(FrameIndex(12)) == PhotoIndex(1));
    CHECK(set_last_hold(set_first_hold(ends, first_shot, {}), first_shot, {}) == p);
}

TEST_CASE("damaged timing is refused with what is wrong", "[document][pace][file][bad]")
{
    TempFolder t;
    write_run(t / "Ferry", "ferry", 3, {16, 16});
    const std::array places{t / "Ferry"};
    const std::string good =
        project_to_json(add_scanned({}, scan(places, {}, {}), Frames{2}, Division::one_shot), t / "p.frenlo");
    struct Row
    {
        std::string line;
        std::string says;
    };
    const auto row = GENERATE(values<Row>({
        {R"("paced_at": "fast")", "frame rate"},
        {R"("paced_at": 24)", "damaged"},
        {R"("between": "melt")", "melt"},
        {R"("keep_every": 0)", "0 is not 1 to"},
        {R"("keep_every": 2.5)", "2.5"},
        {R"("kept": {"from": -1, "to": 2})", "-1"},
        {R"("kept": {"from": 0})", "to"},
        {R"("kept": {"from": 0, "photos": 0})", "0 is not 1 to"},
        {R"("kept": {"from": 0, "seconds": "-1/2"})", "not a length in seconds"},
        {R"("kept": {"from": 0, "seconds": "soon"})", "soon"},
        {R"("there_and_back": "thrice")", "thrice"},
        {R"("times": 1001)", "1001"},
        {R"("times": "7")", "damaged"},
        {R"("at_least_s": "x")", "x"},
        {R"("first_hold": "two")", "two"},
        {R"("last_hold": "-3f")", "-3f"},
    }));
    std::string bad = good;
    const auto photos = bad.find("\"photos\"");
    REQUIRE(photos != std::string::npos);
    bad.insert(photos, "\"pacing\": {" + row.line + "}, ");
    write_bytes(t / "p.frenlo", bad);
    CAPTURE(row.line);
    std::string said;
    try {
        load_project(t / "p.frenlo");
    } catch (const Failure& f) {
        said = f.problem().text();
    }
    CHECK_THAT(said, Catch::Contains(row.says) && Catch::Contains("p.frenlo"));
}

TEST_CASE("marks drop so many photos each", "[document][pace]")
{
    const Project start = made_up(12);
    Project p = start;
    for (const int mark : {2, 3, 10})
        p = toggle_mark(p, first_shot, PhotoIndex(mark));
    p = toggle_mark(p, first_shot, PhotoIndex(3));
    CHECK(marked_photos(p.shot(first_shot)) == std::vector{PhotoIndex(2), PhotoIndex(10)});
    CHECK(clear_marks(p, first_shot) == start);
    const Project dropped = set_aside_at_marks(p, first_shot, 3);
    CHECK(film(dropped).photo_of_each_frame() == std::vector{PhotoIndex(0), PhotoIndex(1), PhotoIndex(5), PhotoIndex(6),
                                                             PhotoIndex(7), PhotoIndex(8), PhotoIndex(9)});
    CHECK(marked_photos(dropped.shot(first_shot)).empty());
}

TEST_CASE("all of the timing is read back as it was saved", "[document][pace][file]")
{
    TempFolder t;
    write_run(t / "Ferry", "ferry", 6, {16, 16});
    const std::array places{t / "Ferry"};
    const Project plain = add_scanned({}, scan(places, {}, {}), Frames{2}, Division::one_shot);
    const Pacing pacings[] = {
        {},
        {.paced_at = Rate(12),
         .between = Between::mix,
         .keep_every = 2,
         .kept = KeptRange{PhotoIndex(1), PhotoIndex(4)}},
        {.kept = KeptRange{PhotoIndex(2), PhotoCount{3}},
         .backwards = true,
         .there_and_back = Return::once,
         .times = 7},
        {.kept = KeptRange{PhotoIndex(0), Seconds{Fraction(7, 3)}},
         .there_and_back = Return::to_first,
         .at_least = Seconds{Fraction(9, 2)},
         .first_hold = Frames{12},
         .last_hold = Seconds{Fraction(1, 6)}},
        {.there_and_back = Return::twice},
    };
    for (const Pacing& pacing : pacings) {
        Project p = toggle_mark(plain, first_shot, PhotoIndex(2));
        auto shot = std::make_shared<Shot>(p.shot(first_shot));
        shot->pacing = pacing;
        p.shots[0] = shot;
        save_project(p, t / "p.frenlo");
        CHECK(load_project(t / "p.frenlo").project == p);
    }
}

TEST_CASE("mixed pictures are exact averages in linear light", "[render][mix]")
{
    // IEC 61966-2-1:1999, written out here once more: black and white in equal parts are 188 of 255, not 128.
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    const auto encoded = [](double v) { return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055; };
    for (const int type : {CV_8UC3, CV_16UC3}) {
        const double one = type == CV_8UC3 ? 255 : 65'535;
        cv::Mat black(4, 4, type, cv::Scalar::all(0)), white(4, 4, type, cv::Scalar::all(one));
        const Depth depth = type == CV_8UC3 ? Depth::eight : Depth::sixteen;
        const auto mixed = [&](const std::vector<std::pair<cv::Mat, double>>& parts) {
            Canvas sum(parts.front().first.size(), cv::Vec4f());
            for (const auto& [picture, weight] : parts)
                sum += to_canvas(picture) * weight;
            return quantised(sum, {.depth = depth});
        };
        const cv::Mat half = mixed({{black, 0.5}, {white, 0.5}});
        CHECK(cv::mean(half)[0] == Approx(std::lround(encoded(0.5) * one)));
        if (type == CV_8UC3)
            CHECK(cv::mean(half)[0] == 188);
        // Every value alone comes out as it went in, and mixed with itself too.
        cv::Mat ramp(1, 256, type);
        for (int x = 0; x < 256; ++x)
            for (int c = 0; c < 3; ++c)
                type == CV_8UC3 ? ramp.ptr<std::uint8_t>()[3 * x + c] = std::uint8_t(x)
                                : ramp.ptr<std::uint16_t>()[3 * x + c] = std::uint16_t(x * 257);
        CHECK(cv::norm(mixed({{ramp, 0.2}, {ramp, 0.3}, {ramp, 0.5}}), ramp, cv::NORM_INF) <=
              (type == CV_8UC3 ? 0 : 1)); // 32-bit floats carry 16 bit to the last step
    }
    cv::Mat a(2, 2, CV_8UC3, cv::Scalar(10, 120, 250)), b(2, 2, CV_8UC3, cv::Scalar(200, 60, 0));
    const cv::Scalar got = cv::mean(quantised(Canvas(to_canvas(a) * (1.0 / 3) + to_canvas(b) * (2.0 / 3))));
    for (int c = 0; c < 3; ++c) {
        const double expected = encoded(linear(cv::mean(a)[c] / 255) / 3 + linear(cv::mean(b)[c] / 255) * 2 / 3) * 255;
        CHECK(std::abs(got[c] - expected) <= 0.51);
    }
}

TEST_CASE("a frame between photos is rendered as their mix", "[render][mix]")
{
    TempFolder t;
    for (int i = 0; i < 4; ++i)
        write_picture(t / "s" / ("p" + std::to_string(i) + ".png"), cv::Mat(8, 12, CV_8UC3, cv::Scalar::all(i * 80)));
    const std::array places{t / "s"};
    Project p = add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
    p = set_between(set_paced_at(set_delivered_at(p, Rate(6)), first_shot, Rate(24)), first_shot, Between::mix);
    const Shot& shot = p.shot(first_shot);
    const Schedule s = schedule_of(p, shot);
    REQUIRE(s.frames() == 1);
    const auto picture = render(request_for_shares(shot, s.shares_at(FrameIndex(0)), {12, 8}), Originals());
    REQUIRE(picture);
    Canvas by_hand(8, 12, cv::Vec4f());
    for (int i = 0; i < 4; ++i)
        by_hand += to_canvas(cv::Mat(8, 12, CV_8UC3, cv::Scalar::all(i * 80))) * 0.25;
    const cv::Mat expected = quantised(by_hand);
    CHECK(cv::norm(*picture, expected, cv::NORM_INF) <= 1); // dithered
    CHECK(cv::mean(*picture)[0] == Approx(cv::mean(expected)[0]).margin(0.6));
}

TEST_CASE("A rate is named at which photos stay for whole frames", "[pace]")
{
    const auto named = [](std::string_view hold, Rate rate) {
        const Project p = made_up(30, *parse_hold(hold), rate);
        const auto found = even_rate(p, p.shot(first_shot));
        return found ? found->text() : "none";
    };
    CHECK(named("0.1s", Rate(24)) == "30");  // 0.1 * 30 = 3; 0.1 * 25 = 2.5
    CHECK(named("0.15s", Rate(30)) == "60"); // 0.15 * 60 = 9
    CHECK(named("1/8s", Rate(30)) == "24");
    CHECK(named("1/9s", Rate(24)) == "none");
    // Lengths and rates whose product is no fraction of 64 bits are no whole frames, and no failure.
    const Seconds fine{Fraction(4'611'686'018'427'387'847, 4'611'686'018'427'387'903)};
    const Project odd = made_up(3, fine, *parse_rate("30000/1001"));
    CHECK_FALSE(even_rate(odd, odd.shot(first_shot)));
    CHECK(named("0.1s", Rate(30)) == "none"); // it is even
    CHECK(named("2f", Rate(24)) == "none");
    Project mixed = made_up(30, Frames{2});
    const Project between =
        set_between(set_hold(mixed, first_shot, all(mixed), *parse_hold("0.1s")), first_shot, Between::mix);
    CHECK_FALSE(even_rate(between, between.shot(first_shot)));
    mixed = set_paced_at(mixed, first_shot, Rate(10));           // of 2 frames at 10 fps: 0.2 s
    CHECK(even_rate(mixed, mixed.shot(first_shot)) == Rate(25)); // 0.2 * 25 = 5, nearer than 30
}

}
