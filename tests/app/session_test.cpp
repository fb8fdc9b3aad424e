// The project at work, without a window: what is saved, kept for recovery, undone, and what of it can be lost.
#include "app/work/session.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/project/recovery.h"
#include "core/source/preview_store.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "tests/support/catch.h"
#include "tests/support/made_project.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <QSignalSpy>
#include <QtTest/QTest>

#include <array>
#include <filesystem>
#include <fstream>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

template <class Condition>
bool soon(const Condition& condition, int most_ms = 20'000)
{
    return QTest::qWaitFor(condition, most_ms);
}

/// A session with folders of its own, and what it said.
struct Work
{
    TempFolder t;
    app::Background background;
    app::Session session{background, t / "recovery"};
    QSignalSpy failed{&session, &app::Session::failed};
    QSignalSpy saved_now{&session, &app::Session::saved_now};
    QSignalSpy opened{&session, &app::Session::opened};
    QSignalSpy changed_on_disk{&session, &app::Session::changed_on_disk};

    explicit Work(Project project = made_project()) { session.start(std::move(project), {}); }

    void rename(const char* name, std::uint64_t gesture = 0)
    {
        session.apply([&](const Project& p) { return rename_shot(p, ShotIndex(0), name); }, q("Rename"), gesture);
    }
    [[nodiscard]] std::string name() const { return session.project().shots[0]->name; }
    void save(const fs::path& file)
    {
        const auto before = saved_now.count();
        session.save(file);
        REQUIRE(soon([&] { return saved_now.count() > before; }));
    }
    [[nodiscard]] QString said() const { return failed.isEmpty() ? QString() : failed.last().front().toString(); }
    /// What a next start would offer, when its lock is given up.
    [[nodiscard]] bool keeps(const char* word) const
    {
        for (const auto& e : fs::directory_iterator(t / "recovery"))
            if (e.path().extension() == ".frenlo" && read_bytes(e.path()).find(word) != std::string::npos)
                return true;
        return false;
    }
    [[nodiscard]] bool keeps_nothing() const
    {
        for (const auto& e : fs::directory_iterator(t / "recovery"))
            if (e.path().extension() == ".frenlo")
                return false;
        return true;
    }
};

}

TEST_CASE("a project is saved as it is, and only what is on the disk counts as saved", "[session][save]")
{
    Work w;
    CHECK(w.session.saved()); // nothing was done to it
    CHECK(w.session.name() == q("New project"));
    w.rename("Ferry");
    CHECK_FALSE(w.session.saved());
    w.save(w.t / "work.frenlo");
    CHECK(w.session.saved());
    CHECK(w.session.name() == q("work"));
    CHECK(w.session.saved_at().isValid());
    CHECK(load_project(w.t / "work.frenlo").project.shots[0]->name == "Ferry");
    // Undone it differs from the file, and done again it is the file once more.
    w.session.undo();
    CHECK_FALSE(w.session.saved());
    w.session.redo();
    CHECK(w.session.saved());
    w.session.undo();
    w.rename("Pier"); // what was saved is no step any more
    w.session.undo();
    CHECK_FALSE(w.session.saved());
}

TEST_CASE("what is changed while it is saved is not saved with it", "[session][save]")
{
    Work w;
    w.rename("Ferry");
    w.session.save(w.t / "work.frenlo");
    w.rename("Pier");
    REQUIRE(soon([&] { return w.saved_now.count() == 1; }));
    CHECK_FALSE(w.session.saved());
    CHECK(load_project(w.t / "work.frenlo").project.shots[0]->name == "Ferry");
    w.save(w.session.file());
    CHECK(w.session.saved());
    CHECK(load_project(w.t / "work.frenlo").project.shots[0]->name == "Pier");
    // Changed and changed back: it is what lies there.
    w.session.save(w.session.file());
    w.rename("Quay");
    w.session.undo();
    REQUIRE(soon([&] { return w.saved_now.count() == 3; }));
    CHECK(w.session.saved());
}

