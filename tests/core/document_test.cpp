#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/project_file.h"
#include "core/project/recovery.h"
#include "core/steps/pace/pace_edits.h"
#include "core/steps/sort/scan_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <sys/wait.h>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

Project project_of(const std::filesystem::path& folder, Hold hold = Frames{1})
{
    const std::array places{folder};
    return add_scanned({}, scan(places, {}, {}), hold, Division::found_shots);
}

std::vector<PhotoIndex> range(int from, int to)
{
    std::vector<PhotoIndex> r;
    for (int i = from; i < to; ++i)
        r.emplace_back(i);
    return r;
}

std::string failure_of(const std::function<void()>& f)
{
    try {
        f();
    } catch (const Failure& e) {
        return e.what();
    }
    return "nothing failed";
}

}

TEST_CASE("edits return the project after them and leave the one before", "[document]")
{
    TempFolder t;
    write_run(t / "Paper ferry", "ferry", 4, {32, 24});
    write_run(t / "Bean sprout", "sprout", 3, {32, 24});
    const Project before = project_of(t.path());
    REQUIRE(before.shots.size() == 2);
    const ShotIndex ferry = *before.find_shot("Paper ferry");
    const Project after = set_hold(before, ferry, range(1, 3), Frames{3});
    CHECK(schedule_of(before, before.shot(ferry)).frames() == 4);
    CHECK(schedule_of(after, after.shot(ferry)).frames() == 1 + 3 + 3 + 1);
    const ShotIndex sprout = *before.find_shot("Bean sprout");
    CHECK(before.shots[sprout.at()] == after.shots[sprout.at()]); // shared, not copied

    CHECK(set_hold(after, ferry, range(1, 3), Frames{3}).shots[ferry.at()] == after.shots[ferry.at()]); // no change
    CHECK(photos_in_film(set_aside(after, ferry, range(0, 2), true).shot(ferry)) == 2);
    const Project reversed = reverse_shot(after, ferry);
    CHECK(reversed.shot(ferry).photos.front().photo->file.filename() == "ferry_0004.jpg");
    CHECK(reverse_shot(reversed, ferry) == after);
    CHECK(order_shot(reversed, ferry, PhotoOrder::by_name) == after); // holds stay with their photos
    CHECK(rename_shot(after, ferry, "Bean sprout").shot(ferry).name == "Bean sprout 2");
    CHECK(rename_shot(after, ferry, "  ") == after);
    CHECK(remove_shot(after, ferry).shots.size() == 1);
    CHECK_THROWS_AS(set_hold(after, ferry, range(4, 5), Frames{1}), std::out_of_range);
    CHECK_THROWS_AS(remove_shot(after, ShotIndex(9)), std::out_of_range);
}

TEST_CASE("a change of the delivery rate keeps photos per frame, or the clock time where the shot is paced",
          "[document]")
{
    TempFolder t;
    write_run(t / "s", "s", 12, {16, 16});
    const Project p = project_of(t.path(), Frames{2});
    const Project faster = set_delivered_at(p, Rate(30));
    CHECK(schedule_of(faster, faster.shot(ShotIndex(0))).frames() == 12 * 2);
    const Project paced = set_delivered_at(set_paced_at(p, ShotIndex(0), Rate(24)), Rate(30));
    CHECK(schedule_of(paced, paced.shot(ShotIndex(0))).length().value == Fraction(12 * 2, 24));
}

TEST_CASE("photos that cannot be read come along set aside, with their flaw", "[document]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {16, 16});
    write_bytes(t / "s" / "s_0002.jpg", "");
    const Project p = project_of(t.path());
    REQUIRE(p.shot(ShotIndex(0)).photos.size() == 3);
    CHECK(p.shot(ShotIndex(0)).photos[1].aside);
    CHECK_THAT(p.shot(ShotIndex(0)).photos[1].flaw, Catch::Contains("empty"));
}

TEST_CASE("undo is a list of projects", "[document]")
{
    Project a;
    Project b = set_delivered_at(a, Rate(25));
    Project c = set_delivered_at(a, Rate(30));
    History h(a);
    CHECK_FALSE(h.push(a, "nothing"));
    CHECK(h.push(b, "Set the delivery rate"));
    CHECK(h.undo_name() == "Set the delivery rate");
    h.undo();
    CHECK(h.current() == a);
    CHECK(h.redo_name() == "Set the delivery rate");
    h.redo();
    h.undo();
    CHECK(h.push(c, "other"));
    CHECK_FALSE(h.can_redo());
    h.undo();
    CHECK_FALSE(h.can_undo());
}

