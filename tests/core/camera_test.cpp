// Cameras behind one interface: a simulated one, video devices with faked controls and FFmpeg's own test pictures, and
// a still camera whose driver is built with the tests.
#include "core/camera/camera.h"
#include "core/camera/gphoto2_camera.h"
#include "core/camera/simulated_camera.h"
#include "core/camera/video_camera.h"
#include "core/source/transfer.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>

#include <cerrno>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <ctime>
#include <fstream>
#include <linux/videodev2.h>
#include <map>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {
using frenlo::test::TempFolder;
using std::chrono::milliseconds;

namespace {

/// Seconds that a test sets.
struct Time
{
    double now = 100;
    SimulatedCameraWays ways()
    {
        SimulatedCameraWays w;
        w.seconds = [this] { return now; };
        return w;
    }
};

CameraSetting setting(Camera& camera, const std::string& key)
{
    for (const CameraSetting& s : camera.settings())
        if (s.key == key)
            return s;
    FAIL("no setting " << key);
    return {};
}

double mean_of(const cv::Mat& m)
{
    const cv::Scalar s = cv::mean(m);
    return (s[0] + s[1] + s[2]) / 3;
}

/// What a device's driver keeps of a control.
struct FakeControl
{
    std::uint32_t type;
    std::string name;
    std::int64_t least, most, step, value;
    std::vector<std::pair<std::int64_t, std::string>> menu{};
    std::uint32_t flags = 0;
};

/// A Video4Linux device that is not there.
struct FakeDevice
{
    std::map<std::uint32_t, FakeControl> controls{
        {V4L2_CID_BRIGHTNESS, {V4L2_CTRL_TYPE_INTEGER, "Brightness", -64, 64, 1, 0}},
        {V4L2_CID_AUTO_WHITE_BALANCE, {V4L2_CTRL_TYPE_BOOLEAN, "White Balance, Automatic", 0, 1, 1, 1}},
        {V4L2_CID_WHITE_BALANCE_TEMPERATURE,
         {V4L2_CTRL_TYPE_INTEGER, "White Balance Temperature", 2800, 6500, 10, 4600}},
        {V4L2_CID_GAIN, {V4L2_CTRL_TYPE_INTEGER, "Gain", 0, 255, 1, 64}},
        {V4L2_CID_POWER_LINE_FREQUENCY,
         {V4L2_CTRL_TYPE_MENU, "Power Line Frequency", 0, 2, 1, 1, {{0, "Disabled"}, {1, "50 Hz"}, {2, "60 Hz"}}}},
        {V4L2_CID_EXPOSURE_AUTO,
         {V4L2_CTRL_TYPE_MENU, "Auto Exposure", 0, 3, 1, 3, {{1, "Manual Mode"}, {3, "Aperture Priority Mode"}}}},
        {V4L2_CID_EXPOSURE_ABSOLUTE, {V4L2_CTRL_TYPE_INTEGER, "Exposure Time, Absolute", 3, 2047, 1, 166}},
        {V4L2_CID_FOCUS_ABSOLUTE, {V4L2_CTRL_TYPE_INTEGER, "Focus, Absolute", 0, 255, 5, 30}},
        {V4L2_CID_ZOOM_ABSOLUTE, {V4L2_CTRL_TYPE_INTEGER, "Zoom, Absolute", 1, 1, 1, 1, {}, V4L2_CTRL_FLAG_READ_ONLY}},
    };
    int error = 0; ///< of every call from now on

