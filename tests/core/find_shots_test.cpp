// Cards with known truth: where shots begin and end, and where they must not.
#include "core/base/text.h"
#include "core/source/decode.h"
#include "core/source/names.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/sort/rhythm.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>

#include <random>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

using Ends = std::vector<std::pair<std::string, std::string>>;

ScanResult scan_card(const TempFolder& t, const ScanOptions& options = {})
{
    const std::array places{t.path()};
    return scan(places, options, {});
}

/// First and last file of each shot found.
Ends ends_of(const ScanResult& r)
{
    Ends ends;
    for (const auto& s : r.shots)
        ends.emplace_back(r.photos[s.begin].photo->file.filename(), r.photos[s.end - 1].photo->file.filename());
    return ends;
}

bool has(const ScanResult& r, FindingKind kind, const std::string& file)
{
    return std::any_of(r.findings.begin(), r.findings.end(),
                       [&](const Finding& f) { return f.kind == kind && f.files.front().filename() == file; });
}

/// The intervals of somebody who moves things by hand: seconds, irregular.
class ByHand
{
public:
    double operator()() { return std::exp(interval_(random_)); }

private:
    std::mt19937 random_{7};
    std::normal_distribution<double> interval_{std::log(15.0), 0.5};
};

std::string number(int n)
{
    std::array<char, 24> name{};
    std::snprintf(name.data(), name.size(), "HARB%04d.JPG", n);
    return name.data();
}

}

TEST_CASE("a full card is sorted into its shots, with roll-over, markers, strays and a broken file", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 9940);
    ByHand by_hand;
    Ends truth;
    const auto shot = [&](int count, const std::function<cv::Mat(int)>& picture,
                          const std::function<double()>& interval, double before) {
        std::string first, last;
        for (int i = 0; i < count; ++i) {
            last = card.shoot(picture(i), i == 0 ? before : interval()).filename();
            first = i == 0 ? last : first;
        }
        truth.emplace_back(first, last);
    };
    card.shoot(scene(90), 5); // two trials
    card.shoot(scene(91), 9);
    card.shoot(hand(1), 12);
    shot(
        26, [](int i) { return hand_moved(1, i); }, [&] { return by_hand(); }, 14);
    card.shoot(cloth({40, 60, 190}, 1), 11);
    shot(
        36, [](int i) { return sunset(2, i / 35.0); }, [] { return 20.0; }, 60); // the counter rolls over in it
    shot(
        30, [](int i) { return clouds(3, i); }, [] { return 10.0; }, 15 * 60);
    card.shoot(slate(4), 30);
    card.shoot(slate(4), 3);
    const int broken = card.next_number() + 7;
    shot(
        22, [](int i) { return hand_moved(4, i); }, [&] { return by_hand(); }, 20);
    const auto damaged = t / "100HARBO" / number(broken);
    write_bytes(damaged, read_bytes(damaged).substr(0, 9000));
    shot(
        20, [](int i) { return by_lamp(5, i >= 9); }, [&] { return by_hand(); }, 25 * 60);
    card.shoot(hand(7), 8);
    shot(
        24, [](int i) { return walked(6, i); }, [&] { return 3 + by_hand() / 8; }, 40);

    const auto looking = GENERATE(Looking::at_thumbnails, Looking::at_photos);
    const ScanResult r = scan_card(t, {.looking = looking});
    CAPTURE(shown_pause(r.pause.value.approx()));
    CHECK(ends_of(r) == truth);
    CHECK(r.marker_cards.size() == 5); // hand, cloth, the slate twice, hand
    CHECK(r.aside.size() == 2 + 5 + 1);
    CHECK(has(r, FindingKind::unreadable, number(broken)));
    CHECK(has(r, FindingKind::order_disagrees, "HARB0001.JPG"));
    CHECK_FALSE(has(r, FindingKind::number_missing, number(broken - 1)));
    REQUIRE(r.shots.size() == 6);
    CHECK(r.shots[0].kind == ShotKind::hand_moved);
    CHECK(r.shots[1].kind == ShotKind::time_lapse);
    CHECK(r.shots[2].kind == ShotKind::time_lapse);
    CHECK(r.shots[3].kind == ShotKind::hand_moved);
    CHECK(r.shots[4].kind == ShotKind::hand_moved);
    CHECK(r.shots[5].kind == ShotKind::walked);
    CHECK(r.shots[0].reason == "after a marker card");
    CHECK(r.shots[2].reason == "new scene after 15 min");
}

