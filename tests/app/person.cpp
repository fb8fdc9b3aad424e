#include "tests/app/person.h"

#include "app/picture/picture_view.h"
#include "app/steps/sort/sort_page.h"

#include <QAbstractButton>
#include <QAction>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QSpinBox>

namespace frenlo::test {

Person::Person(QSize size) : size_(size)
{
    start();
}

Person::~Person() = default;

const app::Findings& Person::findings()
{
    return dynamic_cast<app::SortPage&>(*window_->page("sort")).findings();
}

app::Places Person::places() const
{
    return {folder_ / "previews", folder_ / "recovery", folder_ / "demo", folder_ / "filings", folder_ / "kept"};
}

void Person::start()
{
    settings_ = std::make_unique<QSettings>(app::to_qt(folder_ / "settings.ini"), QSettings::IniFormat);
    window_ = std::make_unique<app::MainWindow>(places(), *settings_);
    window_->resize(size_);
    window_->show();
    window_->activateWindow();
    if (!QTest::qWaitForWindowActive(window_.get()))
        fail(QStringLiteral("the window does not come up"));
}

void Person::kill_and_restart()
{
    window_.reset(); // destroyed, not closed: nothing is asked and nothing saved
    start();
}

void Person::fail(const QString& why)
{
    const QString file = QDir::tempPath() + QStringLiteral("/frenlo-failed.png");
    save_picture(file);
    throw std::runtime_error((why + QStringLiteral(" (the window: ") + file + QStringLiteral(")")).toStdString());
}

QWidget* Person::find(const QString& name)
{
    QWidget* found = nullptr;
    for (QWidget* top : QApplication::topLevelWidgets())
        for (QWidget* w : top->findChildren<QWidget*>()) {
            const auto* button = qobject_cast<QAbstractButton*>(w);
            const bool named = w->accessibleName() == name || (button && button->text() == name);
            if (named && w->isVisible())
                found = found && found->isEnabled() ? found : w;
        }
    if (!found)
        fail(QStringLiteral("there is no “%1” to be seen").arg(name));
    return found;
}

bool Person::sees(const QString& name)
{
    for (QWidget* w : window_->findChildren<QWidget*>()) {
        const auto* button = qobject_cast<QAbstractButton*>(w);
        if (w->isVisible() && (w->accessibleName() == name || (button && button->text() == name)))
            return true;
    }
    return false;
}

void Person::click(const QString& name)
{
    QWidget* w = find(name);
    if (!w->isEnabled())
        fail(QStringLiteral("“%1” cannot be pressed").arg(name));
    QTest::mouseClick(w, Qt::LeftButton);
    QApplication::processEvents(); // what the click brought is laid out before the next
}

void Person::click_photo(int number, Qt::KeyboardModifiers modifiers)
{
    auto& view = sheet();
    view.scroll_to(PhotoIndex(number - 1));
    const QRect tile = view.tile_in_view(PhotoIndex(number - 1));
    if (tile.isNull())
        fail(QStringLiteral("photo %1 is not on the Sheet").arg(number));
    QTest::mouseClick(view.viewport(), Qt::LeftButton, modifiers, tile.center());
}

void Person::drag_over_photos(int from, int to)
{
    auto& view = sheet();
    drag_on_sheet(view.tile_in_view(PhotoIndex(from - 1)).center(), view.tile_in_view(PhotoIndex(to - 1)).center());
}

void Person::drag_on_sheet(QPoint from, QPoint to)
{
    QWidget* page = sheet().viewport();
    QTest::mousePress(page, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 8; ++i) {
        const QPoint at = from + (to - from) * i / 8;
        QMouseEvent move(QEvent::MouseMove, at, page->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(page, &move);
    }
    QTest::mouseRelease(page, Qt::LeftButton, {}, to);
}

QPoint Person::on_picture(QPointF share)
{
    wait_for_pictures();
    const QRectF at = window_->findChild<app::PictureView*>()->place();
    return QPointF(at.left() + share.x() * at.width(), at.top() + share.y() * at.height()).toPoint();
}

void Person::click_on_picture(QPointF share)
{
    const QPoint at = on_picture(share);
    QTest::mouseClick(window_->findChild<app::PictureView*>(), Qt::LeftButton, {}, at);
}

void Person::drag_on_picture(QPointF from, QPointF to)
{
    drag_on_picture(std::vector{from, to});
}

void Person::drag_on_picture(const std::vector<QPointF>& way)
{
    auto* view = window_->findChild<app::PictureView*>();
    QTest::mousePress(view, Qt::LeftButton, {}, on_picture(way.front()));
    constexpr int steps = 4;
    for (std::size_t p = 1; p < way.size(); ++p)
        for (int i = 1; i <= steps; ++i) { // QTest's own moves carry no button
            const QPoint a = on_picture(way[p - 1]), b = on_picture(way[p]);
            const QPointF at(a + (b - a) * i / steps);
            QMouseEvent move(QEvent::MouseMove, at, view->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(view, &move);
        }
    QTest::mouseRelease(view, Qt::LeftButton, {}, on_picture(way.back()));
}

app::SheetView& Person::sheet()
{
    return *window_->findChild<app::SheetView*>();
}

void Person::key(Qt::Key key, Qt::KeyboardModifiers modifiers)
{
    if (!window_->isActiveWindow() && !QApplication::activeModalWidget()) { // as after a dialog closed
        window_->activateWindow();
        wait_until([this] { return window_->isActiveWindow(); }, QStringLiteral("the window is active"));
    }
    QWidget* focus = QApplication::focusWidget();
    QTest::keyClick(focus ? focus : window_.get(), key, modifiers);
}

void Person::type_into(const QString& name, const QString& text)
{
    QWidget* w = find(name);
    if (auto* combo = qobject_cast<QComboBox*>(w))
        w = combo->lineEdit();
    w->setFocus();
    QTest::keyClick(w, Qt::Key_A, Qt::ControlModifier);
    if (text.isEmpty())
        QTest::keyClick(w, Qt::Key_Delete);
    QTest::keyClicks(w, text);
    QTest::keyClick(w, Qt::Key_Return);
    QApplication::processEvents();
}

void Person::choose(const QString& combo, const QString& item)
{
    auto* box = find<QComboBox>(combo);
    const int index = box->findText(item);
    if (index < 0)
        fail(QStringLiteral("“%1” has no “%2”").arg(combo, item));
    box->setCurrentIndex(index);
    Q_EMIT box->activated(index); // what a click in the list does; the list is a window of its own
}

QAction* Person::menu(const QString& text)
{
    for (QAction* a : window_->findChildren<QAction*>())
        if (a->text().remove(QLatin1Char('&')) == text)
            return a;
    fail(QStringLiteral("no menu has “%1”").arg(text));
}

void Person::wait_until(const std::function<bool()>& condition, const QString& what, int most_ms)
{
    if (!QTest::qWaitFor(condition, most_ms))
        fail(QStringLiteral("it never happens: ") + what);
}

void Person::wait_for_pictures()
{
    wait_until([this] { return window_->at_rest(); }, QStringLiteral("all pictures are there"), 120'000);
    QApplication::processEvents();
}

void Person::export_film(const std::filesystem::path& file)
{
    key(Qt::Key_7, Qt::ControlModifier);
    type_into(QStringLiteral("File"), app::to_qt(file));
    export_now();
}

void Person::export_now(int most_ms)
{
    QString button;
    wait_until(
        [&] {
            for (const char* what : {"Export the film", "Export the loop", "Export the stills"})
                if (sees(QLatin1String(what)) && find(QLatin1String(what))->isEnabled())
                    button = QLatin1String(what);
            return !button.isEmpty() && sees(QStringLiteral("What will be written"));
        },
        QStringLiteral("it can be exported"));
    click(button);
    const auto* state = find<QLabel>(QStringLiteral("State of the export"));
    if (!QTest::qWaitFor([&] { return state->text().contains(QStringLiteral("checked")); }, most_ms))
        fail(QStringLiteral("it is not written, but “%1”").arg(state->text()));
}

void Person::answer_folder(const std::filesystem::path& folder)
{
    QFileDialog* dialog = nullptr;
    wait_until([&] { return (dialog = window_->findChild<QFileDialog*>()) != nullptr; },
               QStringLiteral("the folder is asked for"));
    dialog->findChild<QLineEdit*>(QStringLiteral("fileNameEdit"))->setText(app::to_qt(folder));
    QMetaObject::invokeMethod(dialog, "accept");
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
}

void Person::bring_in(const std::filesystem::path& folder)
{
    window_->take_in({folder});
    wait_until([this] { return !window_->session().is_empty() && !window_->session().busy(); },
               QStringLiteral("the photos are brought in"));
}

void Person::look(const char* name)
{
    const QString folder = qEnvironmentVariable("FRENLO_LOOK");
    if (folder.isEmpty())
        return;
    wait_for_pictures();
    save_picture(folder + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png"));
}

void Person::look(const char* name, QWidget& at)
{
    if (const QString folder = qEnvironmentVariable("FRENLO_LOOK"); !folder.isEmpty())
        at.grab().save(folder + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png"));
}

void Person::save_picture(const QString& file)
{
    window_->grab().save(file);
}

}