    int call(unsigned long request, void* argument)
    {
        if (error != 0)
            return error;
        if (request == VIDIOC_QUERY_EXT_CTRL) {
            auto* q = static_cast<v4l2_query_ext_ctrl*>(argument);
            const auto it = controls.upper_bound(q->id & ~(V4L2_CTRL_FLAG_NEXT_CTRL | V4L2_CTRL_FLAG_NEXT_COMPOUND));
            if (it == controls.end())
                return EINVAL;
            const FakeControl& c = it->second;
            *q = {};
            q->id = it->first;
            q->type = c.type;
            std::strncpy(q->name, c.name.c_str(), sizeof q->name - 1);
            q->minimum = c.least;
            q->maximum = c.most;
            q->step = std::uint64_t(c.step);
            q->flags = c.flags;
            return 0;
        }
        if (request == VIDIOC_QUERYMENU) {
            auto* m = static_cast<v4l2_querymenu*>(argument);
            for (const auto& [number, name] : controls.at(m->id).menu)
                if (number == std::int64_t(m->index)) {
                    std::strncpy(reinterpret_cast<char*>(m->name), name.c_str(), sizeof m->name - 1);
                    return 0;
                }
            return EINVAL;
        }
        auto* all = static_cast<v4l2_ext_controls*>(argument);
        REQUIRE(all->count == 1);
        FakeControl& c = controls.at(all->controls->id);
        if (request == VIDIOC_G_EXT_CTRLS) {
            all->controls->value = std::int32_t(c.value);
            return 0;
        }
        REQUIRE(request == VIDIOC_S_EXT_CTRLS);
        if (all->controls->value < c.least || all->controls->value > c.most)
            return ERANGE;
        c.value = all->controls->value;
        return 0;
    }
};

VideoControls controls_of(FakeDevice& device)
{
    return {[&device](unsigned long request, void* argument) { return device.call(request, argument); }, "A camera"};
}

const CameraSetting& named(const std::vector<CameraSetting>& all, const std::string& key)
{
    for (const CameraSetting& s : all)
        if (s.key == key)
            return s;
    FAIL("no setting " << key);
    return all.front();
}

/// FFmpeg's test pictures in time, as a camera gives them.
VideoInput test_pictures(const std::string& size = "320x180")
{
    return {"lavfi", "testsrc2=size=" + size + ":rate=50,realtime"};
}

}

TEST_CASE("a simulated camera changes by itself until it is locked", "[camera]")
{
    Time time;
    SimulatedCamera camera(time.ways());
    REQUIRE(automatic_settings(camera.settings()).size() == 4);
    std::vector<double> loose, locked;
    const auto look = [&](std::vector<double>& means) {
        for (int i = 0; i < 12; ++i) {
            time.now += 3;
            means.push_back(mean_of(camera.take().pixels));
        }
        const auto [least, most] = std::minmax_element(means.begin(), means.end());
        return *most - *least;
    };
    const double drift = look(loose);
    lock_all(camera);
    CHECK(automatic_settings(camera.settings()).empty());
    camera.set("exposure", 1.0 / 50); // a whole number of the lamp's half waves
    const double still = look(locked);
    CHECK(drift > 4);
    CHECK(still < 0.5);
}

TEST_CASE("the lamp's mains are seen at a shutter time that is no multiple of 1/100 s", "[camera]")
{
    Time time;
    SimulatedCamera camera(time.ways());
    lock_all(camera);
    const auto spread = [&](double shutter) {
        camera.set("exposure", shutter);
        camera.set("gain", 2 * 0.02 / shutter);
        double least = 1e9, most = 0;
        for (int i = 0; i < 20; ++i) {
            time.now += 0.1037;
            const double m = mean_of(camera.live(milliseconds(0)));
            least = std::min(least, m);
            most = std::max(most, m);
        }
        return most - least;
    };
    CHECK(spread(1.0 / 100) < 1);
    CHECK(spread(1.0 / 50) < 1);
    CHECK(spread(1.0 / 130) > 3);
}

TEST_CASE("exposure of a simulated camera is linear: a stop is a stop", "[camera]")
{
    Time time;
    SimulatedCamera camera(time.ways());
    lock_all(camera);
    camera.set("white-balance", 3200);
    camera.set("exposure", 1.0 / 100);
    camera.set("gain", 1);
    const auto linear = [&] {
        const cv::Mat codes = camera.without_noise();
        double sum = 0;
        for (int y = 0; y < codes.rows; y += 8)
            for (int x = 0; x < codes.cols; x += 8)
                sum += linear_of(codes.at<cv::Vec3f>(y, x)[1] / 255.0);
        return sum;
    };
    const double one = linear();
    camera.set("exposure", 1.0 / 50);
    CHECK(std::log2(linear() / one) == Approx(1).margin(0.01)); // nothing is clipped that dark
}

