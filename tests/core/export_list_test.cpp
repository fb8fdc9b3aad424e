// The list of exports: written by hand or by Frenlo, done in order, picked up again.
#include "core/base/unfinished.h"
#include "core/export/export_list.h"
#include "core/project/edits.h"
#include "core/source/open_files.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <stop_token>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

Project two_shots(const fs::path& folder)
{
    Project p;
    for (const char* name : {"one", "two/three"}) {
        Shot shot;
        shot.name = name;
        for (int i = 0; i < 3; ++i) {
            const fs::path file = folder / (std::to_string(shot.name.size()) + std::to_string(i) + ".png");
            write_picture(file, painted({64, 48}, i));
            shot.photos.push_back({scanned(file), Frames{2}});
        }
        p = add_shot(p, std::move(shot));
    }
    return p;
}

ExportList read(const fs::path& file, const std::string& text)
{
    write_bytes(file, text);
    return read_export_list(file);
}

}

TEST_CASE("a list written by hand is read, done in order, and goes on after what fails", "[export][list]")
{
    TempFolder t;
    const Project p = two_shots(t / "p");
    ExportList list = read(t / "l" / "list.json", R"({"project": "../p.frenlo", "exports": [
        {"shot": "one", "preset": "film", "file": "{shot} {preset} {version}.mp4", "size": [32, 24]},
        {"shot": "none", "preset": "film", "file": "x.mp4"},
        {"shot": "two/three", "preset": "loop", "file": "{shot}-{date}"},
        {"shot": "one", "preset": "no such", "file": "y.mp4"},
        {"reel": true, "preset": "film", "file": "all.mp4", "times": 2}]})");
    CHECK(list.project == t / "p.frenlo");
    REQUIRE(list.exports.size() == 5);
    std::vector<std::string> seen;
    run_export_list(list, p, Originals(), "2026-11-28", {}, [&](const ExportList& now) {
        std::string states;
        for (const ListedExport& e : now.exports)
            states += word_of(e.state)[0];
        seen.push_back(states);
        write_export_list(now, t / "l" / "list.json");
    });
    CHECK(seen.front() == "rwwww");
    CHECK(seen.back() == "dfdfd");
    CHECK(seen.size() == 10);
    CHECK(fs::exists(t / "l" / "one film 1.mp4"));
    CHECK(fs::exists(t / "l" / "two-three-2026-11-28.gif"));
    CHECK(fs::exists(t / "l" / "all.mp4"));
    CHECK(list.exports[0].bytes == fs::file_size(t / "l" / "one film 1.mp4"));
    CHECK_THAT(list.exports[1].said, Catch::Contains("no shot"));
    CHECK(
        output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0 " +
                  quoted(t / "l" / "all.mp4")) == "24\n"); // 2 shots, 3 photos, 2 frames, twice

    // What was kept is what is there, and nothing of it is done again.
    ExportList again = read_export_list(t / "l" / "list.json");
    CHECK(again == list);
    int changes = 0;
    run_export_list(again, p, Originals(), "2026-11-28", {}, [&](const ExportList&) { ++changes; });
    CHECK(changes == 0);
    // A new version beside the first.
    again.exports[0].state = ListState::waiting;
    again.exports[0].file = t / "l" / "{shot} {preset} {version}.mp4";
    run_export_list(again, p, Originals(), "2026-11-28", {}, [](const ExportList&) {});
    CHECK(fs::exists(t / "l" / "one film 2.mp4"));
}