TEST_CASE("a gesture is one step, and being saved survives no change", "[document]")
{
    History h;
    for (int rate = 10; rate < 20; ++rate)
        h.push(set_delivered_at({}, Rate(rate)), "drag", 7);
    h.push(set_delivered_at({}, Rate(50)), "another drag", 8);
    h.undo();
    CHECK(h.current().delivered_at == Rate(19));
    h.undo();
    CHECK_FALSE(h.can_undo());
    CHECK(h.saved());
    h.redo();
    h.mark_saved();
    CHECK(h.saved());
    h.undo();
    CHECK_FALSE(h.saved());
    h.push(set_delivered_at({}, Rate(60)), "new branch"); // the saved state is gone from the list
    h.undo();
    h.redo();
    CHECK_FALSE(h.saved());
}

TEST_CASE("a project is read back as it was saved", "[document][file]")
{
    TempFolder t;
    write_run(t / "Paper ferry", "ferry", 3, {32, 24});
    write_jpeg(t / "Paper ferry" / "k\xE4se 'q' ⛵.jpg", painted({32, 24}, 9),
               ExifWish{"2026:05:03 10:00:00", "5", 6, false});
    Project p = project_of(t.path(), Seconds{Fraction(1, 6)});
    p = set_aside(p, ShotIndex(0), range(1, 2), true);
    p = set_paced_at(set_delivered_at(p, *parse_rate("23.976")), ShotIndex(0), Rate(Fraction(25, 2)));
    save_project(p, t / "Harbour.frenlo");
    const LoadedProject loaded = load_project(t / "Harbour.frenlo");
    CHECK(loaded.problems.empty());
    CHECK(loaded.project == p);
    CHECK(project_to_json(p, t / "Harbour.frenlo").find("\"Paper ferry/ferry_0001.jpg\"") != std::string::npos);
}

TEST_CASE("a project moved with its photos finds them, and one moved alone does too", "[document][file]")
{
    TempFolder t;
    write_run(t / "a" / "photos", "s", 2, {16, 16});
    save_project(project_of(t / "a"), t / "a" / "p.frenlo");
    std::filesystem::create_directories(t / "elsewhere");
    std::filesystem::copy(t / "a" / "p.frenlo", t / "elsewhere" / "p.frenlo");
    CHECK(load_project(t / "elsewhere" / "p.frenlo").problems.empty());
    std::filesystem::rename(t / "a", t / "b");
    CHECK(load_project(t / "b" / "p.frenlo").problems.empty());
}

TEST_CASE("missing and changed photos are told, and the project is whole", "[document][file]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {16, 16});
    const Project p = set_hold(project_of(t / "s"), ShotIndex(0), range(0, 1), Frames{7});
    save_project(p, t / "p.frenlo");
    std::filesystem::remove(t / "s" / "s_0001.jpg");
    write_jpeg(t / "s" / "s_0002.jpg", painted({40, 20}, 99));
    const LoadedProject loaded = load_project(t / "p.frenlo");
    REQUIRE(loaded.problems.size() == 2);
    CHECK_THAT(loaded.problems[0].text(), Catch::Contains("s_0001.jpg") && Catch::Contains("missing"));
    CHECK(loaded.project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{7}));
    CHECK(loaded.project.shot(ShotIndex(0)).photos[1].photo->size == cv::Size(40, 20));
}

TEST_CASE("broken, newer and foreign files are refused with what and where, and stay as they are",
          "[document][file][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 1, {16, 16});
    const Project p = project_of(t / "s");
    const std::string good = project_to_json(p, t / "p.frenlo");
    struct Row
    {
        std::string bytes;
        std::string says;
    };
    std::string wrong_hold = good, wrong_rate = good;
    wrong_hold.replace(wrong_hold.find("\"1f\""), 4, "\"-1f\"");
    wrong_rate.replace(wrong_rate.find("\"24\""), 4, "\"x\"");
    const auto row = GENERATE_COPY(values<Row>(
        {{good.substr(0, good.size() / 2), "damaged"},
         {"", "damaged"},
         {"[1,2]", "not a Frenlo project"},
         {"{\"frenlo\": \"1\"}", "not a Frenlo project"},
         {"{\"frenlo\": 1}", "damaged"},
         {"{\"frenlo\": " + std::to_string(project_file_version + 1) + ", \"shots\": []}", "newer Frenlo"},
         {"{\"frenlo\": 1, \"delivered_at\": \"24\", \"shots\": [{\"name\": \"s\", \"times\": 0, \"photos\": []}]}",
          "damaged"},
         {wrong_hold, "-1f"},
         {wrong_rate, "frame rate"}}));
    const auto file = t / "bad.frenlo";
    write_bytes(file, row.bytes);
    CHECK_THAT(failure_of([&] { load_project(file); }), Catch::Contains(row.says) && Catch::Contains("bad.frenlo"));
    CHECK(read_bytes(file) == row.bytes);
}