TEST_CASE("limbs are pulled to where the hand goes, and the rest stays", "[camera]")
{
    Pose pose;
    const auto joint = GENERATE(Pose::left_hand, Pose::right_hand, Pose::left_foot, Pose::right_foot, Pose::head);
    const cv::Point2d hand = end_of(pose, joint);
    REQUIRE(part_at(pose, hand));
    const cv::Point2d to = hand + cv::Point2d(0.03, -0.04);
    const Pose moved = pulled(pose, joint, to);
    int differ = 0;
    for (std::size_t j = 0; j < moved.degrees.size(); ++j)
        differ += moved.degrees[j] != pose.degrees[j] ? 1 : 0;
    CHECK(differ == 1);
    // It points to the hand: what is left of the way is along the limb.
    const cv::Point2d now = end_of(moved, joint);
    CHECK(cv::norm(now - to) < cv::norm(hand - to));
    CHECK_FALSE(part_at(pose, {0.05, 0.05}));
}

TEST_CASE("pulling is done in shares of the picture, and what is pulled stays in the hand", "[camera]")
{
    Time time;
    SimulatedCamera camera(time.ways());
    const double wide = 1280.0 / 720;
    const cv::Point2d end = end_of(camera.pose(), Pose::right_hand);
    cv::Point2d at(end.x / wide, end.y);
    REQUIRE(camera.pull(at, at));
    for (int i = 0; i < 10; ++i) {
        const cv::Point2d next = at + cv::Point2d(-0.004, -0.01);
        CHECK(camera.pull(at, next));
        at = next;
    }
    const Pose usual;
    for (const auto j : {Pose::left_hand, Pose::right_arm, Pose::head, Pose::body})
        CHECK(camera.pose().degrees[j] == usual.degrees[j]);
    CHECK(camera.pose().degrees[Pose::right_hand] != usual.degrees[Pose::right_hand]);
    CHECK_FALSE(camera.pull({0.02, 0.02}, {0.1, 0.1}));
}

TEST_CASE("addresses of cameras", "[camera]")
{
    CHECK(open_camera("simulated")->name() == "Simulated camera");
    CHECK(open_camera("simulated:640x360")->take().pixels.size() == cv::Size(640, 360));
    CHECK_THROWS_WITH(open_camera("pinhole"), Catch::Contains("pinhole") && Catch::Contains("v4l2:DEVICE"));
    CHECK_THROWS_AS(open_camera("simulated:fast"), Failure);
    CHECK_THROWS_AS(open_camera("v4l2:/dev/null"), Failure);
    CHECK_THROWS_AS(open_camera("v4l2:/nowhere/video9"), Failure);
    CHECK(found_cameras().back().address == "simulated");
}

TEST_CASE("settings as people read them", "[camera]")
{
    CHECK(setting_text({"a", "", SettingKind::exposure, 1.0 / 60, 0, 1, 0, "s", {}, {}}) == "1/60 s");
    CHECK(setting_text({"a", "", SettingKind::exposure, 0.5, 0, 1, 0, "s", {}, {}}) == "0.5 s");
    CHECK(setting_text({"a", "", SettingKind::white_balance, 3200, 0, 1e4, 0, "K", {}, {}}) == "3200 K");
    CHECK(setting_text({"a", "", SettingKind::mains, 1, 0, 2, 0, "", {"off", "50 Hz"}, {}}) == "50 Hz");
}

TEST_CASE("controls of a video device become settings", "[camera][v4l2]")
{
    FakeDevice device;
    VideoControls controls = controls_of(device);
    const auto all = controls.settings();
    REQUIRE(all.size() == 6); // without the read-only one, and those that make others automatic
    const CameraSetting& shutter = named(all, "shutter-time");
    CHECK(shutter.value == Approx(166 * 1e-4)); // counted in 100 µs
    CHECK(shutter.automatic == true);
    CHECK(named(all, "white-balance").automatic == true);
    CHECK_FALSE(named(all, "gain").automatic.has_value());
    CHECK(named(all, "mains").choices == std::vector<std::string>{"Disabled", "50 Hz", "60 Hz"});
    CHECK(named(all, "mains").value == 1);
}

