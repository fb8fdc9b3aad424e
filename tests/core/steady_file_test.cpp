// What Steady measured, in the project file: every digit comes back, and what cannot be is refused.
#include "core/project/project_file.h"
#include "core/steps/steady/steady_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>

#include <functional>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
using Json = nlohmann::ordered_json;

namespace {

/// Everything that there is, set.
Project steadied(const std::filesystem::path& folder)
{
    write_run(folder, "s", 2, {64, 48});
    Shot shot;
    shot.name = "s";
    for (int i = 1; i <= 2; ++i) {
        shot.photos.push_back({scanned(folder / ("s_000" + std::to_string(i) + ".jpg")), Frames{1}});
        Alignment a;
        a.from_film = turned_by(0.1 / 3 * i, 1 + 1e-7, {1.0 / 3, -2.0 / 7});
        a.from_before = turned_by(0.2 / 3, 1, {1.0 / 9, 1e-9});
        a.target = cv::Point2d(10.0 / 3, 20.0 / 7);
        a.residual_px = 0.1 / 3;
        a.inliers = 2.0 / 3;
        a.left_px = 1e-3 / 7;
        a.doubt = i == 1 ? "few points agree" : "";
        shot.photos.edit(shot.photos.size() - 1).steps.set(a);
    }
    shot.steps.set(SteadyRegion{{{{0.1, 0.2, 0.3, 0.4}}, {{0.5, 0.25, 1.0 / 3, 0.125}}}});
    Steadying steady;
    steady.way = SteadyWay::smooth;
    steady.movement = Movement::perspective;
    steady.size = {64, 48};
    steady.smoothing = {.strength_s = 1.0 / 3, .most_lost = 0.07};
    steady.inside_all = false;
    steady.edges = Edges::mirrored;
    steady.shape = {16, 9};
    steady.crop = {0, 0, 64, 48};
    steady.trusted.columns = 3;
    steady.trusted.rows = 2;
    steady.trusted.tenths = {-1, 0, 3, 9, 10, 10};
    shot.steps.set(steady);
    give_ids(shot);
    Project p;
    p.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return p;
}

}

TEST_CASE("what was measured comes back from the file to the last digit", "[steady][document][file]")
{
    TempFolder t;
    const Project p = steadied(t / "s");
    save_project(p, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").project == p);
}

TEST_CASE("a project file whose measurements cannot be is refused, and says so", "[steady][document][file][bad]")
{
    TempFolder t;
    const Json good = Json::parse(project_to_json(steadied(t / "s"), t / "p.frenlo"));
    using Change = std::function<void(Json & steady, Json & alignment, Json & region)>;
    const std::pair<const char*, Change> rows[] = {
        {"movement", [](Json& s, Json&, Json&) { s["movement"] = "sideways"; }},
        {"way", [](Json& s, Json&, Json&) { s["way"] = "up"; }},
        {"edges", [](Json& s, Json&, Json&) { s["edges"] = "torn"; }},
        {"size", [](Json& s, Json&, Json&) { s["size"] = {64}; }},
        {"size",
         [](Json& s, Json&, Json&) {
             s["size"] = {0, 48};
         }},
        {"shape",
         [](Json& s, Json&, Json&) {
             s["shape"] = {16, 0};
         }},
        {"crop",
         [](Json& s, Json&, Json&) {
             s["crop"] = {0, 0, -4, 48};
         }},
        {"crop",
         [](Json& s, Json&, Json&) {
             s["crop"] = {0, 0, 2000000000, 48};
         }},
        {"strength_s", [](Json& s, Json&, Json&) { s["smoothing"]["strength_s"] = -1; }},
        {"most_lost", [](Json& s, Json&, Json&) { s["smoothing"]["most_lost"] = 1.5; }},
        {"trusted",
         [](Json& s, Json&, Json&) {
             s["trusted"] = {"123", "12"};
         }},
        {"trusted", [](Json& s, Json&, Json&) { s["trusted"] = {"12?"}; }},
        {"matrix",
         [](Json&, Json& a, Json&) {
             a["matrix"] = {1, 0, 0};
         }},
        {"matrix", [](Json&, Json& a, Json&) { a["matrix"] = {0, 0, 0, 0, 0, 0, 0, 0, 0}; }},
        {"matrix", [](Json&, Json& a, Json&) { a["from_before"] = {0, 0, 0, 0, 0, 0, 0, 0, 1}; }},
        {"target", [](Json&, Json& a, Json&) { a["target"] = {1}; }},
        {"region",
         [](Json&, Json&, Json& r) {
             r["look_at"] = {{0, 0, 1}};
         }},
        {"region",
         [](Json&, Json&, Json& r) {
             r["leave_out"] = {{0, 0, 3, 1}};
         }},
    };
    for (const auto& [says, change] : rows) {
        Json bad = good;
        Json& shot = bad["shots"][0];
        change(shot["steps"]["steady"], shot["photos"][0]["steps"]["alignment"], shot["steps"]["region"]);
        write_bytes(t / "bad.frenlo", bad.dump());
        INFO(says << ": " << bad.dump());
        CHECK_THROWS_WITH(load_project(t / "bad.frenlo"), Catch::Contains("bad.frenlo") && Catch::Contains(says));
    }
    write_bytes(t / "good.frenlo", good.dump());
    CHECK_NOTHROW(load_project(t / "good.frenlo")); // it is the change that is refused
}

}
