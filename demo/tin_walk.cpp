// The fourth shot is not painted but taken, with the simulated camera, as Shoot takes photos.
#include "core/camera/simulated_camera.h"
#include "core/project/edits.h"
#include "core/steps/shoot/path_marks.h"
#include "core/steps/shoot/shoot_edits.h"
#include "demo/shots.h"

#include <array>
#include <fstream>

namespace frenlo::demo {

namespace fs = std::filesystem;

namespace {

/// The same afternoon every time: a photo every nine seconds.
class Afternoon : public SeriesClock
{
public:
    [[nodiscard]] double steady() const override { return now; }
    [[nodiscard]] std::int64_t wall() const override
    {
        constexpr std::int64_t begin = 1'777'906'800'000'000; // 2026-05-04T15:00
        return begin + std::int64_t(now * 1e6);
    }
    void wait_until(double until, const std::stop_token&) override { now = until; }

    double now = 0;
};

constexpr int tin_walk_photos = 24, forgotten = 9, quiet = 23;

}

/// Twenty-four photos of the tin figure on twos: one forgot to move and was taken anew, the last is the mean of four.
Project with_tin_walk(const Project& project, const fs::path& folder, const Job& job)
{
    Afternoon clock;
    SimulatedCameraWays ways;
    ways.still = {1600, 900};
    ways.seconds = [&clock] { return clock.now; };
    ways.shot_noise /= 2; // a better camera than the one to try Shoot with
    SimulatedCamera camera(ways);
    lock_all(camera);
    camera.set("exposure", 1.0 / 50);
    camera.set("gain", 2);
    camera.set("white-balance", 3200);
    camera.set("focus", 0.55);
    PhotoFolder place(folder, stem_of("Tin walk"));
    PhotoTaker taker(camera, place, clock);
    Project result = project;
    ShotId shot{};
    bool there = false;
    const auto take = [&](int step, TakenPlace where) {
        job.check();
        clock.now += 9;
        camera.set_pose(walking_pose(step));
        TakeOrder order;
        order.format = TakenFormat::jpeg;
        order.averaged = step == quiet ? 4 : 1;
        const TakenPhoto photo = taker.take(order, {});
        if (there)
            where.shot = shot;
        result = add_taken(result, photo, where, "Tin walk", shot);
        there = true;
        job.report(double(step + 1) / tin_walk_photos, photo.photo->file.filename().string());
    };
    for (int i = 0; i < tin_walk_photos; ++i) {
        take(i == forgotten ? i - 1 : i, {});
        if (i == forgotten)
            take(i, {.behind = last_taken(result.shot(*result.find_shot(shot))), .in_place_of = true});
    }
    const ShotIndex at = *result.find_shot(shot);
    result = add_path(result, at, {{{0.25, 0.62}, {0.45, 0.59}, {0.76, 0.62}}, 0, tin_walk_photos, Ease::none});
    result.reel.left_out.push_back(shot);
    return result;
}

}