TEST_CASE("setting a video device's control makes it manual, at what it is", "[camera][v4l2]")
{
    FakeDevice device;
    VideoControls controls = controls_of(device);
    controls.set("shutter-time", 1.0 / 50);
    CHECK(device.controls[V4L2_CID_EXPOSURE_AUTO].value == V4L2_EXPOSURE_MANUAL);
    CHECK(device.controls[V4L2_CID_EXPOSURE_ABSOLUTE].value == 200);
    controls.set("shutter-time", 99); // beyond what it can
    CHECK(device.controls[V4L2_CID_EXPOSURE_ABSOLUTE].value == 2047);
    controls.set_automatic("shutter-time", true);
    CHECK(device.controls[V4L2_CID_EXPOSURE_AUTO].value == V4L2_EXPOSURE_APERTURE_PRIORITY); // it has no full automatic
    device.controls[V4L2_CID_WHITE_BALANCE_TEMPERATURE].value = 3333;
    controls.set_automatic("white-balance", false);
    CHECK(device.controls[V4L2_CID_AUTO_WHITE_BALANCE].value == 0);
    CHECK(device.controls[V4L2_CID_WHITE_BALANCE_TEMPERATURE].value == 3333);
    controls.set("mains", 2);
    CHECK(device.controls[V4L2_CID_POWER_LINE_FREQUENCY].value == 2);
    CHECK_THROWS_WITH(controls.set_automatic("gain", true), Catch::Contains("Gain"));
    CHECK_THROWS_WITH(controls.set("zoom", 1), Catch::Contains("zoom"));
}

TEST_CASE("a video device that refuses or is gone says so", "[camera][v4l2]")
{
    FakeDevice device;
    VideoControls controls = controls_of(device);
    device.error = EBUSY;
    CHECK_THROWS_WITH(controls.set("gain", 3), Catch::Contains("refuses") && Catch::Contains("Gain"));
    device.error = ENODEV;
    CHECK_THROWS_WITH(controls.set("gain", 3),
                      Catch::Contains("does not answer any more") && Catch::Contains("are on disk"));
    CHECK_THROWS_AS(controls.settings(), Failure);
}

TEST_CASE("a control that cannot be read just now is not shown, and not set to 0", "[camera][v4l2]")
{
    FakeDevice device;
    const auto hidden = V4L2_CID_EXPOSURE_ABSOLUTE;
    VideoControls controls(
        [&](unsigned long request, void* argument) {
            if (request == VIDIOC_G_EXT_CTRLS && static_cast<v4l2_ext_controls*>(argument)->controls->id == hidden)
                return EACCES;
            return device.call(request, argument);
        },
        "A camera");
    for (const CameraSetting& s : controls.settings())
        CHECK(s.key != "shutter-time");
    controls.set_automatic("shutter-time", false);
    CHECK(device.controls[V4L2_CID_EXPOSURE_AUTO].value == V4L2_EXPOSURE_MANUAL);
    CHECK(device.controls[hidden].value == 166); // as it was
}

TEST_CASE("a device without controls, and one that names them for ever", "[camera][v4l2]")
{
    VideoControls none([](unsigned long, void*) { return ENOTTY; }, "A grabber");
    CHECK(none.settings().empty());
    VideoControls endless(
        [](unsigned long request, void* argument) {
            if (request == VIDIOC_QUERY_EXT_CTRL) {
                auto* q = static_cast<v4l2_query_ext_ctrl*>(argument);
                q->id = V4L2_CID_BRIGHTNESS;
                q->type = V4L2_CTRL_TYPE_INTEGER;
                return 0;
            }
            return 0;
        },
        "A broken one");
    CHECK(endless.settings().size() <= 1000);
}

