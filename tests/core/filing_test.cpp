// Files in order, and finding photos again: what happens on disk, and what never may.
#include "core/base/atomic_file.h"
#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/filing.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <set>
#include <sys/wait.h>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

Project project_of(const fs::path& folder)
{
    const std::array places{folder};
    return add_scanned({}, scan(places, {.looking = Looking::at_headers}, {}), Frames{1}, Division::found_shots);
}

/// The contents of all files below a folder, whatever they are called.
std::multiset<std::string> contents(const fs::path& folder)
{
    std::multiset<std::string> all;
    for (const auto& e : fs::recursive_directory_iterator(folder))
        if (e.is_regular_file())
            all.insert(read_bytes(e.path()));
    return all;
}

std::vector<std::string> names(const fs::path& folder)
{
    std::set<std::string> found;
    for (const auto& e : fs::recursive_directory_iterator(folder))
        if (e.is_regular_file())
            found.insert(e.path().lexically_relative(folder).native());
    return {found.begin(), found.end()};
}

}

TEST_CASE("files get a folder a shot, four digits and their sidecars, and the plan is known before", "[filing]")
{
    TempFolder t;
    write_run(t / "card" / "Paper ferry", "HARB", 3, {32, 24});
    write_bytes(t / "card" / "Paper ferry" / "HARB0002.xmp", "notes");
    write_bytes(t / "card" / "Paper ferry" / "HARB0003.jpg.xmp", "more notes");
    write_run(t / "card" / "Sill: “day 1”", "x", 2, {32, 24});
    for (const auto& e :
         fs::directory_iterator(t / "card" / "Paper ferry")) // write_run puts an underscore; cameras do not
        if (const auto n = e.path().filename().native(); n.starts_with("HARB_"))
            fs::rename(e.path(), e.path().parent_path() / ("HARB" + n.substr(5)));
    Project p = project_of(t / "card");
    p = set_aside(p, ShotIndex(0), std::array{PhotoIndex(0)}, true);
    const FilingPlan plan = plan_filing(p, t / "out", FilingWay::copy);
    CHECK(plan.problems.empty());
    CHECK_FALSE(fs::exists(t / "out"));
    const auto before = contents(t / "card");
    const Filing filing = run_filing(plan, t / "journal", {});
    CHECK(filing.done.steps == plan.steps);
    CHECK(names(t / "out") ==
          std::vector<std::string>{"Paper_ferry/Paper_ferry_0001.jpg", "Paper_ferry/Paper_ferry_0001.xmp",
                                   "Paper_ferry/Paper_ferry_0002.jpg", "Paper_ferry/Paper_ferry_0002.jpg.xmp",
                                   "Sill__“day_1”/Sill__“day_1”_0001.jpg", "Sill__“day_1”/Sill__“day_1”_0002.jpg"});
    CHECK(contents(t / "card") == before);
    CHECK(same_bytes(t / "card" / "Paper ferry" / "HARB0002.jpg", t / "out" / "Paper_ferry" / "Paper_ferry_0001.jpg"));

    // A second time nothing is overwritten; taken back, only the copies go, and not one that was worked on since.
    CHECK(plan_filing(p, t / "out", FilingWay::copy).problems.size() == plan.steps.size());
    CHECK_THROWS_AS(run_filing(plan_filing(p, t / "out", FilingWay::copy), t / "journal", {}), Failure);
    write_bytes(t / "out" / "Paper_ferry" / "Paper_ferry_0001.xmp", "new notes");
    const Filing back = run_filing(reversed(filing.done), t / "journal", {});
    CHECK(back.problem.has_value());
    CHECK(fs::exists(t / "out" / "Paper_ferry" / "Paper_ferry_0001.xmp"));
    CHECK(contents(t / "card") == before);
}

TEST_CASE("moved photos are followed by the project, its history and its file, and moved back", "[filing]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {32, 24});
    History history(project_of(t / "s"));
    history.push(set_hold(history.current(), ShotIndex(0), std::array{PhotoIndex(1)}, Frames{3}), "hold");
    save_project(history.current(), t / "p.frenlo");
    const auto before = contents(t / "s");
    const Filing filing = run_filing(plan_filing(history.current(), t / "out", FilingWay::move), t / "journal", {});
    CHECK(fs::is_empty(t / "s"));
    CHECK(contents(t / "out") == before);

    Moved moved = moved_files(t / "journal");
    CHECK(moved.size() == 4);
    Relocation relocation(moved);
    history.map([&](const Project& p) { return relocation(p); });
    CHECK(history.current().shot(ShotIndex(0)).photos[1].photo->file == t / "out" / "s" / "s_0002.jpg");
    history.undo();
    CHECK(history.current().shot(ShotIndex(0)).photos[1].photo->file == t / "out" / "s" / "s_0002.jpg");
    CHECK(history.current().shot(ShotIndex(0)).photos[0].photo ==
          relocation(history.current()).shot(ShotIndex(0)).photos[0].photo);
    // The file that was saved before the move finds them too.
    const LoadedProject loaded = load_project(t / "p.frenlo", moved);
    CHECK(loaded.problems.empty());
    CHECK(loaded.project.shot(ShotIndex(0)).photos[2].photo->file == t / "out" / "s" / "s_0003.jpg");
    CHECK(load_project(t / "p.frenlo").problems.size() == 4);

    run_filing(reversed(filing.done), t / "journal", {});
    CHECK(contents(t / "s") == before);
    for (const auto& [from, to] : moved_files(t / "journal")) // who saved in between finds them at home again
        CHECK(to.parent_path() == t / "s");
}

