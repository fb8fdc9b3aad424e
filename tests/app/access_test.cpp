// For everyone: names, roles and values that a screen reader says, and whole jobs by the keyboard alone.
#include "app/sheet/sheet_view.h"
#include "app/steps/step_page.h"
#include "tests/app/person.h"
#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QAbstractButton>
#include <QAbstractScrollArea>
#include <QAccessible>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QScrollBar>
#include <QSplitter>

#include <functional>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

QString said_of(const QWidget& w, QAccessible::Text kind)
{
    QAccessibleInterface* i = QAccessible::queryAccessibleInterface(const_cast<QWidget*>(&w));
    return i ? i->text(kind) : QString();
}

/// What somebody would call it who has to put it right.
std::string called(const QWidget& w)
{
    return w.metaObject()->className() + (" \"" + w.toolTip().toStdString()) + '"';
}

/// All that can be set or pressed by hand.
bool is_control(const QWidget& w)
{
    return w.focusPolicy() != Qt::NoFocus || qobject_cast<const QAbstractButton*>(&w);
}

/// Presses Tab until this has the focus; at most as often as there could be controls.
void tab_to(Person& p, const QString& name)
{
    constexpr int most = 250;
    for (int i = 0; i < most; ++i) {
        if (const QWidget* w = QApplication::focusWidget(); w && said_of(*w, QAccessible::Name) == name)
            return;
        p.key(Qt::Key_Tab);
    }
    p.fail(name + q(" is not reached by Tab"));
}

