// A project's file among other programs, other users' settings and numbers that nobody would write.
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/project/project_lock.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/retouch/retouch_values.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/full_project.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>

#include <array>
#include <fstream>
#include <functional>
#include <sys/stat.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
using Json = nlohmann::json;

namespace {

Project project_of(const std::filesystem::path& folder)
{
    const std::array places{folder};
    return add_scanned({}, scan(places, {}, {}), Frames{1}, Division::one_shot);
}

Project with_hold(const Project& p, std::int64_t photo, std::int64_t frames)
{
    return set_hold(p, ShotIndex(0), std::array{PhotoIndex(photo)}, Frames{frames});
}

}

TEST_CASE("changes that several processes make at once are all kept", "[document][lock]")
{
    TempFolder t;
    constexpr int processes = 8, changes = 5;
    write_run(t / "s", "s", processes * changes, {8, 8});
    const auto file = t / "p.frenlo";
    save_project(project_of(t / "s"), file);
    std::vector<pid_t> children;
    for (int c = 0; c < processes; ++c)
        if (children.push_back(fork()); children.back() == 0) {
            for (int i = 0; i < changes; ++i)
                change_project(file, [&](const Project& p) { return with_hold(p, c * changes + i, 7); });
            _exit(0);
        }
    for (const pid_t child : children) {
        int status = 0;
        waitpid(child, &status, 0);
        CHECK(status == 0);
    }
    const LoadedProject loaded = load_project(file);
    for (const ShotPhoto& p : loaded.project.shot(ShotIndex(0)).photos)
        CHECK(p.hold == Hold(Frames{7}));
}

TEST_CASE("who waits too long for a project is told who has it", "[document][lock]")
{
    TempFolder t;
    write_bytes(t / "p.frenlo", "{}");
    const ProjectLock held(t / "p.frenlo");
    CHECK_THROWS_WITH(ProjectLock(t / "p.frenlo", std::chrono::milliseconds(30)),
                      Catch::Contains("process " + std::to_string(getpid())) && Catch::Contains("p.frenlo"));
    CHECK_NOTHROW(ProjectLock(t / "none.frenlo", std::chrono::milliseconds(0)));
    std::filesystem::create_symlink("p.frenlo", t / "link.frenlo"); // by any of its names
    CHECK_THROWS_AS(ProjectLock(t / "link.frenlo", std::chrono::milliseconds(0)), Failure);
}

TEST_CASE("a project that another program has written since is not replaced unasked", "[document][file]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {8, 8});
    const Project p = project_of(t / "s");
    const auto file = t / "p.frenlo";
    const std::string key = save_project(p, file, std::string());
    CHECK(load_project(file).key == key);
    CHECK(project_key(file) == key);
    const LoadedProject theirs = change_project(file, [](const Project& now) { return with_hold(now, 0, 9); });
    CHECK(theirs.key != key);
    CHECK_THROWS_AS(save_project(with_hold(p, 1, 5), file, key), ChangedOnDisk);
    CHECK(load_project(file).project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{9}));
    CHECK_NOTHROW(save_project(with_hold(p, 1, 5), file, theirs.key));
    CHECK_THROWS_AS(save_new_project(p, file), Failure);
    // A change that changes nothing writes nothing.
    const auto before = std::filesystem::last_write_time(file);
    change_project(file, [](const Project& now) { return now; });
    CHECK(std::filesystem::last_write_time(file) == before);
}

TEST_CASE("a project opened by a link is saved where it lies, and finds its photos by either name", "[document][file]")
{
    TempFolder t;
    write_run(t / "work" / "s", "s", 2, {8, 8});
    save_project(project_of(t / "work" / "s"), t / "work" / "p.frenlo");
    std::filesystem::create_symlink("work/p.frenlo", t / "desk.frenlo");
    change_project(t / "desk.frenlo", [](const Project& p) { return with_hold(p, 0, 4); });
    CHECK(std::filesystem::is_symlink(t / "desk.frenlo"));
    std::filesystem::rename(t / "work" / "p.frenlo", t / "work" / "q.frenlo"); // the folder it was saved in cannot help
    std::ifstream in(t / "work" / "q.frenlo");
    Json j = Json::parse(in);
    j.erase("folder");
    write_bytes(t / "work" / "p.frenlo", j.dump());
    for (const auto& name : {t / "desk.frenlo", t / "work" / "p.frenlo"}) {
        const LoadedProject loaded = load_project(name);
        CHECK(loaded.problems.empty());
        CHECK(loaded.project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{4}));
    }
}

TEST_CASE("a project that could not be opened again does not take the place of what was saved", "[document][file][bad]")
{
    TempFolder t;
    const auto file = t / "p.frenlo", fresh = t / "new.frenlo";
    const Project good = full_project();
    save_project(good, file);
    const std::string before = read_bytes(file);
    // No edit does this; a fault in one would.
    Project bad = good;
    auto shot = std::make_shared<Shot>(*good.shots[0]);
    Spot spot;
    spot.id = SpotId::fresh();
    spot.keys = {{shot->photos[0].id, {0.5, 0.5}}};
    spot.radius = 2 * spot_radius_limits.high;
    shot->steps.set(Retouch{.spots = {spot}});
    bad.shots[0] = shot;
    const std::function<void()> each[] = {[&] { save_project(bad, file); },
                                          [&] { change_project(file, [&](const Project&) { return bad; }); },
                                          [&] { save_new_project(bad, fresh); }};
    for (const auto& save : each) {
        try {
            save();
            FAIL("it was saved");
        } catch (const Failure& f) {
            CHECK_THAT(f.what(), Catch::Contains("could not be opened again") && Catch::Contains("radius"));
            CHECK_THAT(f.problem().remedy, Catch::Contains("saved before"));
        }
    }
    CHECK(read_bytes(file) == before);
    CHECK_FALSE(std::filesystem::exists(fresh));
    save_project(good, file);
    CHECK(read_project(file).project == good);
}