TEST_CASE("light that changes, clouds, a flash and a covered lens split nothing", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    ByHand by_hand;
    const bool thumbnails = GENERATE(true, false);
    if (!thumbnails)
        card.without_thumbnails();
    SECTION("a sunset")
    {
        for (int i = 0; i < 40; ++i)
            card.shoot(sunset(3, i / 39.0), 30);
    }
    SECTION("clouds, each photo another sky")
    {
        for (int i = 0; i < 40; ++i)
            card.shoot(clouds(5, 3 * i), 45);
    }
    SECTION("a lamp switched on and off")
    {
        for (int i = 0; i < 40; ++i)
            card.shoot(by_lamp(7, i > 10 && i < 25), by_hand());
    }
    SECTION("a flash, an over-exposed photo and a covered lens")
    {
        for (int i = 0; i < 40; ++i) {
            cv::Mat m = hand_moved(9, i);
            if (i == 12)
                m = exposed(m, 2);
            if (i == 20)
                m = exposed(m, 9);
            if (i == 28)
                m = cv::Mat(m.size(), CV_8UC3, cv::Scalar(6, 6, 6));
            card.shoot(m, by_hand());
        }
    }
    SECTION("intervals of ten minutes")
    {
        for (int i = 0; i < 30; ++i)
            card.shoot(clouds(5, i), 600);
    }
    SECTION("a subject that fills a third of the frame and jumps")
    {
        for (int i = 0; i < 30; ++i) {
            cv::Mat m = scene(11);
            cv::rectangle(m, {30 + i * 97 % 280, 20, 170, 290}, cv::Scalar(60, 150, 90), cv::FILLED);
            card.shoot(m, by_hand());
        }
    }
    const ScanResult r = scan_card(t);
    CHECK(r.shots.size() == 1);
    CHECK(r.marker_cards.empty());
    CHECK(r.aside.empty());
}

TEST_CASE("outliers of exposure are suggested, the steps and slopes of a scene are not", "[shots][suspects]")
{
    TempFolder t;
    Card card(t / "s", "HARB", 1);
    for (int i = 0; i < 30; ++i) {
        cv::Mat m = by_lamp(7, i > 20);
        card.shoot(i == 8 ? exposed(m, 1.6) : i == 14 ? exposed(m, -1.8) : m, 20);
    }
    const ScanResult r = scan_card(t);
    std::vector<std::string> files;
    for (const auto& f : r.findings)
        if (f.kind == FindingKind::exposure_differs)
            files.push_back(f.files.front().filename());
    CHECK(files == std::vector<std::string>{"HARB0009.JPG", "HARB0015.JPG"});
}

TEST_CASE("a blurred photo is suggested, the others are not", "[shots][suspects]")
{
    TempFolder t;
    Card card(t / "s", "HARB", 1);
    for (int i = 0; i < 16; ++i) {
        cv::Mat m = hand_moved(2, i);
        if (i == 6)
            cv::GaussianBlur(m, m, {}, 2.5);
        card.shoot(m, 20);
    }
    const ScanResult r = scan_card(t, {.looking = Looking::at_photos});
    CHECK(has(r, FindingKind::blurred, "HARB0007.JPG"));
    CHECK(std::count_if(r.findings.begin(), r.findings.end(),
                        [](const Finding& f) { return f.kind == FindingKind::blurred; }) == 1);
}

