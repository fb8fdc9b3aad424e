// Stop, wherever something takes long: it ends, changes nothing, says nothing, and can be begun again.
#include "app/window/notice_bar.h"
#include "app/work/session.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>
#include <QAbstractButton>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// A scene in which something moves, from a hand that trembles, in light that flickers.
void write_moving(const fs::path& folder, int photos)
{
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = photo_of_scene(turned_by(0.1 * (i % 3), 1, {i % 3 * 2.0, 0}));
        cv::circle(photo, {100 + 12 * i, 300}, 40, cv::Scalar(30, 60, 220), cv::FILLED);
        photo.convertTo(photo, -1, 1 + 0.04 * (i % 2));
        write_jpeg(folder / ("p" + std::to_string(1000 + i) + ".jpg"), photo, {}, 90);
    }
}

/// Something that takes long: how one gets there, what begins it, what ends it, and whether it is then done.
struct Long
{
    const char* what;
    const char* step;
    std::vector<const char*> before;
    const char* begin;
    const char* stop;
    std::function<bool(Person&)> done;
};

const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

bool keeps(Person& p, const char* key)
{
    const auto& all = shot(p).steps.entries();
    return std::any_of(all.begin(), all.end(), [&](const auto& e) { return std::string_view(e.type->key) == key; });
}

std::vector<Long> all_of_it()
{
    return {
        {"to hold still", "steady", {}, "Hold the photos still", "Stop", [](Person& p) { return keeps(p, "steady"); }},
        {"to smooth",
         "steady",
         {"Smooth path"},
         "Smooth the path",
         "Stop",
         [](Person& p) { return keeps(p, "steady"); }},
        {"flicker", "flicker", {}, "Remove flicker", "Stop", [](Person& p) { return keeps(p, "lighting"); }},
        {"a loop",
         "pace",
         {"Range and order"},
         "Find a loop",
         "Stop",
         [](Person& p) { return shot(p).pacing.kept.has_value() || p.sees(q("Find a loop")); }},
        {"stumbles",
         "pace",
         {"Range and order"},
         "Find stumbles",
         "Stop looking",
         [](Person& p) { return p.sees(q("Photos without movement")); }},
        {"in-betweens",
         "pace",
         {"Flow", "2 times"},
         "Check the in-betweens",
         "Stop",
         [](Person& p) { return p.sees(q("Check the in-betweens")); }},
        {"a clean plate", "retouch", {}, "Make the clean plate", "Stop", [](Person& p) { return keeps(p, "retouch"); }},
        {"dust", "retouch", {}, "Find dust", "Stop", [](Person& p) { return p.sees(q("Find dust")); }},
    };
}

bool quiet(Person& p)
{
    return p.window().findChild<app::NoticeBar*>()->text().isEmpty();
}

}