TEST_CASE("a project that is begun while the one before is saved never goes into its file", "[session][save]")
{
    Work w;
    w.rename("Ferry");
    w.session.save(w.t / "work.frenlo");
    w.session.start(made_project(), {});
    w.rename("Another film");
    REQUIRE(soon([&] { return w.background.idle(); }));
    QTest::qWait(30);
    CHECK(w.session.file().empty());
    CHECK(w.session.name() == q("New project"));
    CHECK_FALSE(w.session.saved());
    CHECK(load_project(w.t / "work.frenlo").project.shots[0]->name == "Ferry");
    // Also where the next one comes from a file.
    Work other;
    other.rename("Other");
    other.save(w.t / "other.frenlo");
    w.session.save(w.t / "third.frenlo");
    w.session.start(load_project(w.t / "other.frenlo").project, w.t / "other.frenlo");
    REQUIRE(soon([&] { return w.background.idle(); }));
    QTest::qWait(30);
    CHECK(w.session.file() == w.t / "other.frenlo");
    CHECK(load_project(w.t / "third.frenlo").project.shots[0]->name == "Another film");
}

TEST_CASE("what is changed while another project is read is not lost to it", "[session][open]")
{
    Work w;
    w.rename("Ferry");
    w.save(w.t / "first.frenlo");
    w.rename("Pier");
    w.save(w.t / "second.frenlo");
    w.session.open(w.t / "first.frenlo");
    w.rename("Quay");
    REQUIRE(soon([&] { return w.failed.count() + w.opened.count() > 0; }));
    CHECK(w.opened.isEmpty());
    CHECK(w.said().contains(q("“first” was not opened")));
    CHECK(w.name() == "Quay");
    CHECK(w.session.file() == w.t / "second.frenlo");
    w.save(w.session.file());
    w.session.open(w.t / "first.frenlo");
    REQUIRE(soon([&] { return !w.opened.isEmpty(); }));
    CHECK(w.name() == "Ferry");
}

TEST_CASE("a project that cannot be saved stays unsaved, says why, and can be saved elsewhere", "[session][save][bad]")
{
    Work w;
    w.rename("Ferry");
    write_bytes(w.t / "file", "no folder");
    for (const fs::path& bad : {w.t / "file" / "work.frenlo", fs::path("/dev/full"), w.t / "recovery"}) {
        CAPTURE(bad);
        const auto before = w.failed.count();
        w.session.save(bad);
        REQUIRE(soon([&] { return w.failed.count() > before || w.saved_now.count() > 0; }));
        CHECK(w.saved_now.isEmpty());
        CHECK_FALSE(w.session.saved());
        CHECK(w.session.file().empty());
        CHECK_FALSE(w.said().isEmpty());
    }
    w.save(w.t / "work.frenlo");
    CHECK(w.session.saved());
}

TEST_CASE("files that are no projects, or are not there, leave what is open as it is", "[session][open][bad]")
{
    Work w;
    w.rename("Ferry");
    w.save(w.t / "work.frenlo");
    write_bytes(w.t / "garbage.frenlo", "{\"frenlo\": ");
    write_bytes(w.t / "empty.frenlo", "");
    write_jpeg(w.t / "photo.frenlo", painted({32, 32}, 1));
    fs::create_directory(w.t / "folder.frenlo");
    for (const char* bad : {"garbage.frenlo", "empty.frenlo", "photo.frenlo", "folder.frenlo", "gone.frenlo"}) {
        CAPTURE(bad);
        const auto before = w.failed.count();
        w.session.open(w.t / bad);
        REQUIRE(soon([&] { return w.failed.count() > before; }));
        CHECK(w.said().contains(QString::fromUtf8(bad)));
        CHECK(w.name() == "Ferry");
        CHECK(w.session.file() == w.t / "work.frenlo");
        CHECK(w.session.saved());
        CHECK(w.session.undo_name() == q("Rename")); // not even its history is touched
    }
    CHECK(w.opened.isEmpty());
}