TEST_CASE("pictures of a video camera come in time, the newest first, and a photo is not an old one", "[camera][v4l2]")
{
    const auto camera = open_video(test_pictures(), "Test pictures", nullptr);
    CHECK(camera->settings().empty());
    const cv::Mat first = camera->live(milliseconds(2000));
    REQUIRE(first.size() == cv::Size(320, 180));
    CHECK(first.type() == CV_8UC3);
    CHECK(camera->live(milliseconds(0)).empty()); // the same one is not handed out twice
    const cv::Mat live = camera->live(milliseconds(2000));
    const cv::Mat photo = camera->take().pixels;
    REQUIRE(photo.size() == live.size());
    CHECK(cv::norm(photo, live, cv::NORM_INF) > 0);
    CHECK_THROWS_AS(camera->set("exposure", 1), Failure);
}

TEST_CASE("a video camera whose pictures end is gone", "[camera][v4l2]")
{
    const auto camera = open_video({"lavfi", "testsrc2=size=64x48:rate=50:duration=0.1"}, "Short", nullptr);
    const auto look = [&] {
        for (int i = 0; i < 100; ++i)
            (void)camera->live(milliseconds(100));
    };
    CHECK_THROWS_WITH(look(), Catch::Contains("Short does not answer any more"));
    CHECK_THROWS_AS(camera->take(), Failure);
    CHECK_THROWS_WITH(open_video({"lavfi", "no such filter"}, "None", nullptr),
                      Catch::Contains("None cannot be opened"));
}

TEST_CASE("a still camera at a cable: settings, live picture, photos, refusal, gone", "[camera][gphoto2]")
{
    ::setenv("CAMLIBS", FRENLO_CAMLIBS, 1);
    const TempFolder t;
    ::setenv("FRENLO_TEST_CAMERA", t.path().c_str(), 1);
    test::write_jpeg(t / "photo.jpg", test::painted({320, 240}, 5), test::ExifWish{"2026:05:03 10:42:11", ""});
    const std::string bytes = test::read_bytes(t / "photo.jpg");
    const std::string port = "disk:" + t.path().string();

    const auto camera = open_still_camera(port);
    CHECK(camera->name() == "Still camera of the tests");
    CHECK(camera->live(milliseconds(0)).size() == cv::Size(320, 240));
    CHECK(setting(*camera, "shutterspeed").automatic == true);
    CHECK(setting(*camera, "whitebalance").automatic == true);
    CHECK_FALSE(setting(*camera, "iso").automatic.has_value());
    camera->set("shutterspeed", 2);
    CHECK(setting_text(setting(*camera, "shutterspeed")) == "1/60");
    CHECK(setting(*camera, "shutterspeed").automatic == false);
    lock_all(*camera);
    CHECK(automatic_settings(camera->settings()).empty());
    CHECK_THROWS_AS(camera->set("zoom", 1), Failure);
    REQUIRE(camera->clock());
    const std::time_t time = 1'790'000'000;
    std::tm local{};
    localtime_r(&time, &local);
    CHECK(camera->clock()->microseconds == (std::int64_t(time) + local.tm_gmtoff) * 1'000'000);

    const TakenPicture photo = camera->take();
    CHECK(photo.file == bytes); // the camera's own file, to the bit
    CHECK(photo.ending == ".jpg");

    test::write_bytes(t / "refuse", "");
    CHECK_THROWS_WITH(camera->take(), Catch::Contains("could not take a photo"));
    std::filesystem::remove(t / "refuse");
    CHECK(camera->take().file == bytes);
    test::write_bytes(t / "gone", "");
    CHECK_THROWS_WITH(camera->take(), Catch::Contains("does not answer any more"));
    CHECK_THROWS_WITH(camera->live(milliseconds(0)), Catch::Contains("does not answer any more"));
    CHECK_THROWS_AS(open_still_camera(port), Failure);
    std::filesystem::remove(t / "gone");
    CHECK(open_still_camera(port)->take().file == bytes); // opened anew
    CHECK_THROWS_WITH(open_still_camera("usb:250,250"), Catch::Contains("usb:250,250"));
}

}
