// The frame around the steps: what a key means where, what a step brings, work that is not saved, and Stop everywhere.
#include "app/picture/picture_view.h"
#include "app/steps/step_page.h"
#include "app/window/notice_bar.h"
#include "app/window/route.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/steady/steady_values.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QAbstractButton>
#include <QFileDialog>
#include <QLineEdit>
#include <QMessageBox>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

const Shot& shot_of(Person& p)
{
    return *p.window().viewing().shot();
}

void stop(Person& p, const std::function<bool()>& ended)
{
    p.click(q("Stop"));
    p.wait_until(ended, q("it stops"));
}

QMessageBox& asked(Person& p)
{
    QMessageBox* question = nullptr;
    p.wait_until([&] { return (question = p.window().findChild<QMessageBox*>()) != nullptr && question->isVisible(); },
                 q("it is asked"));
    return *question;
}

}

TEST_CASE("every step has a page, a name of its own, and says how it stands", "[window][frame]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {64, 48});
    p.bring_in(p.folder() / "s");
    std::set<std::string> keys;
    REQUIRE(app::step_modules().size() >= 5);
    for (const app::StepModule* module : app::step_modules()) {
        CAPTURE(module->info.key);
        CHECK(keys.insert(module->info.key).second);
        app::StepPage* page = p.window().page(module->info.key);
        REQUIRE(page);
        CHECK_FALSE(page->route_state().figure.isEmpty());
        p.window().viewing().set_step(module->info.key);
        CHECK(page->bench()->isVisible());
        CHECK((page->tools() == nullptr || page->tools()->isVisible()));
        for (const app::KeyHelp& help : page->key_help())
            CHECK_FALSE((help.keys.isEmpty() || help.what.isEmpty()));
        const QString name = app::name_of(*module);
        CHECK(p.find<app::Station>(name)->isChecked());
    }
    CHECK_FALSE(p.window().page("no such step"));
    p.window().viewing().set_step("no such step"); // nothing happens
    CHECK(p.window().viewing().is_step("export"));
}

TEST_CASE("a key means what the step in view says, and in a field it is typed", "[window][frame][keys]")
{
    Person p;
    write_run(p.folder() / "s", "s", 8, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_1, Qt::ControlModifier); // Sort
    p.click_photo(3);
    p.key(Qt::Key_BracketLeft); // the first of the shot
    CHECK(shot_of(p).photos[0].aside);
    CHECK_FALSE(shot_of(p).pacing.kept);
    p.window().session().undo();
    p.key(Qt::Key_2, Qt::ControlModifier); // Pace
    p.click_photo(3);
    p.key(Qt::Key_BracketLeft); // the start of what is kept
    CHECK_FALSE(shot_of(p).photos[0].aside);
    REQUIRE(shot_of(p).pacing.kept);
    CHECK(shot_of(p).pacing.kept->begin == PhotoIndex(2));
    p.window().session().undo();
    // A number sets holds from any step, but not while one is typed.
    p.key(Qt::Key_3, Qt::ControlModifier); // Steady
    p.click_photo(2);
    p.key(Qt::Key_4);
    CHECK(shot_of(p).photos[1].hold == Hold(Frames{4}));
    p.key(Qt::Key_7, Qt::ControlModifier); // Export
    auto* file = p.find<QLineEdit>(q("File"));
    file->setFocus();
    file->clear();
    p.key(Qt::Key_7);
    CHECK(file->text() == q("7"));
    CHECK(shot_of(p).photos[1].hold == Hold(Frames{4}));
    p.key(Qt::Key_Escape); // the keys are the Sheet's again
    CHECK(p.sheet().hasFocus());
    p.key(Qt::Key_7);
    CHECK(shot_of(p).photos[1].hold == Hold(Frames{7}));
    // Marks belong to rows of time: there is no player in Sort.
    p.key(Qt::Key_1, Qt::ControlModifier);
    p.key(Qt::Key_M);
    CHECK_FALSE(shot_of(p).photos[1].marked);
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.click_photo(2);
    p.key(Qt::Key_M);
    CHECK(shot_of(p).photos[1].marked);
}

TEST_CASE("what a step brings to Sheet and picture goes with it", "[window][frame]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {160, 106});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_1, Qt::ControlModifier);
    CHECK(p.sees(q("Order")));
    CHECK(p.sees(q("Size of the tiles")));
    CHECK_FALSE(p.sees(q("Play")));
    p.click_photo(2);
    auto& picture = *p.window().findChild<app::PictureView*>();
    picture.set_comparing(app::Compare::split);
    // C held: the one before, in place of this one; in every step that compares with a photo.
    const auto shows = [&] { return picture.accessibleDescription(); };
    for (const Qt::Key step : {Qt::Key_1, Qt::Key_3}) {
        p.key(step, Qt::ControlModifier);
        p.click_photo(2);
        CHECK(shows() == q("s_0002.jpg"));
        QTest::keyPress(&p.sheet(), Qt::Key_C);
        CHECK(shows() == q("s_0001.jpg"));
        QTest::keyRelease(&p.sheet(), Qt::Key_C);
        CHECK(shows() == q("s_0002.jpg"));
    }
    p.key(Qt::Key_1, Qt::ControlModifier);
    picture.set_comparing(app::Compare::split);
    p.key(Qt::Key_2, Qt::ControlModifier);
    CHECK(picture.comparing() == app::Compare::off); // what was compared was another step's
    CHECK_FALSE(p.sees(q("Order")));
    CHECK_FALSE(p.sees(q("Size of the tiles")));
    CHECK(p.sees(q("Play")));
    CHECK(p.sees(q("Length of a row")));
}

