// Taking photos: live pictures through the window's own parts, from the key to the disk beside a bare write and sync,
// a series by the machine's clock, noise of averages.
#include "app/steps/shoot/live_view.h"
#include "bench/longest_block.h"
#include "bench/measure.h"
#include "core/camera/simulated_camera.h"
#include "core/source/decode.h"
#include "core/steps/shoot/averaging.h"
#include "core/steps/shoot/series.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>
#include <QtTest/QTest>

#include <algorithm>
#include <cmath>
#include <fcntl.h>
#include <iostream>
#include <unistd.h>

namespace frenlo::bench {

using test::TempFolder;

namespace {

double middle(std::vector<double> values)
{
    std::sort(values.begin(), values.end());
    return values.empty() ? 0 : values[values.size() / 2];
}

QImage image_of(int seed)
{
    const cv::Mat m = test::painted({1280, 720}, seed);
    return QImage(m.data, m.cols, m.rows, qsizetype(m.step), QImage::Format_BGR888)
        .convertToFormat(QImage::Format_RGB32);
}

void live_pictures(const char* what, const app::LiveLook& look)
{
    app::Background background;
    app::CameraDesk desk(background);
    app::LiveView view(desk);
    view.resize(1304, 760);
    view.set_photos({image_of(1), image_of(2), image_of(3)});
    view.set_look(look);
    view.show();
    std::vector<double> delays;
    QObject::connect(&view, &app::LiveView::painted, &view, [&] {
        delays.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - desk.live().arrived).count());
    });
    desk.open("test-pictures:1280x720");
    if (!QTest::qWaitFor([&] { return delays.size() > 10; }, 10'000)) {
        std::cout << "  no live pictures came\n";
        return;
    }
    LongestBlock block;
    delays.clear();
    constexpr int ms = 5000;
    QTest::qWait(ms);
    std::cout << "  " << what << ": " << double(delays.size()) * 1000 / ms << " a second (of 30; aim: 25 at least), "
              << middle(delays) * 30 << " frames from the camera to the screen (aim: 2 at most), longest block "
              << block << " (aim: 50 at most)\n";
}

/// A still camera that has its photo at once.
class FileCamera : public Camera
{
public:
    explicit FileCamera(std::string file) : file_(std::move(file)) {}
    [[nodiscard]] std::string name() const override { return "File"; }
    [[nodiscard]] std::vector<CameraSetting> settings() override { return {}; }
    void set(const std::string&, double) override {}
    void set_automatic(const std::string&, bool) override {}
    [[nodiscard]] cv::Mat live(std::chrono::milliseconds) override { return {}; }
    [[nodiscard]] TakenPicture take() override { return {{}, file_, ".jpg", {}}; }

private:
    std::string file_;
};

void write_and_sync(const std::filesystem::path& file, const std::string& bytes)
{
    const int f = ::open(file.c_str(), O_WRONLY | O_CREAT | O_TRUNC, 0644);
    if (::write(f, bytes.data(), bytes.size()) != ssize_t(bytes.size()) || ::fsync(f) != 0)
        std::cout << "  a file could not be written\n";
    ::close(f);
}

void key_to_disk()
{
    TempFolder t;
    cv::Mat large;
    cv::resize(test::real_scene(), large, {6000, 4000}, 0, 0, cv::INTER_CUBIC);
    large = test::with_noise(large, 4, 3);
    FileCamera camera(encode_jpeg(large, 92));
    const std::string bytes = camera.take().file;
    MachineClock clock;
    PhotoFolder folder(t / "photos", "p");
    PhotoTaker taker(camera, folder, clock);
    std::vector<double> ours, bare;
    for (int i = 0; i < 15; ++i) {
        bare.push_back(seconds([&] { write_and_sync(t / ("bare" + std::to_string(i)), bytes); }));
        ours.push_back(taker.take({}, {}).safe_after);
    }
    std::cout << "  a camera's JPEG of 24 megapixels, " << bytes.size() / 1'000'000 << " MB: safe after "
              << middle(ours) * 1000 << " ms, written and synced bare " << middle(bare) * 1000 << " ms: beside that "
              << (middle(ours) - middle(bare)) * 1000 << " ms (aim: 300 at most)\n";
    SimulatedCamera pictures;
    PhotoTaker second(pictures, folder, clock);
    std::vector<double> png, jpeg;
    for (int i = 0; i < 9; ++i) {
        png.push_back(second.take({}, {}).safe_after);
        jpeg.push_back(second.take({.format = TakenFormat::jpeg}, {}).safe_after);
    }
    std::cout << "  a picture of 1920x1080 as PNG " << middle(png) * 1000 << " ms, as JPEG " << middle(jpeg) * 1000
              << " ms, exposing and coding with it\n";
}

void by_the_clock(bool quick)
{
    TempFolder t;
    MachineClock clock;
    PhotoFolder folder(t.path(), "p");
    SeriesCamera camera;
    camera.camera = open_camera("simulated:640x360");
    const std::int64_t photos = quick ? 10 : 60;
    const double every = quick ? 0.5 : 2;
    std::vector<double> asked;
    SeriesNews news;
    news.taken = [&](const TakenPhoto& p, std::int64_t) { asked.push_back(p.asked_at); };
    const SeriesResult result = take_series(camera, {.count = photos, .every = every}, folder, clock, news, {});
    double worst = 0;
    for (std::size_t i = 0; i < asked.size(); ++i)
        worst = std::max(worst, std::abs(asked[i] - asked.front() - every * double(i)));
    std::cout << "  " << result.photos << " photos, one every " << every << " s: each within " << worst * 1000
              << " ms of its time (aim: 20), " << result.missed << " missed\n";
}

}

void bench_shoot(bool quick)
{
    std::cout << "taking photos\n";
    using Over = app::LiveLook::Over;
    live_pictures("live alone", {.over = Over::nothing});
    live_pictures("three photos through it", {.over = Over::seen_through, .photos = 3});
    live_pictures("what differs", {.over = Over::difference});
    live_pictures("three photos, clipped, histogram, magnifier, grid", {.over = Over::seen_through,
                                                                        .photos = 3,
                                                                        .grid = true,
                                                                        .rulers = true,
                                                                        .clipped = true,
                                                                        .histogram = true,
                                                                        .magnifier = true});
    key_to_disk();
    by_the_clock(quick);
}

}