TEST_CASE("whatever is measured stops when it is told to, changes nothing, and is done when it is begun again",
          "[window][stop]")
{
    Person p;
    write_moving(p.folder() / "s", 32);
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.window().session().save(p.folder() / "w.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    int stopped = 0;
    for (const Long& task : all_of_it()) {
        CAPTURE(task.what);
        p.window().viewing().set_step(task.step);
        for (const char* button : task.before)
            p.click(q(button));
        const Project before = p.window().session().project();
        std::set<fs::path> files;
        for (const auto& e : fs::directory_iterator(p.folder() / "s"))
            files.insert(e.path());
        p.click(q(task.begin));
        // Small photos may be through before a hand gets to the button: then there was nothing to stop.
        p.wait_until([&] { return p.sees(q(task.stop)) || task.done(p); }, q("it runs"));
        if (p.sees(q(task.stop))) {
            p.click(q(task.stop));
            p.wait_until([&] { return !p.sees(q(task.stop)) && p.sees(q(task.begin)); }, q("it stops"));
            ++stopped;
            CHECK(p.window().session().project() == before);
            CHECK(quiet(p)); // who stops it need not be told
            for (const auto& e : fs::directory_iterator(p.folder() / "s"))
                CHECK(files.contains(e.path()));
            p.click(q(task.begin));
        }
        p.wait_until([&] { return !p.sees(q(task.stop)) && task.done(p); }, q("it is done"), 120'000);
        while (p.window().session().undo_name() != QString() && !(p.window().session().project() == before))
            p.window().session().undo();
        CHECK(p.window().session().project() == before);
    }
    CHECK(stopped >= 5);
}

TEST_CASE("a shot that is removed while it is measured takes the work along, and the window goes on", "[window][stop]")
{
    Person p;
    write_moving(p.folder() / "s", 30);
    write_run(p.folder() / "other", "other", 3, {96, 64});
    p.bring_in(p.folder() / "s");
    p.bring_in(p.folder() / "other");
    p.window().viewing().set_shot(ShotIndex(0));
    p.wait_for_pictures();
    p.window().viewing().set_step("flicker");
    p.click(q("Remove flicker"));
    p.wait_until([&] { return p.sees(q("Stop")); }, q("it runs"));
    p.window().session().apply([](const Project& now) { return remove_shot(now, ShotIndex(0)); }, q("Remove"));
    p.wait_until([&] { return !p.sees(q("Stop")); }, q("it ends"), 120'000);
    CHECK(p.window().session().project().shots.size() == 1);
    CHECK(shot(p).name == "other");
    p.window().session().undo();
    CHECK(p.window().session().project().shots.size() == 2);
    CHECK_FALSE(keeps(p, "lighting"));
}

TEST_CASE("what was changed while it was measured stays, and what no longer holds is told and not taken",
          "[window][stop]")
{
    Person p;
    write_moving(p.folder() / "s", 30);
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.window().viewing().set_step("flicker");
    const auto measure_and = [&](const std::function<Project(const Project&)>& change) {
        p.click(q("Remove flicker"));
        p.wait_until([&] { return p.sees(q("Stop")); }, q("it runs"));
        p.window().session().apply(change, q("Meanwhile"));
        p.wait_until([&] { return !p.sees(q("Stop")); }, q("it ends"), 120'000);
    };
    // Another photo is out of the film: the light of each depends on those around it.
    measure_and([](const Project& now) { return set_aside(now, ShotIndex(0), std::array{PhotoIndex(3)}, true); });
    CHECK(shot(p).photos[3].aside);
    CHECK_FALSE(keeps(p, "lighting"));
    CHECK(p.window().findChild<app::NoticeBar*>()->text().contains(q("while its light was measured")));
    CHECK(p.window().session().undo_name() == q("Meanwhile"));
    p.window().session().undo();
    // Another name is nobody's business: two steps, each taken back by itself.
    measure_and([](const Project& now) { return rename_shot(now, ShotIndex(0), "Other"); });
    CHECK(shot(p).name == "Other");
    CHECK(keeps(p, "lighting"));
    p.window().session().undo();
    CHECK_FALSE(keeps(p, "lighting"));
    CHECK(shot(p).name == "Other");
    p.window().session().undo();
    CHECK(shot(p).name == "s");
}

TEST_CASE("bringing photos in stops with what came in, and one step takes it back", "[window][stop]")
{
    Person p;
    write_run(p.folder() / "s", "s", 400, {64, 48});
    p.window().session().add_photos({p.folder() / "s"});
    p.window().session().stop_adding();
    p.wait_until([&] { return !p.window().session().busy(); }, q("it stops"));
    const std::size_t in = p.window().session().is_empty() ? 0 : shot(p).photos.size();
    if (in > 0) {
        CHECK_FALSE(quiet(p)); // that something is missing is told
        p.window().session().undo();
    }
    CHECK(p.window().session().is_empty());
    // All of it comes in when it is asked for again.
    p.bring_in(p.folder() / "s");
    CHECK(shot(p).photos.size() == 400);
}

TEST_CASE("a window that is closed in the midst of an export leaves nothing half written", "[window][stop]")
{
    const auto folder = std::make_unique<TempFolder>();
    {
        Person p;
        write_moving(p.folder() / "s", 30);
        p.bring_in(p.folder() / "s");
        p.window().session().save(p.folder() / "w.frenlo");
        p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
        p.key(Qt::Key_7, Qt::ControlModifier);
        p.type_into(q("File"), app::to_qt(*folder / "film.mp4"));
        p.wait_until([&] { return p.find<QAbstractButton>(q("Export the film"))->isEnabled(); }, q("the plan"));
        p.click(q("Export the film"));
        p.wait_until([&] { return p.sees(q("Stop")); }, q("it runs"));
    } // the window is gone
    CHECK_FALSE(fs::exists(*folder / "film.mp4"));
    int left = 0;
    for ([[maybe_unused]] const auto& e : fs::directory_iterator(folder->path()))
        ++left;
    CHECK(left == 0);
}

}
