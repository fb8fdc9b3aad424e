// What an export will take, said before, against what it took.
#include "core/base/shared_cache.h"
#include "core/export/estimate.h"
#include "core/export/format.h"
#include "core/project/edits.h"
#include "core/steps/pace/pace_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

/// A thing goes over a real scene, under noise; each photo is held for a frame or three.
Project some_project(const std::filesystem::path& folder, int photos)
{
    auto shot = std::make_shared<Shot>();
    shot->name = "Quay";
    const cv::Mat scene = real_scene()(cv::Rect(30, 40, 320, 240));
    for (int i = 0; i < photos; ++i) {
        cv::Mat picture = scene.clone(), noise(picture.size(), CV_8UC3);
        cv::theRNG().state = std::uint64_t(i) + 7;
        cv::randn(noise, 4, 4);
        cv::subtract(picture, noise, picture);
        cv::circle(picture, {20 + i * 280 / photos, 120 + i % 9}, 24, {40, 60, 200}, cv::FILLED, cv::LINE_AA);
        const auto file = folder / ("quay_" + std::to_string(1000 + i) + ".png");
        cv::imwrite(file.native(), picture);
        shot->photos.push_back({.photo = scanned(file), .hold = Frames{i % 4 == 0 ? 3 : 1}});
    }
    give_ids(*shot);
    Project p;
    p.delivered_at = Rate(12);
    p.shots = {shot};
    return p;
}

/// Of this process: others may be estimating too.
std::size_t left_over()
{
    const std::string mine = '.' + std::to_string(::getpid()) + '.';
    std::size_t n = 0;
    for (const auto& e : std::filesystem::directory_iterator(std::filesystem::temp_directory_path()))
        n += e.path().filename().native().find("frenlo-estimate") != std::string::npos &&
             e.path().filename().native().find(mine) != std::string::npos;
    return n;
}

}

TEST_CASE("what a file will take is said from a few pictures, within a quarter", "[export][estimate]")
{
    TempFolder t;
    std::filesystem::create_directories(t / "photos");
    const Project p = some_project(t / "photos", 64);
    const std::size_t before = left_over();
    struct Row
    {
        const char* preset;
        const char* name;
        int pictures;
    };
    for (const auto& [preset, name, pictures] :
         {Row{"film", "f.mp4", 48}, Row{"film-h265", "f.mp4", 48}, Row{"edit-lossless", "f.mkv", 48},
          Row{"loop", "f.gif", 32}, Row{"loop-webp", "f.webp", 32}, Row{"stills-jpeg", "f_%04d.jpg", 32}}) {
        CAPTURE(preset);
        ExportOrder order;
        order.file = t / "out" / name;
        order.preset = *find_preset(preset);
        SharedCache memory(64u << 20);
        const ExportEstimate estimate = estimate_export(p, order, Originals(&memory), Job());
        CHECK(estimate.pictures == pictures);
        CHECK(estimate.seconds > 0);
        CHECK_FALSE(std::filesystem::exists(t / "out")); // it was only asked
        const ExportReport report = run_export(p, order, Originals(), Job());
        CHECK(double(estimate.bytes) == Approx(double(report.bytes)).epsilon(0.25));
        std::filesystem::remove_all(t / "out");
    }
    CHECK(left_over() == before);
}

TEST_CASE("a short film is written whole to know what it takes", "[export][estimate]")
{
    TempFolder t;
    std::filesystem::create_directories(t / "photos");
    const Project p = some_project(t / "photos", 9);
    ExportOrder order;
    // To the byte: of the same pictures libx264 writes others about once in a thousand times.
    order.file = t / "f.mkv";
    order.preset = *find_preset("edit-lossless");
    const ExportEstimate estimate = estimate_export(p, order, Originals(), Job());
    CHECK(estimate.pictures == 9);
    CHECK(estimate.bytes == run_export(p, order, Originals(), Job()).bytes);
}

TEST_CASE("an estimate is stopped, gets over a photo that cannot be read, and tells of too little room",
          "[export][estimate][bad]")
{
    TempFolder t;
    std::filesystem::create_directories(t / "photos");
    const Project p = some_project(t / "photos", 60);
    ExportOrder order;
    order.file = t / "f.mp4";
    order.preset = *find_preset("film");
    const std::size_t before = left_over();
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(estimate_export(p, order, Originals(), Job(stop.get_token(), [](double, std::string_view) {})),
                    Stopped);
    CHECK(left_over() == before);
    const std::string usual = std::filesystem::temp_directory_path().native();
    ::setenv("TMPDIR", (t / "nowhere").c_str(), 1);
    CHECK_THROWS_WITH(estimate_export(p, order, Originals(), Job()), Catch::Contains("Set TMPDIR"));
    ::setenv("TMPDIR", usual.c_str(), 1);
    write_bytes(p.shot(first).photos[20].photo->file, "gone");
    const ExportEstimate estimate = estimate_export(p, order, Originals(), Job());
    CHECK(estimate.bytes > 1000);

    ExportPlan plan = plan_export(p, order);
    CHECK(plan.problems.empty());
    plan.free_bytes = estimate.bytes - 1;
    const ExportPlan told = with_estimate(plan, order, estimate);
    CHECK(told.estimated_bytes == estimate.bytes);
    REQUIRE(told.problems.size() == 1);
    CHECK(told.problems[0].what.find("will be needed") != std::string::npos);
    CHECK(with_estimate(told, order, {.bytes = 10, .seconds = 1, .pictures = 1}).problems.empty());
    order.preset.most_bytes = 5000;
    CHECK(with_estimate(plan, order, estimate).estimated_bytes == 5000);
}

}