TEST_CASE("unsaved work is kept for the next start, and no longer than it is unsaved", "[session][recovery]")
{
    Work w;
    w.rename("Ferry");
    REQUIRE(soon([&] { return w.keeps("Ferry"); }));
    w.rename("Pier");
    REQUIRE(soon([&] { return w.keeps("Pier"); }));
    CHECK_FALSE(w.keeps("Ferry"));
    w.session.undo();
    REQUIRE(soon([&] { return w.keeps("Ferry"); }));
    w.save(w.t / "work.frenlo");
    REQUIRE(soon([&] { return w.keeps_nothing(); }));
    w.rename("Quay");
    REQUIRE(soon([&] { return w.keeps("Quay"); }));
    w.session.undo(); // that is what lies in the file
    REQUIRE(soon([&] { return w.keeps_nothing(); }));
    w.rename("Mole");
    REQUIRE(soon([&] { return w.keeps("Mole"); }));
    w.session.start(Project{}, {}); // thrown away on purpose
    REQUIRE(soon([&] { return w.keeps_nothing(); }));
}

TEST_CASE("work that is taken back is unsaved, goes to its own file, and can be undone", "[session][recovery]")
{
    Work w;
    Project lost = rename_shot(made_project(), ShotIndex(0), "Ferry");
    w.session.take_back(lost, w.t / "work.frenlo");
    CHECK(w.name() == "Ferry");
    CHECK_FALSE(w.session.saved());
    CHECK(w.session.name() == q("work"));
    REQUIRE(soon([&] { return w.keeps("Ferry"); })); // once more, should it end again
    w.save(w.session.file());
    CHECK(load_project(w.t / "work.frenlo").project == lost);
}

TEST_CASE("work of several projects that ended is found, the newest first, until it is forgotten",
          "[session][recovery]")
{
    TempFolder t;
    for (const char* name : {"Ferry", "Pier"}) {
        RecoverySlot slot(t / "kept");
        slot.keep(rename_shot(made_project(), ShotIndex(0), name), t / (std::string(name) + ".frenlo"));
        CHECK(abandoned_work(t / "kept").size() == (name == std::string("Ferry") ? 0 : 1)); // its own is in use
    }
    auto found = abandoned_work(t / "kept");
    REQUIRE(found.size() == 2);
    fs::last_write_time(found[0].kept, fs::file_time_type::clock::now() - std::chrono::hours(1));
    const fs::path older = found[0].kept;
    found = abandoned_work(t / "kept");
    CHECK(found[1].kept == older);
    for (const AbandonedWork& work : found)
        CHECK(recovered(work).shots[0]->name == work.saved_as.stem().string());
    forget(found[0]);
    CHECK(abandoned_work(t / "kept").size() == 1);
    write_bytes(older, "damaged");
    found = abandoned_work(t / "kept");
    REQUIRE(found.size() == 1);
    CHECK(found[0].damaged); // is told, and not offered
}

TEST_CASE("an edit that fails or changes nothing is no step, and is told where it failed", "[session][undo]")
{
    Work w;
    w.session.apply([](const Project& p) { return p; }, q("Nothing"));
    CHECK(w.session.undo_name().isEmpty());
    CHECK(w.session.saved());
    w.session.apply(
        [](const Project&) -> Project {
            throw Failure({"a hold would get longer than an hour", "", ""});
        },
        q("Fail"));
    CHECK(w.session.undo_name().isEmpty());
    CHECK(w.said().contains(q("longer than an hour")));
    w.rename("a"); // as it is called
    CHECK(w.session.undo_name().isEmpty());
}

