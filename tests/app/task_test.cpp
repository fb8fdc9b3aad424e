// Long work in the window: how it is stopped, forgotten and told of, for whatever a step measures.
#include "app/work/session.h"
#include "app/work/task.h"
#include "core/project/edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QElapsedTimer>
#include <QSignalSpy>

#include <atomic>
#include <thread>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

template <class Condition>
bool soon(const Condition& condition, int most_ms = 10'000)
{
    return QTest::qWaitFor(condition, most_ms);
}

/// Works until it is told to stop, a hundredth of a second at a time.
int until_stopped(const Job& job)
{
    for (int i = 0;; ++i) {
        job.check();
        job.report(0.5, "waiting");
        std::this_thread::sleep_for(std::chrono::milliseconds(10));
    }
}

}

TEST_CASE("a task says how far it is, and hands over what it found", "[task]")
{
    app::Background background;
    app::Task task(background, app::Rank::measure);
    QSignalSpy changed(&task, &app::Task::changed);
    std::optional<int> found;
    REQUIRE(task.start(
        {ShotId{7}, "steady"},
        [](const Job& job) {
            job.report(0.25, "photo 1 of 4");
            return 42;
        },
        [&](int result) { found = result; }));
    CHECK(task.running());
    CHECK(task.key().shot == ShotId{7});
    CHECK_FALSE(task.start(
        {}, [](const Job&) { return 1; }, [&](int) { FAIL("one at a time"); })); // it still runs
    REQUIRE(soon([&] { return !task.running(); }));
    CHECK(found == 42);
    CHECK(task.fraction() == 0.25);
    CHECK(task.what() == QStringLiteral("photo 1 of 4"));
    CHECK_FALSE(task.left_seconds());
    CHECK(changed.count() == 2); // it began and it ended
}

TEST_CASE("a task that is stopped says so once, and gives nothing", "[task]")
{
    app::Background background;
    app::Task task(background, app::Rank::measure);
    QSignalSpy stopped(&task, &app::Task::stopped), failed(&task, &app::Task::failed);
    task.start({}, until_stopped, [&](int) { FAIL("it was stopped"); });
    REQUIRE(soon([&] { return task.fraction() == 0.5; }));
    task.stop();
    CHECK(task.stopping());
    task.stop();
    REQUIRE(soon([&] { return !task.running(); }));
    CHECK(stopped.count() == 1);
    CHECK(failed.count() == 0);
}

TEST_CASE("what went wrong is told, and the next work can begin", "[task]")
{
    app::Background background;
    app::Task task(background, app::Rank::measure);
    QSignalSpy failed(&task, &app::Task::failed);
    task.start(
        {},
        [](const Job&) -> int {
            throw Failure({"there is no photo", "a.jpg", "Choose another"});
        },
        [&](int) { FAIL("it failed"); });
    REQUIRE(soon([&] { return !task.running(); }));
    REQUIRE(failed.count() == 1);
    CHECK(failed.front().front().toString().contains(QStringLiteral("a.jpg: there is no photo. Choose another")));
    bool done = false;
    task.start(
        {}, [](const Job&) { return 1; }, [&](int) { done = true; });
    CHECK(soon([&] { return done; }));
}

TEST_CASE("a task that is forgotten lets other work begin at once, and its result is dropped", "[task]")
{
    app::Background background;
    app::Task task(background, app::Rank::measure);
    std::atomic<bool> go = false;
    std::vector<int> found;
    const auto slow = [&go](const Job&) {
        while (!go)
            std::this_thread::sleep_for(std::chrono::milliseconds(1));
        return 1;
    };
    task.start({}, slow, [&](int result) { found.push_back(result); });
    task.forget();
    CHECK_FALSE(task.running());
    REQUIRE(task.start(
        {}, [](const Job&) { return 2; }, [&](int result) { found.push_back(result); }));
    go = true;
    REQUIRE(soon([&] { return !task.running() && background.idle(); }));
    QTest::qWait(20);
    CHECK(found == std::vector<int>{2});
}

TEST_CASE("work whose owner is gone ends, and nobody is told", "[task]")
{
    app::Background background;
    {
        app::Task task(background, app::Rank::measure);
        task.start({}, until_stopped, [&](int) { FAIL("nobody waits for it"); });
    }
    CHECK(soon([&] { return background.idle(); }));
    app::Task other(background, app::Rank::measure);
    other.start({}, until_stopped, [&](int) { FAIL("the background ends"); });
    background.finish(); // would wait for ever, were it not asked to stop
    CHECK(background.idle());
}

TEST_CASE("what an operation found becomes one step of the project as it is then", "[task]")
{
    TempFolder t;
    app::Background background;
    app::Session session(background, t / "recovery");
    Shot shot;
    shot.name = "Boat";
    session.start(add_shot({}, std::move(shot)), {});
    app::Task task(background, app::Rank::measure);
    const ShotId id = session.project().shots[0]->id;
    const Operation operation = [id](const PhotoSource&, const Job&) -> Edit {
        return [id](const Project& now) { return set_backdrop(now, find_measured(now, id), Backdrop{1, 2, 3}); };
    };
    task.start({id, "test"}, operation, session, QStringLiteral("Paint"));
    session.apply([](const Project& p) { return rename_shot(p, ShotIndex(0), "Ship"); }, QStringLiteral("Rename"));
    REQUIRE(soon([&] { return !task.running(); }));
    CHECK(session.project().shots[0]->name == "Ship");
    CHECK(session.project().shots[0]->backdrop == Backdrop{1, 2, 3});
    CHECK(session.undo_name() == QStringLiteral("Paint"));

    QSignalSpy failed(&session, &app::Session::failed);
    task.start({id, "test"}, operation, session, QStringLiteral("Paint"));
    session.apply([](const Project& p) { return remove_shot(p, ShotIndex(0)); }, QStringLiteral("Remove"));
    REQUIRE(soon([&] { return !task.running(); }));
    REQUIRE(failed.count() == 1);
    CHECK(failed.front().front().toString().contains(QStringLiteral("no longer in the project")));
}

}