TEST_CASE("a break ends no shot where the scene goes on, unless the user says that such a pause does", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    ByHand by_hand;
    for (int i = 0; i < 40; ++i)
        card.shoot(hand_moved(1, i), i == 19 ? 47 * 60 : by_hand());
    CHECK(ends_of(scan_card(t)) == Ends{{number(1), number(40)}});
    const ScanResult told = scan_card(t, {.pause = Seconds{Fraction(1800)}});
    CHECK(ends_of(told) == Ends{{number(1), number(19)}, {number(20), number(40)}});
    CHECK(told.shots[1].reason == "after a pause of 47 min");
    // Where the pictures are not looked at, the clock is all there is.
    CHECK(scan_card(t, {.looking = Looking::at_headers}).shots.size() == 2);
    CHECK(scan_card(t, {.looking = Looking::at_headers, .pause = Seconds{Fraction(3600)}}).shots.size() == 1);
    CHECK(scan_card(t, {.pause = Seconds{Fraction(1800)}, .one_shot = true}).shots.size() == 1);
}

TEST_CASE("two scenes without a pause between them are two shots, and strays in any number are none", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    for (int i = 0; i < 5; ++i)
        card.shoot(scene(60 + i), 4);
    for (int i = 0; i < 12; ++i)
        card.shoot(hand_moved(1, i), 10);
    for (int i = 0; i < 10; ++i)
        card.shoot(hand_moved(2, i), 10);
    for (int i = 0; i < 7; ++i)
        card.shoot(scene(70 + i), 5);
    for (int i = 0; i < 14; ++i)
        card.shoot(walked(6, i), 3);
    const ScanResult r = scan_card(t);
    CHECK(ends_of(r) == Ends{{number(6), number(17)}, {number(18), number(27)}, {number(35), number(48)}});
    CHECK(r.shots[1].reason == "new scene");
    CHECK(r.shots[2].reason == "after photos of something else");
    CHECK(r.aside.size() == 5 + 7);
}

TEST_CASE("a card before the same scene ends a shot, an arm that reaches in is suggested", "[shots][suspects]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    for (int i = 0; i < 24; ++i) {
        cv::Mat m = hand_moved(1, i);
        if (i == 8) { // a sleeve from the left, a hand at its end
            cv::line(m, {-20, 160}, {150, 190}, cv::Scalar(40, 30, 35), 56, cv::LINE_AA);
            cv::circle(m, {170, 195}, 32, cv::Scalar(140, 170, 215), cv::FILLED, cv::LINE_AA);
        }
        if (i == 16) // a board that fills the frame but for its border
            cv::rectangle(m, {30, 20, 420, 280}, cv::Scalar(118, 118, 118), cv::FILLED);
        card.shoot(m, 10);
    }
    const ScanResult r = scan_card(t);
    CHECK(ends_of(r) == Ends{{number(1), number(16)}, {number(18), number(24)}});
    CHECK(r.marker_cards == std::vector<std::size_t>{16});
    CHECK(has(r, FindingKind::unlike, number(9)));
}

