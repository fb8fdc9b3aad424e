// Unkind use: hundreds of presses, texts, keys and drags by chance, in every step, on awkward photos. Nothing crashes,
// everything can be undone, and what is saved is read as it was. FRENLO_UNKIND=SEED:ACTIONS runs other ones.
#include "app/picture/picture_view.h"
#include "app/steps/step_page.h"
#include "core/project/project_file.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <QAbstractButton>
#include <QAbstractItemView>
#include <QAbstractSpinBox>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QPlainTextEdit>
#include <QSlider>
#include <QTabBar>

#include <array>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Photos of several sizes, transparent ones, one of sixteen bits, one that is cut off, one that is empty, one that is
/// none, and two that are the same.
void write_awkward(const std::filesystem::path& folder)
{
    for (int i = 0; i < 8; ++i)
        write_jpeg(folder / ("p_100" + std::to_string(i) + ".jpg"), painted({120, 80}, i),
                   ExifWish{"2031:05:03 10:42:0" + std::to_string(i), ""});
    write_jpeg(folder / "p_1008.jpg", painted({80, 120}, 8));
    cv::Mat clear, deep;
    cv::cvtColor(painted({120, 80}, 9), clear, cv::COLOR_BGR2BGRA);
    cv::circle(clear, {60, 40}, 30, cv::Scalar(0, 0, 0, 0), -1);
    write_picture(folder / "p_1009.png", clear);
    painted({120, 80}, 10).convertTo(deep, CV_16U, 257);
    write_picture(folder / "p_1010.png", deep);
    write_picture(folder / "p_1011.png", painted({3, 2}, 11));
    const std::string whole = read_bytes(folder / "p_1003.jpg");
    write_bytes(folder / "p_1012.jpg", std::string_view(whole).substr(0, whole.size() / 2));
    write_bytes(folder / "p_1013.jpg", "");
    write_bytes(folder / "p_1014.jpg", "not a photo at all");
    write_bytes(folder / "p_1015.jpg", whole);
}

class Hand
{
public:
    Hand(Person& person, unsigned seed) : p_(person), random_(seed), start_(person.window().session().project()) {}

    void act()
    {
        switch (below(11)) {
        case 0:
            return go_to_a_step();
        case 1:
        case 2:
        case 3:
            return use_a_control();
        case 4:
            return type_a_key();
        case 5:
            return drag_on(*p_.sheet().viewport());
        case 6:
            return drag_on(*p_.window().findChild<app::PictureView*>());
        case 7:
            return choose_from_a_menu();
        case 8:
            return type_somewhere();
        case 9:
            return undo();
        default:
            return p_.window().session().redo();
        }
    }
    /// Lets what was begun go on, and closes what came up: dialogs, menus.
    void tidy()
    {
        QApplication::processEvents();
        while (QWidget* popup = QApplication::activePopupWidget())
            popup->close();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top != &p_.window() && top->isVisible())
                top->close();
        QApplication::processEvents();
    }