TEST_CASE("photos that are there and cannot be read are told", "[document][file]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {8, 8});
    save_project(project_of(t / "s"), t / "p.frenlo");
    std::filesystem::remove(t / "s" / "s_0002.jpg");
    REQUIRE(mkfifo((t / "s" / "s_0002.jpg").c_str(), 0600) == 0);
    const LoadedProject loaded = load_project(t / "p.frenlo");
    REQUIRE(loaded.problems.size() == 1);
    CHECK_THAT(loaded.problems[0].text(), Catch::Contains("s_0002.jpg") && Catch::Contains("not a file"));
}

TEST_CASE("shots without a name, or with one that another has, get their own, and it is told", "[document][file]")
{
    TempFolder t;
    write_run(t / "s", "s", 1, {8, 8});
    Json j = Json::parse(project_to_json(project_of(t / "s"), t / "p.frenlo"));
    const Json shot = j["shots"][0];
    for (const char* name : {"", "s", "s 2", "s"}) {
        j["shots"].push_back(shot);
        j["shots"].back()["name"] = name;
    }
    write_bytes(t / "p.frenlo", j.dump());
    const LoadedProject loaded = load_project(t / "p.frenlo");
    std::vector<std::string> names;
    for (const auto& s : loaded.project.shots)
        names.push_back(s->name);
    CHECK(names == std::vector<std::string>{"s", "Shot 2", "s 3", "s 2", "s 4"});
    REQUIRE(loaded.problems.size() == 3);
    CHECK_THAT(loaded.problems[0].text(), Catch::Contains("no name"));
    CHECK_THAT(loaded.problems[1].text(), Catch::Contains("s 3"));
}

TEST_CASE("versions that there never were are damage, and later ones are newer", "[document][file][bad]")
{
    TempFolder t;
    const std::pair<const char*, const char*> row =
        GENERATE(std::pair("0", "damaged"), std::pair("-5", "damaged"), std::pair("-9223372036854775808", "damaged"),
                 std::pair("9223372036854775808", "newer"), std::pair("18446744073709551615", "newer"),
                 std::pair("1.5", "not a Frenlo project"), std::pair("1e300", "not a Frenlo project"));
    write_bytes(t / "p.frenlo",
                std::string("{\"frenlo\": ") + row.first + ", \"delivered_at\": \"24\", \"shots\": []}");
    CAPTURE(row.first);
    CHECK_THROWS_WITH(load_project(t / "p.frenlo"), Catch::Contains(row.second));
}

TEST_CASE("no number of a project can be one that nothing can be computed with", "[document][file][bad]")
{
    TempFolder t;
    Json good = Json::parse(project_to_json(full_project(), t / "p.frenlo")); // every number that there is
    write_bytes(t / "p.frenlo", good.dump());
    REQUIRE_NOTHROW(load_project(t / "p.frenlo"));
    int tried = 0;
    const std::function<void(Json&, const std::string&)> try_each = [&](Json& j, const std::string& at) {
        if (j.is_structured()) {
            std::size_t i = 0;
            for (Json& child : j)
                try_each(child, at + '/' + std::to_string(i++));
            return;
        }
        if (!j.is_number() || at.find("frenlo") == 0)
            return;
        const Json kept = j;
        for (const char* bad : {"1e308", "-1e308", "1e400", "9223372036854775807", "-9223372036854775808"}) {
            j = "@";
            std::string text = good.dump();
            text.replace(text.find("\"@\""), 3, bad);
            write_bytes(t / "bad.frenlo", text);
            INFO(at << " = " << bad);
            ++tried;
            try {
                // Either it is refused, or it is one that can be there: as a time of change of any size can.
                const Project p = load_project(t / "bad.frenlo").project;
                CHECK(project_from_json(project_to_json(p, t / "bad.frenlo"), t / "bad.frenlo").project == p);
                CHECK(std::string(bad).find('e') == std::string::npos);
            } catch (const Failure& f) {
                CHECK_THAT(f.what(), Catch::Contains("bad.frenlo"));
            }
        }
        j = kept;
    };
    try_each(good, "");
    CHECK(tried > 250);
}

TEST_CASE("whatever a camera wrote as its time, a project with it can be opened again", "[document][file][time]")
{
    TempFolder t;
    struct Row
    {
        const char* written;
        bool odd;
    };
    const Row row =
        GENERATE(Row{"9999:12:31 23:59:60", true}, Row{"9999:12:31 23:59:59", false}, Row{"2026:02:30 10:00:00", true},
                 Row{"0000:00:00 00:00:00", false}, Row{"    :  :     :  :  ", false}, Row{"2026:05:03 24:00:00", true},
                 Row{"2016:12:31 23:59:60", false});
    write_jpeg(t / "s" / "a.jpg", painted({8, 8}, 1), ExifWish{row.written, "", 1, false});
    const std::array places{t / "s"};
    const ScanResult found = scan(places, {}, {});
    CAPTURE(row.written);
    CHECK(std::any_of(found.findings.begin(), found.findings.end(),
                      [](const Finding& f) { return f.kind == FindingKind::date_odd; }) == row.odd);
    const Project p = project_of(t / "s");
    save_project(p, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").project == p);
}

}