TEST_CASE("photos that come back with holds that do not fit together are told, and the project is as it was",
          "[session][undo]")
{
    // Each hold is exact by itself; all of them together have a denominator that no whole number of 64 bits holds.
    Shot shot = made_shot("primes", 16);
    const std::array primes{101, 103, 107, 109, 113, 89, 97, 83, 79, 73, 71, 67, 61, 59, 53, 47};
    for (std::size_t i = 0; i < primes.size(); ++i) {
        shot.photos.edit(i).hold = Seconds{Fraction(1, primes[i])};
        shot.photos.edit(i).aside = i > 2;
    }
    Project start = add_shot({}, std::move(shot));
    SpeedCourse course; // as long as without it: its total must be exact
    course.points = {{start.shots[0]->photos[0].id, 50, Ease::both}};
    course.keep_length = true;
    start = set_speed_course(start, ShotIndex(0), course);
    Work w(start);
    std::vector<PhotoIndex> rest;
    for (std::int64_t i = 3; i < 16; ++i)
        rest.emplace_back(i);
    const Project before = w.session.project();
    w.session.apply([&](const Project& p) { return set_aside(p, ShotIndex(0), rest, false); }, q("Back"));
    CHECK(w.session.project() == before);
    CHECK(w.said().contains(q("too fine")));
    CHECK(w.session.undo_name().isEmpty());
    w.session.apply([&](const Project& p) { return set_aside(p, ShotIndex(0), std::array{rest[0]}, false); }, q("One"));
    CHECK(w.session.undo_name() == q("One")); // what fits is done
}

TEST_CASE("one gesture is one step, and another one begins anew", "[session][undo]")
{
    Work w;
    for (const char* name : {"1", "12", "123"})
        w.rename(name, 7);
    w.rename("1234", 8);
    w.session.undo();
    CHECK(w.name() == "123");
    w.session.undo();
    CHECK(w.name() == "a");
    CHECK(w.session.undo_name().isEmpty());
    CHECK(w.session.redo_name() == q("Rename"));
    w.session.redo();
    CHECK(w.name() == "123");
    w.rename("other"); // what had been undone goes
    CHECK(w.session.redo_name().isEmpty());
    w.session.redo();
    CHECK(w.name() == "other");
}

TEST_CASE("what another program changed is told, taken in as one step, and own work is a step back", "[session][disk]")
{
    Work w;
    w.rename("Ferry");
    const fs::path file = w.t / "work.frenlo";
    w.save(file);
    Project theirs = rename_shot(load_project(file).project, ShotIndex(1), "Theirs");
    save_project(theirs, file);
    REQUIRE(soon([&] { return !w.changed_on_disk.isEmpty(); }));
    w.rename("Ours");
    w.changed_on_disk.clear();
    w.session.save(file); // refused: it would be lost
    REQUIRE(soon([&] { return !w.changed_on_disk.isEmpty(); }));
    CHECK(w.saved_now.count() == 1);
    CHECK(load_project(file).project == theirs);
    w.session.take_change_in();
    REQUIRE(soon([&] { return w.session.project() == theirs; }));
    CHECK(w.session.saved());
    w.session.undo();
    CHECK(w.name() == "Ours");
    CHECK_FALSE(w.session.saved());
    w.save(w.t / "ours.frenlo"); // under another name both are kept
    CHECK(load_project(file).project == theirs);
    CHECK(load_project(w.t / "ours.frenlo").project.shots[0]->name == "Ours");
}

TEST_CASE("its own saves are nobody else's change", "[session][disk]")
{
    Work w;
    w.rename("Ferry");
    w.save(w.t / "work.frenlo");
    for (int i = 0; i < 5; ++i) {
        w.rename(("Ferry " + std::to_string(i)).c_str());
        w.save(w.t / "work.frenlo");
    }
    write_bytes(w.t / "beside.txt", "another file in the same folder");
    QTest::qWait(500); // the folder is looked at a fifth of a second after it changed
    CHECK(w.changed_on_disk.isEmpty());
}

TEST_CASE("a new project begins as it was wished, one at work does not change", "[session]")
{
    Work w{Project{}};
    w.session.set_beginnings({.hold = {}, .delivered_at = Rate(25)});
    CHECK(w.session.project().delivered_at == Rate(25)); // nothing was done to it
    CHECK(w.session.fresh_project().delivered_at == Rate(25));
    w.session.start(made_project(), {});
    w.session.set_beginnings({.hold = {}, .delivered_at = Rate(30)});
    CHECK(w.session.project().delivered_at == Rate(24));
    CHECK(w.session.fresh_project().delivered_at == Rate(30));
}