private:
    std::size_t below(std::size_t most) { return std::size_t(random_() % std::uint32_t(most)); }

    void say(const std::string& what)
    {
        if (aloud_)
            std::fprintf(stderr, "%s\n", what.c_str());
    }

    /// Where nothing is left to be undone but that the photos were brought in.
    [[nodiscard]] bool at_start() const { return p_.window().session().project() == start_; }
    void undo()
    {
        say("undo");
        if (!at_start())
            p_.window().session().undo();
    }

    void go_to_a_step()
    {
        const auto modules = app::step_modules();
        const auto& key = modules[below(modules.size())]->info.key;
        say("step " + std::string(key));
        p_.window().viewing().set_step(key);
    }

    /// What asks somewhere else, prints, or ends Frenlo is left alone.
    [[nodiscard]] bool spared(const QString& text) const
    {
        return (text.contains(q("Undo")) && at_start()) || text.contains(q("…")) || text.contains(q("Print")) ||
               text.contains(q("Quit")) || text.contains(q("demo"));
    }

    template <class T>
    std::vector<T*> seen()
    {
        std::vector<T*> all;
        for (T* w : p_.window().findChildren<T*>())
            if (w->isVisible() && w->isEnabled())
                all.push_back(w);
        return all;
    }

    void use_a_control()
    {
        const auto all = seen<QWidget>();
        std::vector<QWidget*> controls;
        for (QWidget* w : all)
            if (qobject_cast<QAbstractButton*>(w) || qobject_cast<QComboBox*>(w) || qobject_cast<QSlider*>(w) ||
                qobject_cast<QAbstractSpinBox*>(w) || qobject_cast<QAbstractItemView*>(w) || qobject_cast<QTabBar*>(w))
                controls.push_back(w);
        if (controls.empty())
            return;
        QWidget* w = controls[below(controls.size())];
        say("control " + w->accessibleName().toStdString());
        if (auto* button = qobject_cast<QAbstractButton*>(w)) {
            say("button " + button->text().toStdString() + " " + w->accessibleName().toStdString());
            if (!spared(button->text()) && !spared(button->toolTip()) && !spared(button->accessibleName()) &&
                !button->inherits("QToolButton") && !button->property("menu").isValid())
                button->click();
        } else if (auto* combo = qobject_cast<QComboBox*>(w); combo && combo->count() > 0) {
            const int at = int(below(std::size_t(combo->count())));
            combo->setCurrentIndex(at);
            Q_EMIT combo->activated(at);
        } else if (auto* slider = qobject_cast<QSlider*>(w)) {
            slider->setValue(slider->minimum() + int(below(std::size_t(slider->maximum() - slider->minimum() + 1))));
        } else if (auto* spin = qobject_cast<QAbstractSpinBox*>(w)) {
            spin->stepBy(int(below(9)) - 4);
        } else {
            QTest::mouseClick(w, Qt::LeftButton, {},
                              QPoint(int(below(std::size_t(std::max(1, w->width())))),
                                     int(below(std::size_t(std::max(1, w->height()))))));
        }
    }

    void type_somewhere()
    {
        const auto lines = seen<QLineEdit>();
        if (lines.empty())
            return;
        static const std::array texts{"",           "0",
                                      "-1",         "1e999",
                                      "nan",        "99999999999999999999",
                                      "4 s",        "96 f",
                                      "1/0",        "1/6 s",
                                      "12.5",       "0,5",
                                      "-45",        "200 %",
                                      "2.39:1",     "1080x1350",
                                      "0x0",        "x",
                                      "%1 %n",      "ä€𝄞\u202E\u0301",
                                      "../../x",    "9:16",
                                      "24000/1001", "automatic",
                                      "1 2 3",      "&&",
                                      "<b>bold</b>"};
        QLineEdit* line = lines[below(lines.size())];
        const char* text = texts.at(below(texts.size()));
        say("type \"" + std::string(text) + "\" into " + line->accessibleName().toStdString());
        if (line->accessibleName().contains(q("File")) || line->accessibleName().contains(q("older")))
            return; // it would write elsewhere
        line->setFocus();
        line->selectAll();
        line->insert(q(text)); // as an input method does: not every letter is a key
        QTest::keyClick(line, below(3) == 0 ? Qt::Key_Tab : Qt::Key_Return);
    }

    void type_a_key()
    {
        static const std::array keys{Qt::Key_Space,    Qt::Key_1,           Qt::Key_4,
                                     Qt::Key_9,        Qt::Key_X,           Qt::Key_M,
                                     Qt::Key_Plus,     Qt::Key_Minus,       Qt::Key_Left,
                                     Qt::Key_Right,    Qt::Key_Up,          Qt::Key_Down,
                                     Qt::Key_Home,     Qt::Key_End,         Qt::Key_PageUp,
                                     Qt::Key_PageDown, Qt::Key_BracketLeft, Qt::Key_BracketRight,
                                     Qt::Key_Delete,   Qt::Key_Escape,      Qt::Key_G,
                                     Qt::Key_Z,        Qt::Key_B,           Qt::Key_C,
                                     Qt::Key_E,        Qt::Key_T,           Qt::Key_2,
                                     Qt::Key_Comma,    Qt::Key_Period,      Qt::Key_Tab,
                                     Qt::Key_A,        Qt::Key_L,           Qt::Key_Question};
        static const std::array<Qt::KeyboardModifiers, 4> held{Qt::NoModifier, Qt::NoModifier, Qt::ShiftModifier,
                                                               Qt::AltModifier};
        const Qt::Key key = keys.at(below(keys.size()));
        say("key " + std::to_string(int(key)));
        p_.sheet().setFocus();
        if (key == Qt::Key_A)
            p_.key(key, Qt::ControlModifier);
        else
            p_.key(key, held.at(below(held.size())));
    }

    void drag_on(QWidget& w)
    {
        say("drag on " + std::string(w.metaObject()->className()));
        if (!w.isVisible() || w.width() < 2 || w.height() < 2)
            return;
        const auto place = [&] {
            return QPoint(int(below(std::size_t(w.width()))), int(below(std::size_t(w.height()))));
        };
        const QPoint from = place(), to = below(3) == 0 ? from : place();
        const auto keys = below(4) == 0 ? Qt::ShiftModifier : Qt::NoModifier;
        QTest::mousePress(&w, Qt::LeftButton, keys, from);
        for (int i = 1; i <= 4 && from != to; ++i) {
            const QPoint at = from + (to - from) * i / 4;
            QMouseEvent move(QEvent::MouseMove, at, w.mapToGlobal(at), Qt::NoButton, Qt::LeftButton, keys);
            QApplication::sendEvent(&w, &move);
        }
        QTest::mouseRelease(&w, Qt::LeftButton, keys, to);
        if (below(6) == 0)
            QTest::mouseDClick(&w, Qt::LeftButton, keys, to);
    }

    void choose_from_a_menu()
    {
        std::vector<QAction*> entries;
        for (QAction* a : p_.window().menuBar()->actions())
            if (a->menu()) {
                Q_EMIT a->menu()->aboutToShow();
                for (QAction* entry : a->menu()->actions())
                    if (entry->isEnabled() && !entry->isSeparator() && !entry->menu() && !spared(entry->text()) &&
                        !entry->text().contains(q("Save")) && !entry->text().contains(q("New")) &&
                        !entry->text().contains(q("Guide")))
                        entries.push_back(entry);
            }
        if (entries.empty())
            return;
        QAction* entry = entries[below(entries.size())];
        say("menu " + entry->text().toStdString());
        entry->trigger();
    }

    Person& p_;
    std::mt19937 random_;
    Project start_;
    bool aloud_ = qEnvironmentVariableIsSet("FRENLO_UNKIND_SAY");
};