TEST_CASE("killed at every step, a filing loses nothing and is finished at the next start", "[filing][kill]")
{
    const FilingWay way = GENERATE(FilingWay::move, FilingWay::copy);
    bool killed = true;
    int steps = 0;
    for (int kill_at = 1; killed; ++kill_at) {
        TempFolder t;
        write_run(t / "s", "s", 3, {16, 12});
        write_bytes(t / "s" / "s_0002.xmp", "notes");
        const auto before = contents(t / "s");
        const Project p = project_of(t / "s");
        const FilingPlan plan = plan_filing(p, t / "out", way);
        const pid_t child = fork();
        if (child == 0) { // without a word, as a kill is
            int step = 0;
            run_filing(plan, t / "journal", {}, [&] {
                if (++step == kill_at)
                    _exit(9);
            });
            _exit(0);
        }
        int status = 0;
        waitpid(child, &status, 0);
        killed = WIFEXITED(status) && WEXITSTATUS(status) == 9;
        steps = kill_at;
        std::multiset<std::string> now = contents(t / "s");
        if (fs::exists(t / "out") && way == FilingWay::move)
            now.merge(contents(t / "out"));
        CAPTURE(kill_at, way);
        CHECK(now == before); // each file once, under one name or the other
        // And killed again while it is finished.
        const pid_t second = fork();
        if (second == 0) {
            finish_filings(t / "journal", {}, [] { _exit(9); });
            _exit(0);
        }
        waitpid(second, &status, 0);
        const auto finished = finish_filings(t / "journal", {});
        for (const auto& f : finished)
            CHECK(f.problems.empty());
        CHECK(contents(t / "out") == before);
        CHECK(contents(t / "s") == (way == FilingWay::move ? std::multiset<std::string>{} : before));
        CHECK(finish_filings(t / "journal", {}).empty());
    }
    CHECK(steps > 5); // it was killed at each of its changes
}

TEST_CASE("killed between copying to another disk and removing the original, the photo is there once in the end",
          "[filing][kill]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {16, 12});
    const auto before = contents(t / "s");
    const FilingPlan plan = plan_filing(project_of(t / "s"), t / "out", FilingWay::move);
    copy_to_new(plan.steps[0].from, plan.steps[0].to); // as far as it came
    const pid_t child = fork();
    if (child == 0) {
        run_filing(plan, t / "journal", {}, [] { _exit(9); });
        _exit(0);
    }
    waitpid(child, nullptr, 0);
    REQUIRE(finish_filings(t / "journal", {}).size() == 1);
    CHECK(contents(t / "out") == before);
    CHECK(contents(t / "s").empty());
}

TEST_CASE("a file that somebody else put in the way stays, and is said", "[filing][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {16, 12});
    const FilingPlan plan = plan_filing(project_of(t / "s"), t / "out", FilingWay::move);
    write_bytes(plan.steps[1].to, "another file");
    const Filing filing = run_filing(plan, t / "journal", {});
    REQUIRE(filing.problem);
    CHECK(filing.done.steps.size() == 1);
    CHECK(read_bytes(plan.steps[1].to) == "another file");
    CHECK(fs::exists(plan.steps[1].from));
    CHECK_THROWS_AS(copy_to_new(plan.steps[1].from, plan.steps[1].to), Failure);
    CHECK_THROWS_AS(move_to_new(plan.steps[1].from, plan.steps[1].to), Failure);
    CHECK(finish_filings(t / "journal", {}).empty()); // it ended; nothing goes on by itself
    CHECK(moved_files(t / "journal").size() == 1);
    CHECK_FALSE(plan_filing({}, t / "o", FilingWay::copy).problems.empty());
}

TEST_CASE("stopping a filing leaves the rest where it was", "[filing]")
{
    TempFolder t;
    write_run(t / "s", "s", 5, {16, 12});
    std::stop_source stop;
    const Job job(stop.get_token(), [&](double fraction, std::string_view) {
        if (fraction > 0.5)
            stop.request_stop();
    });
    const Filing filing = run_filing(plan_filing(project_of(t / "s"), t / "out", FilingWay::move), t / "journal", job);
    CHECK(filing.stopped);
    CHECK(filing.done.steps.size() == 3);
    CHECK(names(t / "s").size() == 2);
}

TEST_CASE("photos that are gone are found again by name and content, by content, or by name", "[again]")
{
    TempFolder t;
    write_run(t / "s", "s", 5, {64, 48});
    std::vector<PhotoPtr> gone;
    for (int i = 1; i <= 5; ++i)
        gone.push_back(scanned(t / "s" / ("s_000" + std::to_string(i) + ".jpg")));
    const fs::path there = t / "elsewhere" / "deep";
    fs::create_directories(there);
    fs::rename(t / "s" / "s_0001.jpg", there / "s_0001.jpg");
    fs::rename(t / "s" / "s_0002.jpg", there / "renamed.jpg");
    write_jpeg(there / "s_0003.jpg", painted({64, 48}, 77),
               ExifWish{"2026:05:03 10:00:03", "", 1, false}); // written anew
    write_jpeg(there / "s_0004.jpg", painted({80, 48}, 78),
               ExifWish{"2026:05:03 10:00:04", "", 1, false}); // another size
    fs::remove_all(t / "s");
    const std::array places{t / "elsewhere"};
    const auto matches = find_again(gone, places, {});
    REQUIRE(matches.size() == 3);
    std::set<std::string> found;
    for (const auto& m : matches)
        found.insert(m.old->file.filename().native() + " " + m.now->file.filename().native());
    CHECK(found == std::set<std::string>{"s_0001.jpg s_0001.jpg", "s_0002.jpg renamed.jpg", "s_0003.jpg s_0003.jpg"});
    CHECK_THROWS_AS(find_again(gone, std::array{t / "nowhere"}, {}), Failure);
}

}