void type(Person& p, const QString& name, const QString& text)
{
    tab_to(p, name);
    p.key(Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(QApplication::focusWidget(), text);
    p.key(Qt::Key_Return);
}

void press(Person& p, const QString& name)
{
    tab_to(p, name);
    p.key(Qt::Key_Space);
}

void write_film(Person& p, const char* file, const char* button)
{
    p.key(Qt::Key_E, Qt::ControlModifier);
    type(p, q("File"), app::to_qt(p.folder() / file));
    p.wait_until([&] { return p.find(q(button))->isEnabled(); }, q("it can be written"));
    press(p, q(button));
    p.wait_until([&] { return p.find<QLabel>(q("State of the export"))->text().contains(q("checked")); },
                 q("it is written"), 120'000);
}

}

TEST_CASE("every control of every step has a name and a role", "[access]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {120, 80});
    p.bring_in(p.folder() / "s");
    std::set<std::string> wrong;
    for (const app::StepModule* module : app::step_modules()) {
        p.window().viewing().set_step(module->info.key);
        for (const QWidget* w : p.window().findChildren<QWidget*>()) {
            if (!w->isVisibleTo(&p.window()) || !is_control(*w) || qobject_cast<const QScrollBar*>(w) ||
                qobject_cast<const QSplitterHandle*>(w) || w->inherits("QTabBar") || w->inherits("QMenuBar") ||
                w->objectName().startsWith(q("qt_")))
                continue;
            const auto* i = QAccessible::queryAccessibleInterface(const_cast<QWidget*>(w));
            if (said_of(*w, QAccessible::Name).isEmpty())
                wrong.insert(std::string(module->info.key) + ": no name: " + called(*w));
            else if (!i || i->role() == QAccessible::NoRole)
                wrong.insert(std::string(module->info.key) + ": no role: " + called(*w));
        }
    }
    for (const std::string& w : wrong)
        UNSCOPED_INFO(w);
    CHECK(wrong.empty());
}

TEST_CASE("the Sheet says its photos, their holds and their states", "[access][sheet]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {120, 80});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.click_photo(3);
    p.key(Qt::Key_4);
    p.key(Qt::Key_X);
    auto* sheet = QAccessible::queryAccessibleInterface(&p.sheet());
    REQUIRE(sheet);
    CHECK(sheet->role() == QAccessible::List);
    REQUIRE(sheet->childCount() == 6);
    auto* third = sheet->child(2);
    REQUIRE(third);
    CHECK(third->role() == QAccessible::ListItem);
    CHECK(third->text(QAccessible::Name) == q("photo 3, s_0003.jpg"));
    CHECK(third->text(QAccessible::Value) == q("4 frames"));
    CHECK(third->text(QAccessible::Description).contains(q("set aside")));
    CHECK(third->state().selected);
    CHECK_FALSE(sheet->child(0)->state().selected);
    CHECK(sheet->indexOfChild(third) == 2);
    CHECK(sheet->child(2) == third);
    CHECK(third->parent() == sheet);
    auto* first = sheet->child(0);
    CHECK(sheet->childAt(first->rect().center().x(), first->rect().center().y()) == first);
    CHECK_FALSE(sheet->child(6));
}

TEST_CASE("holds to a film, by the keyboard alone", "[access][keys]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {120, 80});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.key(Qt::Key_A, Qt::ControlModifier);
    p.key(Qt::Key_3);
    p.key(Qt::Key_Home);
    p.key(Qt::Key_6);
    CHECK(p.window().viewing().film_frames() == 15);
    write_film(p, "film.mp4", "Export the film");
    CHECK(output_of("ffprobe -v error -count_frames -show_entries stream=nb_read_frames -of csv=p=0 " +
                    quoted((p.folder() / "film.mp4").native())) == "15\n");
}

TEST_CASE("flicker to a loop, by the keyboard alone", "[access][keys]")
{
    Person p;
    for (int i = 0; i < 12; ++i) {
        cv::Mat photo = photo_of_scene(turned_by(0, 1, {0, 0}), {300, 200});
        photo.convertTo(photo, -1, i % 2 == 0 ? 1 : 0.9);
        write_picture(p.folder() / "s" / ("s_" + std::to_string(1001 + i) + ".png"), photo);
    }
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_4, Qt::ControlModifier);
    press(p, q("Remove flicker"));
    p.wait_until([&] { return p.sees(q("Undo flicker removal")); }, q("it is even"), 60'000);
    write_film(p, "loop.gif", "Export the loop");
    CHECK(std::filesystem::file_size(p.folder() / "loop.gif") > 1000);
}

TEST_CASE("a card to its shots, by the keyboard alone", "[access][keys]")
{
    Person p;
    for (int i = 0; i < 16; ++i) { // two scenes with a pause between
        const cv::Mat scene =
            i < 8 ? photo_of_scene(turned_by(0, 1, {2.0 * i, 0}), {300, 200}) : painted({300, 200}, 5);
        write_jpeg(
            p.folder() / "c" / ("IMG_" + std::to_string(1001 + i) + ".jpg"), scene,
            ExifWish{"2031:04:12 10:" + std::string(i < 8 ? "00:" : "30:") + std::to_string(10 + 2 * i), "", 1, false},
            92);
    }
    p.bring_in(p.folder() / "c");
    REQUIRE(p.window().viewing().shot()->parts.size() == 2);
    p.key(Qt::Key_1, Qt::ControlModifier);
    press(p, q("Make 2 shots"));
    CHECK(p.window().session().project().shots.size() == 2);
    p.key(Qt::Key_PageDown, Qt::ControlModifier);
    CHECK(p.window().viewing().shot_index() == ShotIndex(1));
}

TEST_CASE("plots say their points", "[access][plots]")
{
    Person p;
    write_run(p.folder() / "s", "s", 8, {120, 80});
    p.bring_in(p.folder() / "s");
    const auto said = [&](const char* name) { return QAccessible::queryAccessibleInterface(p.find(q(name))); };
    // Three points of the curve, with what is set.
    p.window().viewing().set_step("tone");
    p.type_into(q("Exposure"), q("0.5"));
    auto* curve = said("Characteristic curve");
    REQUIRE(curve);
    CHECK(curve->role() == QAccessible::Chart);
    REQUIRE(curve->childCount() == 3);
    CHECK(curve->child(1)->text(QAccessible::Value).contains(q("0.50")));
    CHECK(curve->child(3) == nullptr);
    CHECK(curve->indexOfChild(curve->child(2)) == 2);
    CHECK(curve->child(0)->parent() == curve);
    // One point for each photo, with what was measured of it.
    p.window().viewing().set_step("flicker");
    p.click(q("Remove flicker"));
    p.wait_until([&] { return p.sees(q("Remove flicker again")); }, q("flicker is measured"));
    auto* light = said("Brightness over the photos");
    REQUIRE(light);
    REQUIRE(light->childCount() == 8);
    CHECK(light->child(2)->text(QAccessible::Name) == q("photo 3"));
    CHECK(light->child(2)->text(QAccessible::Value).contains(q("as shot")));
    CHECK(light->child(2)->text(QAccessible::Value).contains(q("stops")));
    CHECK(light->child(2)->role() == QAccessible::ListItem);
}

TEST_CASE("what a key does is in a menu, with the key", "[access][keys]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {120, 80});
    p.bring_in(p.folder() / "s");
    for (const app::StepModule* module : app::step_modules()) {
        p.window().viewing().set_step(module->info.key);
        QApplication::processEvents();
        std::set<QString> shown;
        const std::function<void(const QMenu&)> gather = [&](const QMenu& menu) {
            for (const QAction* a : menu.actions())
                if (a->menu())
                    gather(*a->menu());
                else if (const auto tab = a->text().indexOf(QLatin1Char('\t')); tab > 0)
                    shown.insert(a->text().mid(tab + 1));
        };
        for (const QAction* a : p.window().menuBar()->actions())
            if (a->menu() && a->text().remove(QLatin1Char('&')) == q("Do")) {
                Q_EMIT a->menu()->aboutToShow();
                gather(*a->menu());
            }
        // Every key of the window without Ctrl that does something here is among them.
        CAPTURE(std::string(module->info.key));
        CHECK(shown.count(q(",")) == 1);
        CHECK(shown.count(q("Esc")) == 1);
        if (!p.window().viewing().step().tiles && !p.window().viewing().on_reel())
            CHECK(shown.count(q("M")) == 1);
    }
    // An entry does what its key does.
    p.window().viewing().set_step("pace");
    p.click_photo(2);
    QMenu* act = nullptr;
    for (const QAction* a : p.window().menuBar()->actions())
        if (a->menu() && a->text().remove(QLatin1Char('&')) == q("Do"))
            act = a->menu();
    REQUIRE(act);
    Q_EMIT act->aboutToShow();
    const auto entry = [&](const QString& text) -> QAction* {
        for (QAction* a : act->actions()) {
            if (a->text().startsWith(text))
                return a;
            if (a->menu())
                for (QAction* inner : a->menu()->actions())
                    if (inner->text().startsWith(text))
                        return inner;
        }
        return nullptr;
    };
    REQUIRE(entry(q("5 frame")));
    entry(q("5 frame"))->trigger();
    CHECK(p.window().viewing().shot()->photos[1].hold == Hold(Frames{5}));
    // What is held by a key is switched by its entry.
    QAction* as_shot = entry(q("As shot"));
    REQUIRE(as_shot);
    CHECK(as_shot->isCheckable());
    as_shot->trigger();
    Q_EMIT act->aboutToShow();
    REQUIRE(entry(q("As shot")));
    CHECK(entry(q("As shot"))->isChecked());
    entry(q("As shot"))->trigger();
    Q_EMIT act->aboutToShow();
    CHECK_FALSE(entry(q("As shot"))->isChecked());
}

}