void be_unkind(unsigned seed, int actions)
{
    CAPTURE(seed);
    Person p;
    write_awkward(p.folder() / "card");
    p.bring_in(p.folder() / "card");
    const Project start = p.window().session().project();
    Hand hand(p, seed);
    for (int i = 0; i < actions; ++i) {
        hand.act();
        hand.tidy();
    }
    p.window().viewing().set_step("sort");
    p.wait_until([&] { return !p.window().session().busy(); }, q("all work has ended"), 120'000);
    // What there is now is written and read as it is.
    const Project now = p.window().session().project();
    const auto file = p.folder() / "now.frenlo";
    save_new_project(now, file);
    const LoadedProject read = load_project(file);
    CHECK(project_to_json(read.project, file) == project_to_json(now, file));
    // And all of it can be taken back.
    bool back = now == start;
    for (int steps = 0; steps < 5'000 && !p.window().session().undo_name().isEmpty(); ++steps) {
        p.window().session().undo();
        back = back || p.window().session().project() == start;
    }
    if (!back) { // for who looks into it
        write_bytes(std::filesystem::temp_directory_path() / "frenlo-unkind-start.json", project_to_json(start, file));
        write_bytes(std::filesystem::temp_directory_path() / "frenlo-unkind-end.json",
                    project_to_json(p.window().session().project(), file));
    }
    CHECK(back);
    QApplication::processEvents();
}

}

TEST_CASE("hundreds of presses, texts, keys and drags by chance break nothing", "[unkind]")
{
    const QStringList wish = qEnvironmentVariable("FRENLO_UNKIND").split(QLatin1Char(':'));
    if (wish.size() == 2) {
        be_unkind(wish[0].toUInt(), wish[1].toInt());
        return;
    }
    for (const unsigned seed : {1U, 2U, 3U})
        be_unkind(seed, 150);
}

}