TEST_CASE("a bracket is one moment: the middle exposure is shown, the others are kept beside it", "[shots][bracket]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    std::vector<std::filesystem::path> files;
    for (int i = 0; i < 12; ++i)
        files.push_back(card.shoot(i == 6   ? exposed(hand_moved(1, 5), -2)
                                   : i == 7 ? exposed(hand_moved(1, 5), 2)
                                            : hand_moved(1, i),
                                   i == 6 || i == 7 ? 0.5 : 12));
    for (std::size_t i = 0; i < files.size(); ++i) // ISO 2720: two stops are a factor of four
        output_of("exiftool -q -overwrite_original -n -FNumber=8 -ISO=100 -ExposureTime=" +
                  std::string(i == 6   ? "0.005"
                              : i == 7 ? "0.08"
                                       : "0.02") +
                  ' ' + quoted(files[i].native()));
    const ScanResult r = scan_card(t);
    REQUIRE(ends_of(r) == Ends{{number(1), number(12)}});
    CHECK(r.left_out == std::vector<std::size_t>{6, 7});
    CHECK(has(r, FindingKind::bracket, number(6)));
    CHECK(r.aside == r.left_out);

    // Merged on request: the dark parts from the long exposure, the bright ones from the short one.
    const auto finding = std::find_if(r.findings.begin(), r.findings.end(),
                                      [](const Finding& f) { return f.kind == FindingKind::bracket; });
    REQUIRE(finding != r.findings.end());
    CHECK(finding->remedies == std::vector<Remedy>{Remedy::merge});
    const Project project = add_scanned({}, r, std::nullopt, Division::one_shot, "s");
    const Project merged = apply_remedy(project, ShotIndex(0), *finding, Remedy::merge);
    CHECK(is_resolved(merged.shot(ShotIndex(0)), *finding));
    const auto at = std::find_if(merged.shot(ShotIndex(0)).photos.begin(), merged.shot(ShotIndex(0)).photos.end(),
                                 [](const ShotPhoto& p) { return !p.photo->merged.empty(); });
    REQUIRE(at != merged.shot(ShotIndex(0)).photos.end());
    REQUIRE(at->photo->merged.size() == 2);
    PhotoFile alone = *at->photo;
    alone.merged.clear();
    const cv::Mat all = decode(*at->photo)->pixels, one = decode(alone)->pixels;
    REQUIRE(all.depth() == CV_16U);
    CHECK(all.size() == one.size());
    const auto shares = [](const cv::Mat& m, double most) { // of pixels that are nearly black or white
        cv::Mat grey, ends;
        cv::cvtColor(m, grey, cv::COLOR_BGR2GRAY);
        cv::inRange(grey, 0.02 * most, 0.98 * most, ends);
        return 1 - double(cv::countNonZero(ends)) / double(grey.total());
    };
    CHECK(shares(all, 65'535) <= shares(one, 255));
    CHECK(cv::mean(all)[1] / 257 == Approx(cv::mean(one)[1]).margin(45));
    std::filesystem::remove(at->photo->merged.back());
    const auto missing = decode(*at->photo);
    REQUIRE_FALSE(missing);
    CHECK(missing.error().file == at->photo->merged.back());
}

TEST_CASE("copies are told and in no film, wherever they lie and whatever they are called", "[shots][copies]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    std::vector<std::filesystem::path> files;
    for (int i = 0; i < 10; ++i)
        files.push_back(card.shoot(hand_moved(1, i), 10));
    std::filesystem::create_directories(t / "101HARBO");
    std::filesystem::copy(files[3], t / "100HARBO" / "HARB0004(1).JPG");
    std::filesystem::copy(files[5], t / "100HARBO" / "HARB0006 - copy.JPG");
    std::filesystem::copy(files[7], t / "101HARBO" / "safe.JPG");
    const ScanResult r = scan_card(t);
    REQUIRE(r.shots.size() == 1);
    std::set<std::string> aside;
    for (const std::size_t i : r.aside)
        aside.insert(r.photos[i].photo->file.filename());
    CHECK(aside == std::set<std::string>{"HARB0004(1).JPG", "HARB0006 - copy.JPG",
                                         "HARB0008.JPG"}); // the shorter name is the photo's own
    CHECK(has(r, FindingKind::copy, "HARB0004.JPG"));
    CHECK(std::count_if(r.findings.begin(), r.findings.end(),
                        [](const Finding& f) { return f.kind == FindingKind::copy; }) == 3);
    CHECK(std::none_of(r.findings.begin(), r.findings.end(),
                       [](const Finding& f) { return f.kind == FindingKind::number_repeated; }));
}

TEST_CASE("two cameras whose photos interleave are two shots, and a clock that was set back is told",
          "[shots][cameras]")
{
    TempFolder t;
    {
        Card one(t / "DCIM" / "100HARBO", "HARB", 1), two(t / "DCIM" / "100HARBO", "PIER", 500);
        two.change_camera("Harbour Two");
        for (int i = 0; i < 12; ++i) {
            one.shoot(hand_moved(1, i), 10);
            two.shoot(hand_moved(2, i), 10.5);
            if (i == 6)
                one.change_folder(t / "DCIM" / "101HARBO"); // the other camera's photos lie between, by name
        }
    }
    const ScanResult r = scan_card(t);
    CHECK(ends_of(r) == Ends{{number(1), number(12)}, {"PIER0500.JPG", "PIER0511.JPG"}});
    TempFolder back;
    Card card(back / "100HARBO", "HARB", 1);
    for (int i = 0; i < 12; ++i)
        card.shoot(hand_moved(1, i), i == 7 ? 12 - 3600 : 12);
    const ScanResult set_back = scan_card(back);
    CHECK(ends_of(set_back) == Ends{{number(1), number(12)}});
    CHECK(has(set_back, FindingKind::order_disagrees, number(7)));
}

TEST_CASE("names of date and time are no counters, and what is no photo is named once", "[shots][names]")
{
    struct Row
    {
        const char* name;
        bool time;
    };
    for (const Row& row :
         {Row{"20310412_101501.jpg", true}, Row{"IMG_20260503_104211_01.jpg", true}, Row{"20260503104211.jpg", true},
          Row{"P1010001.JPG", false}, Row{"20261303_104211.jpg", false}, Row{"DSC09999.JPG", false},
          Row{"scan_123456789012345.jpg", false}, Row{"20260503.jpg", false}}) {
        CAPTURE(row.name);
        CHECK(names_a_time(row.name) == row.time);
    }
    TempFolder t;
    Card card(t / "100HARBO", "P", 1019996); // over the turn of the last four digits: P1019999, P1010001
    for (int i = 0; i < 4; ++i)
        card.shoot(hand_moved(1, i), 10);
    Card after(t / "100HARBO", "P", 1010001);
    for (int i = 4; i < 10; ++i)
        after.shoot(hand_moved(1, i), i == 4 ? 60 : 10);
    write_bytes(t / "notes.txt", "f/8");
    write_bytes(t / "100HARBO" / "CLIP.MOV", "film");
    write_bytes(t / "100HARBO" / "P1010002.xmp", "<x/>"); // belongs to its photo
    const ScanResult r = scan_card(t);
    CHECK(ends_of(r) == Ends{{"P1019996.JPG", "P1010006.JPG"}});
    CHECK(std::none_of(r.findings.begin(), r.findings.end(),
                       [](const Finding& f) { return f.kind == FindingKind::number_missing; }));
    const auto others = std::find_if(r.findings.begin(), r.findings.end(),
                                     [](const Finding& f) { return f.kind == FindingKind::not_a_photo; });
    REQUIRE(others != r.findings.end());
    CHECK(others->files.size() == 2);
}

TEST_CASE("a marker between two takes of the same scene separates them", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    ByHand by_hand;
    for (int i = 0; i < 15; ++i)
        card.shoot(hand_moved(1, i), by_hand());
    card.shoot(cloth({170, 120, 30}, 2), by_hand());
    for (int i = 0; i < 12; ++i)
        card.shoot(hand_moved(1, i), by_hand());
    CHECK(ends_of(scan_card(t)) == Ends{{number(1), number(15)}, {number(17), number(28)}});
}

TEST_CASE(
    "a shot goes on from one folder of the camera to the next, while people's folders and other cameras are shots",
    "[shots]")
{
    TempFolder t;
    Card card(t / "DCIM" / "100HARBO", "HARB", 9990);
    for (int i = 0; i < 20; ++i) {
        if (i == 10)
            card.change_folder(t / "DCIM" / "101HARBO");
        card.shoot(hand_moved(1, i), 15);
    }
    CHECK(ends_of(scan_card(t)) == Ends{{number(9990), number(10)}});
    card.change_camera("Harbour Two");
    for (int i = 0; i < 8; ++i)
        card.shoot(hand_moved(1, i), 15);
    const ScanResult two = scan_card(t);
    REQUIRE(two.shots.size() == 2);
    CHECK(two.shots[1].reason == "another camera");

    TempFolder named;
    write_run(named / "boat", "x", 5);
    write_run(named / "sea", "x", 2, {60, 40});
    const ScanResult r = scan_card(named);
    REQUIRE(r.shots.size() == 2);
    CHECK(r.shots[0].name == "boat");
    CHECK(r.shots[1].reason == "one folder");
}

TEST_CASE("runs of numbers in one folder are shots, a clock in the name is no run", "[shots]")
{
    TempFolder t;
    write_run(t.path(), "ferry", 6);
    write_run(t.path(), "sprout", 7);
    CHECK(scan_card(t).shots.size() == 2);
    TempFolder clock;
    for (int i = 0; i < 8; ++i) {
        std::array<char, 64> name{}, time{};
        std::snprintf(name.data(), name.size(), "IMG_202605%02d_%06d.jpg", i < 4 ? 3 : 4, i < 4 ? 235956 + i : i - 4);
        std::snprintf(time.data(), time.size(), "2026:05:%02d %02d:%02d:%02d", i < 4 ? 3 : 4, i < 4 ? 23 : 0,
                      i < 4 ? 59 : 0, i < 4 ? 56 + i : i - 4);
        write_jpeg(clock / name.data(), hand_moved(1, i), ExifWish{time.data(), "", 1, true});
    }
    CHECK(scan_card(clock).shots.size() == 1);
}

TEST_CASE("what the user tied is respected by every search", "[shots]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 1);
    for (int i = 0; i < 30; ++i)
        card.shoot(hand_moved(1, i), i == 10 || i == 20 ? 1800 : 15);
    const ScanResult r = scan_card(t, {.looking = Looking::at_headers});
    REQUIRE(r.shots.size() == 3);
    std::vector<Candidate> photos;
    for (const auto& p : r.photos)
        photos.push_back({p.photo, true});
    ShotSearchOptions options;
    options.overrides.assign(30, GroupingOverride::none);
    options.overrides[10] = GroupingOverride::stays;
    options.overrides[15] = GroupingOverride::starts;
    options.overrides[29] = GroupingOverride::loose;
    const auto found = find_shots(photos, options).shots;
    REQUIRE(found.size() == 3);
    CHECK(found[0].end == 15);
    CHECK(found[1].reason == "set by hand");
    CHECK(found[1].end == 20);
    CHECK(found[2].end == 29);
}

TEST_CASE("the pause that ends a shot follows the rhythm of the photos", "[shots][rhythm]")
{
    const auto gaps_of = [](const std::vector<double>& seconds) {
        return std::vector<std::optional<double>>(seconds.begin(), seconds.end());
    };
    std::vector<double> regular_ones(40, 10.0);
    regular_ones[20] = 100;
    CHECK(pauses(gaps_of(regular_ones), pause_for(gaps_of(regular_ones))) == std::vector<std::size_t>{20});
    ByHand by_hand;
    std::vector<double> irregular;
    for (int i = 0; i < 400; ++i)
        irregular.push_back(by_hand());
    CHECK(pauses(gaps_of(irregular), pause_for(gaps_of(irregular))).empty());
    irregular[200] = 900;
    CHECK(pauses(gaps_of(irregular), pause_for(gaps_of(irregular))) == std::vector<std::size_t>{200});
    CHECK(pauses(gaps_of(irregular), {Fraction(1000)}).empty());
    CHECK(*regular(gaps_of(std::vector<double>{60, 59, 61, 60, 60, 180, 60, 60})));
    CHECK_FALSE(*regular(gaps_of(irregular)));
    CHECK(shown_pause(95) == "95 s");
    CHECK(shown_pause(900) == "15 min");
    CHECK(shown_pause(9000) == "2 h 30 min");
}

}
