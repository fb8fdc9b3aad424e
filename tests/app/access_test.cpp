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
#include <QScrollBar>
#include <QSplitter>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

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