TEST_CASE("saving never replaces what is not a project of this version", "[document][file][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 1, {16, 16});
    const Project p = project_of(t / "s");
    const std::string photo = read_bytes(t / "s" / "s_0001.jpg");
    CHECK_THAT(failure_of([&] { save_project(p, t / "s" / "s_0001.jpg"); }), Catch::Contains("not replaced"));
    CHECK(read_bytes(t / "s" / "s_0001.jpg") == photo);
    write_bytes(t / "newer.frenlo", "{\"frenlo\": 99}");
    CHECK_THAT(failure_of([&] { save_project(p, t / "newer.frenlo"); }), Catch::Contains("newer"));
    CHECK_THAT(failure_of([&] { save_project(p, "/sys/p.frenlo"); }), Catch::Contains("/sys/p.frenlo"));
}

TEST_CASE("unsaved work of a killed process is found, and that of a running one is let alone", "[document][recovery]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {16, 16});
    const Project p = set_hold(project_of(t / "s"), ShotIndex(0), range(0, 2), Frames{5});
    const auto folder = t / "recovery", saved_as = t / "H\xE4"
                                                       "fen.frenlo"; // not UTF-8
    const pid_t child = fork();
    if (child == 0) {
        RecoverySlot slot(folder);
        slot.keep(p, saved_as);
        _exit(0); // as a kill: nothing is put in order
    }
    waitpid(child, nullptr, 0);
    RecoverySlot running(folder);
    running.keep(project_of(t / "s"), {});
    const auto found = abandoned_work(folder);
    REQUIRE(found.size() == 1);
    CHECK(found[0].saved_as == saved_as);
    CHECK(recovered(found[0]) == p);
    forget(found[0]);
    CHECK(abandoned_work(folder).empty());
}

TEST_CASE("unsaved work that is damaged is told behind what can be taken back, and stays until it is thrown away",
          "[document][recovery][bad]")
{
    TempFolder t;
    const auto folder = t / "recovery";
    const pid_t child = fork();
    if (child == 0) {
        RecoverySlot slot(folder);
        slot.keep({}, t / "Harbour.frenlo");
        _exit(0);
    }
    waitpid(child, nullptr, 0);
    write_bytes(folder / "cut.frenlo", "{\"frenlo\": 1, \"sho");
    write_bytes(folder / "other.frenlo", "[1, 2]");
    const auto found = abandoned_work(folder);
    REQUIRE(found.size() == 3);
    CHECK_FALSE(found[0].damaged);
    for (const std::size_t i : {1U, 2U}) {
        REQUIRE(found[i].damaged);
        CHECK_THAT(found[i].damaged->text(), Catch::Contains(found[i].kept.native()));
        CHECK(std::filesystem::exists(found[i].kept));
        forget(found[i]);
        CHECK_FALSE(std::filesystem::exists(found[i].kept));
    }
}

TEST_CASE("work that was saved leaves nothing to recover", "[document][recovery]")
{
    TempFolder t;
    {
        RecoverySlot slot(t / "recovery");
        slot.keep({}, {});
        slot.clear();
    }
    CHECK(abandoned_work(t / "recovery").empty());
    CHECK(std::filesystem::is_empty(t / "recovery"));
}

TEST_CASE("what a long scan finds later takes the place of what it found first, and what the user did stays", "[edits]")
{
    TempFolder t;
    write_run(t / "s", "s", 9, {16, 12});
    const std::array places{t / "s"};
    const ScanResult all = scan(places, {}, {});
    ScanResult few = all;
    few.photos.resize(4);
    few.shots = {{"s", 0, 4, "one folder", ShotKind::hand_moved}};
    Project p = add_scanned({}, few, std::nullopt, Division::card, "s");
    CHECK(p.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{2}));
    p = set_aside(p, ShotIndex(0), std::array{PhotoIndex(1)}, true);
    p = set_hold(p, ShotIndex(0), std::array{PhotoIndex(2)}, Frames{7});
    const Project now = update_scanned(p, all, "s");
    REQUIRE(now.shots.size() == 1);
    const auto& photos = now.shot(ShotIndex(0)).photos;
    REQUIRE(photos.size() == 9);
    CHECK(photos[1].aside);
    CHECK(photos[2].hold == Hold(Frames{7}));
    CHECK(photos[0].hold == Hold(Frames{1}));         // a time-lapse, as all of its photos say
    CHECK(update_scanned({}, all, "s") == Project{}); // taken back meanwhile
}

}