TEST_CASE("a list that was cut off does what was running anew, one that is stopped waits", "[export][list]")
{
    TempFolder t;
    const Project p = two_shots(t / "p");
    ExportList list = read(t / "list.json", R"({"exports": [
        {"shot": "one", "preset": "film", "file": "a.mp4", "state": "done"},
        {"shot": "one", "preset": "film", "file": "b.mp4", "state": "running"},
        {"shot": "one", "preset": "film", "file": "c.mp4", "state": "left-out"},
        {"shot": "one", "preset": "film", "file": "d.mp4"}]})");
    std::stop_source stop;
    const auto stop_at_last = [&](const ExportList& now) {
        if (now.exports[3].state == ListState::running)
            stop.request_stop();
    };
    CHECK_THROWS_AS(run_export_list(list, p, Originals(), "", Job(stop.get_token()), stop_at_last), Stopped);
    CHECK_FALSE(fs::exists(t / "a.mp4"));
    CHECK(fs::exists(t / "b.mp4"));
    CHECK_FALSE(fs::exists(t / "c.mp4"));
    CHECK_FALSE(fs::exists(t / "d.mp4"));
    CHECK(list.exports[3].state == ListState::waiting);
}

TEST_CASE("a list that is no list is said, and what lies there is not overwritten unasked", "[export][list][bad]")
{
    TempFolder t;
    for (const char* text : {"", "[]", "{\"exports\": 3}", R"({"exports": [{"preset": "film"}]})",
                             R"({"exports": [{"file": "a.mp4", "state": "sleeping"}]})"})
        CHECK_THROWS_AS(read(t / "bad.json", text), Failure);
    CHECK_THROWS_AS(read_export_list(t / "none.json"), Failure);
    const Project p = two_shots(t / "p");
    write_bytes(t / "a.mp4", "mine");
    ExportList list = read(t / "list.json", R"({"exports": [{"shot": "one", "file": "a.mp4"}]})");
    run_export_list(list, p, Originals(), "", {}, [](const ExportList&) {});
    CHECK(list.exports[0].state == ListState::failed);
    CHECK(read_bytes(t / "a.mp4") == "mine");
    list.exports[0].state = ListState::waiting;
    list.exports[0].overwrite = true;
    run_export_list(list, p, Originals(), "", {}, [](const ExportList&) {});
    CHECK(list.exports[0].state == ListState::done);
}

TEST_CASE("looking ahead finds what would go wrong in the night, and writes nothing", "[export][list]")
{
    TempFolder t;
    const Project p = two_shots(t / "p");
    fs::create_directories(t / "out");
    write_bytes(t / "out" / "there.mp4", "x");
    const auto listed = [&](const char* shot, const char* file) {
        ListedExport e;
        e.shot = shot;
        e.file = t / "out" / file;
        e.size = cv::Size(32, 24);
        return e;
    };
    LookedAt looked_at;
    const auto problems = [&](const ListedExport& e) {
        return look_ahead(e, p, Originals(), "2026-11-28", {}, looked_at);
    };
    CHECK(problems(listed("one", "a.mp4")).empty());
    CHECK(looked_at.photos.size() == 3);
    CHECK(problems(listed("none", "b.mp4")).size() == 1);
    CHECK_THAT(problems(listed("one", "there.mp4")).at(0).text(), Catch::Contains("there already"));
    CHECK_THAT(problems(listed("one", "a.mp4")).at(0).text(), Catch::Contains("another export of the list"));
    CHECK(looked_at.photos.size() == 3); // each read once
    // One of the second shot's breaks.
    const fs::path broken = p.shot(ShotIndex(1)).photos[1].photo->file;
    std::string bytes = read_bytes(broken);
    write_bytes(broken, bytes.substr(0, bytes.size() / 2));
    const auto found = problems(listed("two/three", "c.mp4"));
    REQUIRE(found.size() == 1);
    CHECK(found[0].file == broken);
    CHECK(std::distance(fs::directory_iterator(t / "out"), {}) == 1);
    SECTION("a preset of one's own goes with the entry")
    {
        ListedExport e = listed("one", "mine.mp4");
        e.preset = "Mine";
        CHECK(problems(e).size() == 1);
        e.own = *find_preset("film");
        CHECK(problems(e).empty());
    }
}

}
