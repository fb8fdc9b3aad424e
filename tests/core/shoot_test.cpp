// Taking photos: averages, brackets, series by the clock, what moved, marks on a path, and what of it goes into a
// project. Times are those of a clock that tests set.
#include "core/camera/simulated_camera.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/transfer.h"
#include "core/steps/shoot/averaging.h"
#include "core/steps/shoot/path_marks.h"
#include "core/steps/shoot/series.h"
#include "core/steps/shoot/shoot_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
using frenlo::test::TempFolder;

namespace {

/// A clock that goes on when somebody waits for it, and whose hands can be moved.
class TestClock : public SeriesClock
{
public:
    [[nodiscard]] double steady() const override { return now; }
    [[nodiscard]] std::int64_t wall() const override { return 1'790'000'000'000'000 + std::llround((now + set) * 1e6); }
    void wait_until(double steady, const std::stop_token&) override { now = std::max(now, steady); }

    double now = 1000;
    double set = 0; ///< by how much the hands were moved
};

/// A camera that takes so long, and fails when it is told to.
class TestCamera : public Camera
{
public:
    explicit TestCamera(TestClock& clock, cv::Size size = {64, 48}) : clock_(clock), size_(size) {}
    [[nodiscard]] std::string name() const override { return "Test"; }
    [[nodiscard]] std::vector<CameraSetting> settings() override
    {
        return {{"exposure", "Shutter time", SettingKind::exposure, exposure, 0.001, 1, 0, "s", {}, false}};
    }
    void set(const std::string&, double value) override
    {
        if (keeps_exposure && value == 0.01)
            throw Failure({"it is busy", {}, ""});
        exposure = value;
    }
    void set_automatic(const std::string&, bool) override {}
    [[nodiscard]] cv::Mat live(std::chrono::milliseconds) override { return {}; }
    [[nodiscard]] TakenPicture take() override
    {
        asked.push_back(clock_.now);
        clock_.now += takes;
        if (fails.contains(int(asked.size())))
            camera_gone("Test", "pulled off");
        TakenPicture t;
        t.pixels = test::painted(size_, int(asked.size()));
        t.exposure.seconds = Fraction(std::lround(exposure * 1e6), 1'000'000);
        return t;
    }