TEST_CASE("photos come in as one step with the hold that was wished, and folders without any are told",
          "[session][bring-in]")
{
    Work w{Project{}};
    write_run(w.t / "run", "run", 5, {64, 48});
    fs::create_directory(w.t / "nothing");
    w.session.set_beginnings({.hold = Hold(Frames{3}), .delivered_at = Rate(24)});
    QSignalSpy added(&w.session, &app::Session::photos_added);
    w.session.add_photos({w.t / "run"});
    REQUIRE(soon([&] { return !added.isEmpty(); }));
    CHECK(added.front().front().toInt() == 5);
    CHECK(schedule_of(w.session.project(), *w.session.project().shots[0]).frames() == 15);
    CHECK(w.session.undo_name() == q("Bring photos in"));
    w.session.undo();
    CHECK(w.session.is_empty());
    CHECK(w.session.undo_name().isEmpty());
    w.session.redo();
    w.session.add_photos({w.t / "nothing"});
    REQUIRE(soon([&] { return !w.failed.isEmpty(); }));
    CHECK(w.said().contains(q("There are no photos in")));
    CHECK(w.session.project().shots.size() == 1);
}

TEST_CASE("a search for photos that is still under way adds nothing to the next project", "[session][bring-in]")
{
    Work w{Project{}};
    write_run(w.t / "run", "run", 40, {64, 48});
    w.session.add_photos({w.t / "run"});
    CHECK(w.session.busy());
    w.session.start(made_project(), {});
    CHECK_FALSE(w.session.busy());
    REQUIRE(soon([&] { return w.background.idle(); }));
    QTest::qWait(30);
    CHECK(w.session.project().shots.size() == 3);
    CHECK(w.session.saved());
}

TEST_CASE("files that moved are followed by every step, and the project's file with them", "[session][moved]")
{
    Work w{Project{}};
    write_run(w.t / "run", "run", 3, {64, 48});
    QSignalSpy added(&w.session, &app::Session::photos_added);
    w.session.add_photos({w.t / "run"});
    REQUIRE(soon([&] { return !added.isEmpty(); }));
    w.rename("Ferry");
    w.save(w.t / "work.frenlo");
    fs::rename(w.t / "run", w.t / "sorted");
    Moved moved;
    for (const ShotPhoto& p : w.session.project().shots[0]->photos)
        moved[p.photo->file] = w.t / "sorted" / p.photo->file.filename();
    const auto saves = w.saved_now.count();
    w.session.relocate(moved);
    REQUIRE(soon([&] { return w.saved_now.count() > saves; })); // what was saved stays so
    const auto lies_there = [&](const Project& p) {
        return p.shots[0]->photos[0].photo->file.parent_path() == w.t / "sorted";
    };
    CHECK(lies_there(w.session.project()));
    CHECK(lies_there(load_project(w.t / "work.frenlo").project));
    w.session.undo();
    CHECK(lies_there(w.session.project()));
    CHECK(w.name() != "Ferry");
}

TEST_CASE("what is shown while it is made takes no work of others away", "[session][growing]")
{
    Project few = made_project();
    Work w(few);
    Project more = few;
    more.shots[0] = std::make_shared<const Shot>([&] {
        Shot longer = *few.shots[0];
        longer.photos.push_back({made_photo(900), Frames{1}});
        longer.photos.edit(longer.photos.size() - 1).id = PhotoId::fresh();
        return longer;
    }());
    CHECK(w.session.grow(more));
    CHECK(w.session.project() == more);
    CHECK(w.session.saved());
    CHECK(w.session.undo_name().isEmpty());      // growing is nobody's step
    CHECK_FALSE(w.session.grow(made_project())); // another one
    w.rename("Mine");
    CHECK_FALSE(w.session.grow(few));
    CHECK(w.name() == "Mine");
    w.session.undo();
    CHECK_FALSE(w.session.grow(few)); // there is something to be done again
    CHECK_FALSE(w.session.grown(w.t / "nowhere.frenlo"));
}

}