TEST_CASE("the picture alone on the screen, and back", "[window][frame]")
{
    Person p;
    write_run(p.folder() / "s", "s", 2, {64, 48});
    p.bring_in(p.folder() / "s");
    auto* route = p.window().findChild<app::Route*>();
    REQUIRE(route);
    CHECK(route->isVisible());
    p.key(Qt::Key_F11);
    CHECK_FALSE(route->isVisible()); // the picture alone
    CHECK_FALSE(p.sheet().isVisible());
    p.key(Qt::Key_Escape);
    CHECK(route->isVisible());
    CHECK(p.sheet().hasFocus());
}

TEST_CASE("unsaved work is saved before another project is opened, or thrown away where that is said",
          "[window][frame][save]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().session().save(p.folder() / "mine.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    save_new_project(Project(), p.folder() / "other.frenlo");

    p.key(Qt::Key_6); // a change
    p.window().open(p.folder() / "other.frenlo");
    CHECK(p.window().session().project().shots.size() == 1); // not before the answer
    asked(p).button(QMessageBox::Save)->click();
    p.wait_until([&] { return p.window().session().is_empty(); }, q("the other one is open"));
    CHECK(load_project(p.folder() / "mine.frenlo").project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{6}));

    p.window().open(p.folder() / "mine.frenlo");
    p.wait_until([&] { return !p.window().session().is_empty(); }, q("mine is open again"));
    p.key(Qt::Key_8);
    p.window().open(p.folder() / "other.frenlo");
    asked(p).button(QMessageBox::Discard)->click();
    p.wait_until([&] { return p.window().session().is_empty(); }, q("the other one is open"));
    CHECK(load_project(p.folder() / "mine.frenlo").project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{6}));
    p.kill_and_restart();
    CHECK(p.window().findChild<app::NoticeBar*>()->text().isEmpty()); // what was thrown away is not offered again
}

TEST_CASE("work that has no file yet asks for one when it is to be saved, and stays where that is given up",
          "[window][frame][save]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().close();
    asked(p).button(QMessageBox::Save)->click();
    QFileDialog* dialog = nullptr;
    const auto asks = [&] { return (dialog = p.window().findChild<QFileDialog*>()) && dialog->isVisible(); };
    p.wait_until(asks, q("the file is asked for"));
    dialog->reject();
    CHECK(p.window().isVisible());
    CHECK(p.window().session().project().shots.size() == 1);

    p.window().close();
    asked(p).button(QMessageBox::Save)->click();
    p.wait_until(asks, q("the file is asked for"));
    dialog->selectFile(app::to_qt(p.folder() / "kept.frenlo"));
    QMetaObject::invokeMethod(dialog, "accept");
    p.wait_until([&] { return !p.window().isVisible(); }, q("it is saved and closed"));
    CHECK(load_project(p.folder() / "kept.frenlo").project.shots.size() == 1);
}

TEST_CASE("Stop ends what is measured, exported or looked for, and the project is as it was", "[window][frame][stop]")
{
    Person p;
    for (int i = 0; i < 40; ++i)
        write_jpeg(p.folder() / "s" / ("p" + std::to_string(1000 + i) + ".jpg"),
                   photo_of_scene(turned_by(0, 1, {i % 3 * 2.0, 0})), {}, 90);
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.key(Qt::Key_4, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Remove flicker"));
    p.wait_until([&] { return p.sees(q("Stop")); }, q("it can be stopped"));
    stop(p, [&] { return p.sees(q("Remove flicker")); });
    CHECK(p.window().session().project() == before);
    CHECK(p.window().findChild<app::NoticeBar*>()->text().isEmpty()); // who stops it need not be told

    p.key(Qt::Key_7, Qt::ControlModifier);
    p.type_into(q("File"), app::to_qt(p.folder() / "film.mp4"));
    p.wait_until([&] { return p.find<QAbstractButton>(q("Export the film"))->isEnabled(); }, q("the plan"));
    p.click(q("Export the film"));
    p.wait_until([&] { return p.sees(q("Stop")); }, q("it can be stopped"));
    stop(p, [&] { return p.sees(q("Export the film")) && !p.sees(q("Stop")); });
    CHECK_FALSE(std::filesystem::exists(p.folder() / "film.mp4"));
    CHECK(p.window().session().project() == before);
}

}