    double takes = 0.1;
    bool keeps_exposure = false; ///< cannot be set back
    double exposure = 0.01;
    std::set<int> fails;
    std::vector<double> asked;

private:
    TestClock& clock_;
    cv::Size size_;
};

/// Keeps the camera for the test while a series has it.
struct Lent : Camera
{
    explicit Lent(Camera& c) : camera(c) {}
    [[nodiscard]] std::string name() const override { return camera.name(); }
    [[nodiscard]] std::vector<CameraSetting> settings() override { return camera.settings(); }
    void set(const std::string& k, double v) override { camera.set(k, v); }
    void set_automatic(const std::string& k, bool on) override { camera.set_automatic(k, on); }
    [[nodiscard]] cv::Mat live(std::chrono::milliseconds p) override { return camera.live(p); }
    [[nodiscard]] TakenPicture take() override { return camera.take(); }
    Camera& camera;
};

SeriesCamera lent(Camera& camera)
{
    SeriesCamera c;
    c.camera = std::make_unique<Lent>(camera);
    c.open_again = [&camera] { return std::make_unique<Lent>(camera); };
    return c;
}

cv::Mat pixels_of(const PhotoPtr& photo)
{
    return value_or_throw(decode(*photo)).pixels;
}

double noise_against(const cv::Mat& photo, const cv::Mat& truth)
{
    cv::Mat3f codes;
    photo.convertTo(codes, CV_32F, photo.depth() == CV_16U ? 255.0 / 65535 : 1);
    double sum = 0, squares = 0;
    std::int64_t n = 0;
    const cv::Mat3f exact = truth;
    for (int y = 0; y < codes.rows; ++y)
        for (int x = 0; x < codes.cols; ++x)
            for (int c = 0; c < 3; ++c) {
                if (exact(y, x)[c] < 20 || exact(y, x)[c] > 230)
                    continue;
                const double d = double(codes(y, x)[c]) - double(exact(y, x)[c]);
                sum += d;
                squares += d * d;
                ++n;
            }
    const double mean = sum / double(n);
    return std::sqrt(squares / double(n) - mean * mean);
}

}

TEST_CASE("a photo is on disk with its Exif when it is taken, under the next free number", "[shoot]")
{
    const TempFolder t;
    test::write_bytes(t / "pim_0007.png", "somebody's");
    TestClock clock;
    TestCamera camera(clock);
    PhotoFolder folder(t.path(), "pim");
    PhotoTaker taker(camera, folder, clock);
    const TakenPhoto photo = taker.take({}, {});
    CHECK(photo.photo->file == t / "pim_0008.png");
    CHECK(photo.photo->size == cv::Size(64, 48));
    CHECK(photo.photo->camera == "Test");
    REQUIRE(photo.photo->captured);
    CHECK(photo.photo->captured->text() == CaptureTime{clock.wall() - 100'000}.text()); // when it was asked for
    CHECK(photo.photo->exposure.seconds == Fraction(1, 100));
    CHECK(cv::norm(pixels_of(photo.photo), test::painted({64, 48}, 1), cv::NORM_INF) == 0);
    CHECK(test::read_bytes(t / "pim_0007.png") == "somebody's");
    const TakenPhoto jpeg = taker.take({.format = TakenFormat::jpeg}, {});
    CHECK(jpeg.photo->file == t / "pim_0009.jpg");
    CHECK(jpeg.photo->captured == CaptureTime{clock.wall() - 100'000});
    const TakenPhoto trial = taker.take({.trial = true}, {});
    CHECK(trial.photo->file == t / "pim_0010_trial.png");
    CHECK(trial.how.trial);
}

TEST_CASE("names of folders' photos", "[shoot]")
{
    CHECK(stem_of("Paper ferry, take 2") == "paper-ferry-take-2");
    CHECK(stem_of("Über/den..Fluss") == "Über-den-fluss");
    CHECK(stem_of("///") == "photo");
    CHECK_THROWS_AS(PhotoFolder("/proc/nowhere/at/all", "x"), Failure);
}

TEST_CASE("the mean of N photos has less noise by the root of N, and says so", "[shoot][average]")
{
    const int n = GENERATE(2, 4, 7, 16);
    SimulatedCameraWays ways;
    double time = 50;
    ways.seconds = [&] { return time; };
    ways.still = {480, 270};
    ways.seed = unsigned(n);
    SimulatedCamera camera(ways);
    lock_all(camera);
    camera.set("exposure", 1.0 / 50);
    camera.set("gain", 8);
    camera.set("exposure", 1.0 / 200 * 2);
    camera.set("gain", 4);
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < n; ++i)
        pictures.push_back(camera.take().pixels);
    const cv::Mat truth = camera.without_noise();
    const Averaged mean = averaged(pictures);
    CHECK(mean.pixels.type() == CV_16UC3);
    const double before = noise_against(pictures.front(), truth), after = noise_against(mean.pixels, truth);
    CAPTURE(n, before, after);
    CHECK(before / after == Approx(std::sqrt(double(n))).epsilon(0.05));
    CHECK(mean.noise_gain == Approx(std::sqrt(double(n))).epsilon(0.05));
}

TEST_CASE("an average is the mean of light, not of codes", "[shoot][average]")
{
    const std::vector<cv::Mat> two{cv::Mat(4, 4, CV_8UC3, cv::Scalar::all(0)),
                                   cv::Mat(4, 4, CV_8UC3, cv::Scalar::all(255))};
    const Averaged mean = averaged(two);
    CHECK(mean.pixels.at<cv::Vec3w>(1, 1)[1] == Approx(encoded_of(0.5) * 65535).margin(1));
    const Averaged one = averaged(std::vector<cv::Mat>{two.back()});
    CHECK(one.noise_gain == 1);
    CHECK(one.pixels.at<cv::Vec3w>(1, 1)[1] == 65535);
}

TEST_CASE("a bracket is one photo and its versions, and leaves the camera as it was", "[shoot]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock);
    PhotoFolder folder(t.path(), "b");
    PhotoTaker taker(camera, folder, clock);
    const TakenPhoto photo = taker.take({.bracket = {-2, 0, 2}}, {});
    CHECK(photo.photo->file == t / "b_0001_+0.png");
    CHECK(photo.photo->exposure.seconds == Fraction(1, 100));
    REQUIRE(photo.versions.size() == 2);
    CHECK(photo.versions[0].first->file == t / "b_0001_-2.png");
    CHECK(photo.versions[0].first->exposure.seconds == Fraction(1, 400));
    CHECK(photo.versions[1].second.stops == 2);
    CHECK(camera.exposure == 0.01);
    CHECK(taker.take({}, {}).photo->file == t / "b_0002.png");
}

TEST_CASE("a bracket whose exposure cannot be set back keeps its photos, and says so", "[shoot]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock);
    camera.keeps_exposure = true;
    PhotoFolder folder(t.path(), "b");
    PhotoTaker taker(camera, folder, clock);
    const TakenPhoto photo = taker.take({.bracket = {-1, 1}}, {});
    CHECK(photo.versions.size() == 1);
    REQUIRE_FALSE(photo.remarks.empty());
    CHECK_THAT(photo.remarks.back(), Catch::Contains("could not be set back") && Catch::Contains("busy"));
}

TEST_CASE("shutter times of cameras' lists", "[shoot]")
{
    CHECK(shutter_seconds("1/60") == Approx(1.0 / 60));
    CHECK(shutter_seconds("0.5") == Approx(0.5));
    CHECK(shutter_seconds("2\"") == Approx(2));
    CHECK_FALSE(shutter_seconds("bulb"));
    CHECK_FALSE(shutter_seconds("1/0"));
    CHECK_FALSE(shutter_seconds(""));
}

TEST_CASE("a series keeps its times: nothing adds up over 500 photos", "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    camera.takes = 0.7;
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    std::int64_t taken = 0;
    SeriesNews news;
    news.taken = [&](const TakenPhoto&, std::int64_t number) { taken = number; };
    const SeriesResult result = take_series(c, {.count = 500, .every = 2, .delay = 3}, folder, clock, news, {});
    CHECK(taken == 500);
    CHECK(result.photos == 500);
    CHECK(result.missed == 0);
    for (std::size_t i = 0; i < camera.asked.size(); ++i)
        REQUIRE(std::abs(camera.asked[i] - (1000 + 3 + 2 * double(i))) < 1e-6);
}

TEST_CASE("a camera that is too slow for the series misses times, and the others stay where they are",
          "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    camera.takes = 2.5;
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    std::vector<std::string> told;
    SeriesNews news;
    news.told = [&](const std::string& text) { told.push_back(text); };
    const SeriesResult result = take_series(c, {.count = 10, .every = 1}, folder, clock, news, {});
    CHECK(result.photos + result.missed == 10);
    CHECK(result.missed >= 5);
    CHECK(result.latest < 1);
    CHECK(clock.now < 1000 + 10 + 2.5);
    REQUIRE_FALSE(told.empty());
    CHECK_THAT(told.back(), Catch::Contains("no photo was taken"));
}

TEST_CASE("a camera that is gone in mid-series is opened anew, and what was taken stays", "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    camera.fails = {4, 5};
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    std::vector<std::string> told;
    SeriesNews news;
    news.told = [&](const std::string& text) { told.push_back(text); };
    const SeriesResult result = take_series(c, {.count = 10, .every = 5}, folder, clock, news, {});
    CHECK(result.photos == 8);
    CHECK(result.missed == 2);
    CHECK(result.ended.empty());
    CHECK(std::count_if(told.begin(), told.end(),
                        [](const std::string& s) { return s.find("opened again") != s.npos; }) == 1);
    CHECK(std::distance(std::filesystem::directory_iterator(t.path()), {}) == 8);
}

TEST_CASE("a series ends after ten failures in a row, and says why", "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    for (int i = 2; i < 100; ++i)
        camera.fails.insert(i);
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    const SeriesResult result = take_series(c, {.count = 50, .every = 1}, folder, clock, {}, {});
    CHECK(result.photos == 1);
    CHECK(camera.asked.size() == 11);
    CHECK_THAT(result.ended, Catch::Contains("does not answer any more"));
    // Without times between them, too.
    TestClock second;
    TestCamera other(second, {16, 12});
    other.fails = camera.fails;
    PhotoFolder there(t.path(), "u");
    SeriesCamera d = lent(other);
    CHECK(take_series(d, {.count = 50}, there, second, {}, {}).photos == 1);
}

TEST_CASE("when somebody sets the clock, photos keep their order and their distance", "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    std::vector<CaptureTime> times;
    std::vector<std::string> told;
    SeriesNews news;
    news.told = [&](const std::string& text) { told.push_back(text); };
    news.taken = [&](const TakenPhoto& p, std::int64_t number) {
        times.push_back(*p.photo->captured);
        if (number == 3)
            clock.set = -3600;
    };
    (void)take_series(c, {.count = 6, .every = 10}, folder, clock, news, {});
    REQUIRE(times.size() == 6);
    for (std::size_t i = 1; i < times.size(); ++i)
        CHECK(times[i].microseconds - times[i - 1].microseconds == Approx(10'000'000).margin(1));
    CHECK(std::count_if(told.begin(), told.end(), [](const std::string& s) { return s.find("-3600 s") != s.npos; }) ==
          1);
}

TEST_CASE("a series that is stopped ends at once, and the last photo is whole", "[shoot][series]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera camera(clock, {16, 12});
    PhotoFolder folder(t.path(), "s");
    SeriesCamera c = lent(camera);
    std::stop_source stop;
    SeriesNews news;
    news.taken = [&](const TakenPhoto&, std::int64_t number) {
        if (number == 4)
            stop.request_stop();
    };
    const SeriesResult result = take_series(c, {.every = 1}, folder, clock, news, Job(stop.get_token()));
    CHECK(result.photos == 4);
    for (const auto& e : std::filesystem::directory_iterator(t.path()))
        CHECK(inspect(e.path()).state == PhotoState::fine);
}

TEST_CASE("another size and a black picture are told", "[shoot]")
{
    const TempFolder t;
    TestClock clock;
    TestCamera small(clock, {64, 48}), large(clock, {96, 64});
    PhotoFolder folder(t.path(), "s");
    PhotoTaker taker(small, folder, clock);
    CHECK(taker.take({}, {}).remarks.empty());
    taker.use(large);
    const TakenPhoto other = taker.take({}, {});
    REQUIRE(other.remarks.size() == 1);
    CHECK_THAT(other.remarks.front(), Catch::Contains("96 × 64 instead of 64 × 48"));
    CHECK_FALSE(other.how.moved);
    CHECK(is_black(cv::Mat(60, 80, CV_8UC3, cv::Scalar::all(1))));
    CHECK_FALSE(is_black(test::painted({80, 60}, 3)));
}

TEST_CASE("how long the disk will do", "[shoot]")
{
    SpaceWatch watch;
    CHECK_FALSE(watch.photos_left(1000));
    for (int i = 0; i < 20; ++i)
        watch.wrote(10.0 * i, 5'000'000);
    CHECK(*watch.seconds_left(3'600'000'000) == Approx(3'600'000'000 / (5'000'000.0 / 10)));
    CHECK(*watch.photos_left(50'000'000) == 10);
    CHECK(*watch.seconds_left(1'000'000'000) < SpaceWatch::warn_seconds);
}

TEST_CASE("what moved between two photos is told from a camera that was knocked, and from the light",
          "[shoot][movement]")
{
    SimulatedCameraWays ways;
    double time = 10;
    ways.seconds = [&] { return time; };
    ways.still = {1280, 720};
    SimulatedCamera camera(ways);
    lock_all(camera);
    camera.set("exposure", 1.0 / 50);
    camera.set("focus", 0.55);
    const auto photo = [&](const Pose& pose) {
        camera.set_pose(pose);
        return camera.take().pixels;
    };
    Pose pose;
    const SmallPhoto first = small_photo(photo(pose));

    const auto same = movement_between(first, small_photo(photo(pose)));
    REQUIRE(same);
    CHECK(cv::norm(same->camera) < 0.3);
    CHECK(news_of(*same, {}, 1280) == MovementNews::nothing_moved);

    Pose raised = pose;
    raised.degrees[Pose::right_arm] -= 6;
    const auto moved = movement_between(first, small_photo(photo(raised)));
    CHECK(news_of(*moved, {}, 1280) == MovementNews::as_before);
    CHECK(moved->changed > 0.0005);
    CHECK(moved->changed < 0.05);
    CHECK(cv::norm(moved->camera) < 0.5);

    cv::Mat knocked;
    const cv::Point2d by(3.5, -2);
    cv::warpAffine(photo(raised), knocked, cv::Matx23d(1, 0, by.x, 0, 1, by.y), {1280, 720}, cv::INTER_CUBIC,
                   cv::BORDER_REFLECT);
    const auto camera_moved = movement_between(first, small_photo(knocked));
    CHECK(camera_moved->camera.x == Approx(by.x).margin(0.4));
    CHECK(camera_moved->camera.y == Approx(by.y).margin(0.4));
    CHECK(news_of(*camera_moved, {}, 1280) == MovementNews::camera_moved);

    camera.set("gain", camera.settings()[1].value * 1.3);
    const auto brighter = movement_between(first, small_photo(photo(raised)));
    CHECK(brighter->light > 0.15);
    CHECK(news_of(*brighter, {}, 1280) == MovementNews::light_changed);

    const std::vector<SetMovement> small_steps(4, SetMovement{.changed = 0.01, .subject = 4});
    CHECK(news_of({.changed = 0.01, .subject = 30}, small_steps, 1280) == MovementNews::too_far);
    CHECK(news_of({.changed = 0.01, .subject = 9}, small_steps, 1280) == MovementNews::as_before);
    CHECK_FALSE(movement_between(first, small_photo(cv::Mat(10, 10, CV_8UC3, cv::Scalar(1, 2, 3)))));
}

TEST_CASE("how far what moved has moved", "[shoot][movement]")
{
    // A textured patch that goes a known way over a textured ground.
    const cv::Mat ground = test::painted({640, 360}, 3), patch = test::real_scene()({200, 200, 90, 90});
    const auto photo = [&](int x) {
        cv::Mat p = ground.clone();
        patch.copyTo(p({x, 120, 90, 90}));
        return small_photo(p);
    };
    const int way = GENERATE(3, 6, 12);
    const auto moved = movement_between(photo(200), photo(200 + way));
    CHECK(moved->subject == Approx(way).epsilon(0.35));
    CHECK(cv::norm(moved->camera) < 0.2);
}

TEST_CASE("marks on a path: one a photo, both ends, eased, even where they are not", "[shoot][paths]")
{
    MarkPath path{{{0.1, 0.5}, {0.9, 0.5}}, 4, 8, Ease::none};
    const auto even = marks_of(path);
    REQUIRE(even.size() == 9);
    for (std::size_t i = 0; i < even.size(); ++i)
        CHECK(even[i].x == Approx(0.1 + 0.8 * double(i) / 8));
    path.ease = Ease::both;
    const auto soft = marks_of(path);
    CHECK(soft[1].x - soft[0].x < even[1].x - even[0].x);
    CHECK(soft[4].x == Approx(0.5));
    CHECK(*mark_at(path, 4) == soft.front());
    CHECK(*mark_at(path, 12) == soft.back());
    CHECK_FALSE(mark_at(path, 3));
    CHECK_FALSE(mark_at(path, 13));
}

TEST_CASE("a path goes through its points, and its even marks are as far apart along it", "[shoot][paths]")
{
    const unsigned seed = GENERATE(1U, 2U, 3U, 4U, 5U);
    cv::RNG random(seed);
    MarkPath path{{}, 0, 60, Ease::none};
    for (int i = 0; i < 6; ++i)
        path.points.emplace_back(random.uniform(0.0, 1.0), random.uniform(0.0, 1.0));
    const auto curve = curve_of(path);
    for (const auto& p : path.points) {
        double nearest = 9;
        for (const auto& c : curve)
            nearest = std::min(nearest, cv::norm(c - p));
        CHECK(nearest < 1e-9);
    }
    const auto marks = marks_of(path);
    CHECK(cv::norm(marks.front() - path.points.front()) < 1e-9);
    CHECK(cv::norm(marks.back() - path.points.back()) < 1e-9);
    double length = 0;
    for (std::size_t i = 1; i < curve.size(); ++i)
        length += cv::norm(curve[i] - curve[i - 1]);
    for (std::size_t i = 1; i < marks.size(); ++i)
        CHECK(cv::norm(marks[i] - marks[i - 1]) <= length / 60 + 1e-9); // a chord is no longer than its arc
}

TEST_CASE("paths are kept with the shot", "[shoot][paths]")
{
    Shot s;
    s.name = "Pim";
    s.photos.push_back(ShotPhoto{.photo = std::make_shared<PhotoFile>()});
    Project p = add_shot({}, s);
    p = add_path(p, ShotIndex(0), {{{0, 0}, {1, 1}}, -3, 0, Ease::in});
    const auto& path = p.shot(ShotIndex(0)).steps.find<PathMarks>()->paths.at(0);
    CHECK(path.first == 0);
    CHECK(path.steps == 1);
    CHECK_THROWS_AS(add_path(p, ShotIndex(0), {{{0, 0}}}), Failure);
    p = change_path(p, ShotIndex(0), 0, {{{0, 0}, {1, 1}}, 2, 5, Ease::out});
    CHECK(p.shot(ShotIndex(0)).steps.find<PathMarks>()->paths[0].steps == 5);
    p = remove_path(p, ShotIndex(0), 0);
    CHECK_FALSE(p.shot(ShotIndex(0)).steps.find<PathMarks>());
}

namespace {

TakenPhoto taken(int number, bool trial = false)
{
    auto file = std::make_shared<PhotoFile>();
    file->file = "/set/pim_" + std::to_string(number) + ".png";
    file->size = {1920, 1080};
    TakenPhoto t;
    t.photo = file;
    t.how.trial = trial;
    return t;
}

std::vector<std::string> film(const Project& p)
{
    std::vector<std::string> names;
    for (const ShotPhoto& photo : p.shots.at(0)->photos)
        names.push_back(photo.photo->file.stem().string() + (photo.aside ? " aside" : ""));
    return names;
}

}

TEST_CASE("photos that are taken go into the film where they are wanted", "[shoot][edits]")
{
    ShotId shot{};
    Project p = add_taken({}, taken(1), {}, "Pim walks", shot);
    REQUIRE(p.shots.size() == 1);
    CHECK(p.shots[0]->name == "Pim walks");
    CHECK(p.shots[0]->photos[0].hold == Hold(Frames{2}));
    CHECK(p.shots[0]->id == shot);
    p = add_taken(p, taken(2), {.shot = shot, .hold = Frames{3}}, "x", shot);
    p = add_taken(p, taken(3, true), {.shot = shot}, "x", shot);
    CHECK(film(p) == std::vector<std::string>{"pim_1", "pim_2", "pim_3 aside"});
    CHECK(p.shots[0]->photos[1].hold == Hold(Frames{3}));
    const auto last = last_taken(*p.shots[0]);
    CHECK(last == p.shots[0]->photos[1].id);
    // Behind a photo, and in place of one: the old one stays, aside, with the hold handed on.
    p = add_taken(p, taken(4), {.shot = shot, .behind = p.shots[0]->photos[0].id}, "x", shot);
    CHECK(film(p) == std::vector<std::string>{"pim_1", "pim_4", "pim_2", "pim_3 aside"});
    p = add_taken(p, taken(5), {.shot = shot, .behind = last, .in_place_of = true, .hold = Frames{9}}, "x", shot);
    CHECK(film(p) == std::vector<std::string>{"pim_1", "pim_4", "pim_5", "pim_2 aside", "pim_3 aside"});
    CHECK(p.shots[0]->photos[2].hold == Hold(Frames{3}));
    std::set<std::uint64_t> ids;
    for (const ShotPhoto& photo : p.shots[0]->photos)
        CHECK(ids.insert(photo.id.value).second);
    // A photo that is gone by now, and a shot that is: neither loses what was taken.
    p = add_taken(p, taken(6), {.shot = shot, .behind = PhotoId{12345}}, "x", shot);
    CHECK(film(p).back() == "pim_6");
    p = add_taken(remove_shot(p, ShotIndex(0)), taken(7), {.shot = shot}, "Pim walks", shot);
    REQUIRE(p.shots.size() == 1);
    CHECK(film(p) == std::vector<std::string>{"pim_7"});
}

TEST_CASE("other exposures of a bracket lie aside behind their photo", "[shoot][edits]")
{
    TakenPhoto t = taken(1);
    t.versions = {{taken(2).photo, TakenHere{.stops = -2}}, {taken(3).photo, TakenHere{.stops = 2}}};
    ShotId shot{};
    const Project p = add_taken({}, t, {}, "Pim", shot);
    CHECK(film(p) == std::vector<std::string>{"pim_1", "pim_2 aside", "pim_3 aside"});
    CHECK(p.shots[0]->photos[2].steps.find<TakenHere>()->stops == 2);
    CHECK(photos_a_second(Frames{2}, Rate(24)) == "12 a second");
}

TEST_CASE("the film that photos follow is kept with their shot, and found again where the project was moved to",
          "[shoot][document]")
{
    const TempFolder t;
    std::filesystem::create_directories(t / "a" / "films");
    write_picture(t / "a" / "films" / "walk.png", painted({40, 30}, 1));
    write_picture(t / "a" / "p.png", painted({40, 30}, 2));
    Shot shot;
    shot.name = "s";
    shot.photos.push_back({scanned(t / "a" / "p.png"), Frames{1}});
    give_ids(shot);
    Project p;
    p.shots.push_back(std::make_shared<const Shot>(shot));
    CHECK(followed_film(p.shot(ShotIndex(0))).empty());
    p = follow_film(p, ShotIndex(0), t / "a" / "films" / "walk.png");
    CHECK(followed_film(p.shot(ShotIndex(0))) == t / "a" / "films" / "walk.png");
    save_new_project(p, t / "a" / "p.frenlo");
    CHECK(read_bytes(t / "a" / "p.frenlo").find("\"films/walk.png\"") != std::string::npos);
    CHECK(load_project(t / "a" / "p.frenlo").project == p);
    std::filesystem::rename(t / "a", t / "b");
    CHECK(followed_film(load_project(t / "b" / "p.frenlo").project.shot(ShotIndex(0))) ==
          t / "b" / "films" / "walk.png");
    // What is no text there is no path.
    std::string odd = read_bytes(t / "b" / "p.frenlo");
    odd.replace(odd.find("\"films/walk.png\""), 16, "7");
    write_bytes(t / "b" / "odd.frenlo", odd);
    CHECK_THROWS_AS(load_project(t / "b" / "odd.frenlo"), Failure);
    CHECK(follow_film(p, ShotIndex(0), {}).shot(ShotIndex(0)).steps.find<FollowedFilm>() == nullptr);
}

}
