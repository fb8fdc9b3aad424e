// The window's menus, keys and questions.
#include "app/picture/picture_view.h"
#include "app/sheet/sheet_panel.h"
#include "app/steps/sort/sort_bench.h"
#include "app/theme/theme.h"
#include "app/window/keys_page.h"
#include "app/window/main_window.h"
#include "app/window/notice_bar.h"
#include "core/steps/sort/scan.h"

#include <QAbstractButton>
#include <QAction>
#include <QActionGroup>
#include <QApplication>
#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>
#include <QMenuBar>
#include <QMessageBox>
#include <QSlider>
#include <QStackedWidget>
#include <QTreeWidget>

#include <array>

namespace frenlo::app {

void MainWindow::build_menus()
{
    QMenu* file = menuBar()->addMenu(tr("&File"));
    const auto add = [this](QMenu* menu, const QString& text, const QKeySequence& keys, auto slot) {
        QAction* action = menu->addAction(text);
        action->setShortcut(keys);
        connect(action, &QAction::triggered, this, slot);
        return action;
    };
    add(file, tr("&New"), QKeySequence::New, [this] { when_settled([this] { session_->start({}, {}); }); });
    add(file, tr("&Open…"), QKeySequence::Open, [this] { ask_project(); });
    QMenu* recent = file->addMenu(tr("Open &recent"));
    connect(recent, &QMenu::aboutToShow, this, [this, recent] {
        recent->clear();
        const QStringList files = settings_.recent();
        for (const QString& f : files)
            connect(recent->addAction(QFileInfo(f).completeBaseName() + QStringLiteral("  –  ") + QFileInfo(f).path()),
                    &QAction::triggered, this, [this, f] { open(from_qt(f)); });
        if (recent->isEmpty())
            recent->addAction(tr("nothing yet"))->setEnabled(false);
    });
    file->addSeparator();
    add(file, tr("Bring a &folder in…"), tr("Ctrl+I"), [this] { ask_folder(); });
    add(file, tr("Bring a r&un in…"), {}, [this] { ask_run(); });
    file->addSeparator();
    add(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
    add(file, tr("Save &as…"), QKeySequence::SaveAs, [this] { save_as(); });
    add(file, tr("&Export"), tr("Ctrl+E"), [this] { viewing_->set_step(Step::export_); });
    file->addSeparator();
    add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QAction* undo = add(edit, tr("&Undo"), QKeySequence::Undo, [this] { session_->undo(); });
    QAction* redo = add(edit, tr("&Redo"), tr("Ctrl+Shift+Z"), [this] { session_->redo(); });
    const auto refresh = [this, undo, redo] {
        const QString back = session_->undo_name(), on = session_->redo_name();
        undo->setEnabled(!back.isEmpty());
        redo->setEnabled(!on.isEmpty());
        undo->setText(back.isEmpty() ? tr("&Undo") : tr("&Undo: %1").arg(back));
        redo->setText(on.isEmpty() ? tr("&Redo") : tr("&Redo: %1").arg(on));
    };
    connect(session_.get(), &Session::changed, this, refresh);
    refresh();

    build_view_menu();

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add(help, tr("&Keys"), QKeySequence::HelpContents, [this] { make_keys_page(this)->show(); });
    add(help, tr("Look at the &demo"), {}, [this] { show_demo(); });
}

void MainWindow::build_view_menu()
{
    QMenu* view = menuBar()->addMenu(tr("&View"));
    const auto add = [this, view](const QString& text, const QKeySequence& keys, auto slot) {
        QAction* action = view->addAction(text);
        action->setShortcut(keys);
        connect(action, &QAction::triggered, this, slot);
        return action;
    };
    const std::pair<QString, Step> steps[] = {{tr("&Sort"), Step::sort}, {tr("&Pace"), Step::pace}, {tr("S&teady"), Step::steady}, {tr("&Light"), Step::light}, {tr("&Export"), Step::export_}};
    int number = 1;
    for (const auto& [name, step] : steps)
        add(name, QKeySequence(tr("Ctrl+%1").arg(number++)), [this, step = step] { viewing_->set_step(step); });
    view->addSeparator();
    add(tr("Shot &before"), tr("Ctrl+PgUp"), [this] { next_shot(-1); });
    add(tr("&Next shot"), tr("Ctrl+PgDown"), [this] { next_shot(1); });
    view->addSeparator();
    QMenu* count = view->addMenu(tr("&Count in"));
    auto* group = new QActionGroup(count);
    const std::array names{tr("Minutes, seconds, frames"), tr("Timecode"), tr("Timecode, drop-frame where it is defined"),
                           tr("Frames"), tr("Seconds")};
    for (const Counting counting : all_countings) {
        QAction* one = count->addAction(names.at(std::size_t(counting)));
        one->setCheckable(true);
        one->setChecked(counting == viewing_->counting());
        group->addAction(one);
        connect(one, &QAction::triggered, this, [this, counting] {
            viewing_->set_counting(counting);
            settings_.set_counting(counting);
        });
    }
    QAction* timing = add(tr("Player &timing"), {}, [this](bool on) { show_timing(on); });
    timing->setCheckable(true);
    add(tr("&Full screen"), {}, [this] { set_full_screen(!isFullScreen()); });
    QAction* dim = add(tr("&Dim room"), {}, [this](bool on) { set_theme(on ? ThemeName::dim_room : ThemeName::paper); });
    dim->setCheckable(true);
    dim->setChecked(settings_.theme() == ThemeName::dim_room);
}

void MainWindow::build_single_keys()
{
    const auto key = [this](const QKeySequence& keys, auto slot, bool repeats = false) {
        auto* action = new QAction(this);
        action->setShortcut(keys);
        action->setAutoRepeat(repeats);
        connect(action, &QAction::triggered, this, slot);
        addAction(action);
    };
    for (int n = 1; n <= 9; ++n)
        key(QKeySequence(Qt::Key_0 + n), [this, n] { pace_controller_->set_hold(Frames{n}); });
    key(Qt::Key_Space, [this] {
        if (viewing_->step() != Step::sort)
            player_->toggle();
    });
    key(Qt::Key_Comma, [this] { viewing_->step_frames(-1); }, true);
    key(Qt::Key_Period, [this] { viewing_->step_frames(1); }, true);
    // Shift changes what these keys type on most keyboards: both what is typed and the key are taken.
    for (const auto& keys : {QKeySequence(Qt::SHIFT | Qt::Key_Comma), QKeySequence(Qt::SHIFT | Qt::Key_Less), QKeySequence(Qt::SHIFT | Qt::Key_Semicolon)})
        key(keys, [this] { viewing_->step_photos(-1); }, true);
    for (const auto& keys : {QKeySequence(Qt::SHIFT | Qt::Key_Period), QKeySequence(Qt::SHIFT | Qt::Key_Greater), QKeySequence(Qt::SHIFT | Qt::Key_Colon)})
        key(keys, [this] { viewing_->step_photos(1); }, true);
    key(Qt::Key_Z, [this] { picture_->set_full_size(!picture_->full_size()); });
    key(Qt::Key_X, [this] { sort_controller_->toggle_aside(); });
    key(Qt::Key_BracketLeft, [this] { viewing_->step() == Step::sort ? sort_controller_->first_here() : pace_controller_->keep_from_here(); });
    key(Qt::Key_BracketRight, [this] { viewing_->step() == Step::sort ? sort_controller_->last_here() : pace_controller_->keep_to_here(); });
    // Signs are typed with Shift on some keyboards: all ways to them are taken.
    for (const auto& keys : {QKeySequence(Qt::Key_Plus), QKeySequence(Qt::SHIFT | Qt::Key_Plus), QKeySequence(Qt::SHIFT | Qt::Key_Equal)})
        key(keys, [this] { pace_controller_->lengthen(1); }, true);
    key(Qt::Key_Minus, [this] { pace_controller_->lengthen(-1); }, true);
    key(Qt::Key_M, [this] {
        if (viewing_->step() != Step::sort)
            pace_controller_->mark_here();
    });
    key(Qt::Key_G, [this] {
        OnionSkin skin = picture_->onion_skin();
        skin.on = !skin.on;
        picture_->set_onion_skin(skin);
    });
    key(Qt::Key_F11, [this] { set_full_screen(!isFullScreen()); });
    key(Qt::Key_Escape, [this] {
        if (isFullScreen())
            set_full_screen(false);
        else if (picture_->tool())
            picture_->set_tool(nullptr);
        else if (steady_controller_->nudging())
            steady_controller_->set_nudging(false);
        else if (viewing_->step() == Step::steady && picture_->comparing() != Compare::off)
            picture_->set_comparing(Compare::off);
        else if (benches_->isAncestorOf(QApplication::focusWidget()))
            sheet_->view().setFocus(); // out of a field, what was typed is left
        else
            sheet_->view().select_none();
    });
    qApp->installEventFilter(this);
}

/// Arrow keys while a photo is moved by hand; Esc ends it. Whether the key was one of these.
bool MainWindow::nudge_by(const QKeyEvent& key)
{
    const double step = key.modifiers() & Qt::ShiftModifier ? 1 : 0.1; // px
    const double turn = step / 10; // degrees
    const auto by = [&](cv::Point2d px, double degrees) {
        steady_controller_->nudge(px, degrees, !key.isAutoRepeat());
        return true;
    };
    switch (key.key()) {
    case Qt::Key_Left:
        return by({-step, 0}, 0);
    case Qt::Key_Right:
        return by({step, 0}, 0);
    case Qt::Key_Up:
        return by({0, -step}, 0);
    case Qt::Key_Down:
        return by({0, step}, 0);
    case Qt::Key_PageUp: // against the clock
        return by({0, 0}, -turn);
    case Qt::Key_PageDown:
        return by({0, 0}, turn);
    default:
        return false;
    }
}

/// A focused button, list or slider keeps the keys that it is worked with; only what it has no use for reaches the
/// window's single keys.
bool MainWindow::eventFilter(QObject* watched, QEvent* event)
{
    // C and B are held: an action only knows presses.
    const bool pressed = event->type() == QEvent::KeyPress;
    if ((pressed || event->type() == QEvent::KeyRelease) && watched == &sheet_->view()) {
        const auto* held = static_cast<QKeyEvent*>(event);
        if (held->key() == Qt::Key_C && held->modifiers() == Qt::NoModifier) {
            if (!held->isAutoRepeat())
                picture_->show_before(pressed);
            return true;
        }
        if (pressed && steady_controller_->nudging() && nudge_by(*held))
            return true;
        if (held->key() == Qt::Key_B && held->modifiers() == Qt::NoModifier) {
            if (!held->isAutoRepeat())
                picture_->show_as_shot(pressed);
            return true;
        }
    }
    if (event->type() != QEvent::ShortcutOverride)
        return QMainWindow::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool plain = !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
    const bool button = qobject_cast<QAbstractButton*>(watched) && key->key() == Qt::Key_Space;
    const bool typed_in = plain && (qobject_cast<QComboBox*>(watched) || qobject_cast<QTreeWidget*>(watched)) && !key->text().isEmpty();
    if (button || typed_in) {
        event->accept();
        return true;
    }
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::ask_folder()
{
    auto* dialog = new QFileDialog(this, tr("Bring a folder in"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& folder) { take_in({from_qt(folder)}); });
    dialog->open();
}

void MainWindow::ask_run()
{
    auto* dialog = new QFileDialog(this, tr("Choose one photo of the run"), {},
                                   tr("Photos (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.JPG *.JPEG *.PNG *.TIF *.TIFF)"));
    dialog->setFileMode(QFileDialog::ExistingFile);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& photo) { take_in({from_qt(photo)}); });
    dialog->open();
}

void MainWindow::ask_better_set()
{
    if (!viewing_->shot())
        return;
    const ShotPtr shot = session_->project().shots[viewing_->shot_index().at()];
    auto* dialog = new QFileDialog(this, tr("Choose the folder with the better set"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this, shot](const QString& folder) {
        background_->run(
            this,
            [shot, places = std::array{from_qt(folder)}] {
                return Background::guarded([&] {
                    std::vector<PhotoPtr> have, better;
                    for (const auto& p : shot->photos)
                        have.push_back(p.photo);
                    for (const auto& found : scan(places, {.looking = Looking::at_headers}, {}).photos)
                        if (found.state == PhotoState::fine)
                            better.push_back(found.photo);
                    return plan_swap(have, better);
                });
            },
            [this, shot, folder](const Result<SwapPlan>& plan) {
                if (plan)
                    sort_->swap_page().show_plan(shot, *plan, folder);
                else
                    notice_->show_message(QString::fromStdString(plan.error().text()));
            });
    });
    dialog->open();
}

void MainWindow::ask_where_photos_are()
{
    auto* dialog = new QFileDialog(this, tr("Choose the folder to look in"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& folder) { session_->find_again(from_qt(folder)); });
    dialog->open();
}

void MainWindow::ask_project()
{
    auto* dialog = new QFileDialog(this, tr("Open a project"), {}, tr("Frenlo projects (*.frenlo)"));
    dialog->setFileMode(QFileDialog::ExistingFile);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) { open(from_qt(file)); });
    dialog->open();
}

void MainWindow::save()
{
    if (session_->file().empty())
        save_as();
    else
        session_->save(session_->file());
}

void MainWindow::save_as()
{
    auto* dialog = new QFileDialog(this, tr("Save the project"), {}, tr("Frenlo projects (*.frenlo)"));
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setDefaultSuffix(QStringLiteral("frenlo"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    // Beside the photos, where it is found again.
    if (session_->file().empty() && !session_->is_empty()) {
        const auto& first = session_->project().shots.front();
        if (!first->photos.empty())
            dialog->setDirectory(to_qt(first->photos.front().photo->file.parent_path().parent_path()));
        dialog->selectFile(QString::fromStdString(first->name) + QStringLiteral(".frenlo"));
    } else if (!session_->file().empty()) {
        dialog->selectFile(to_qt(session_->file()));
    }
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) { session_->save(from_qt(file)); });
    connect(dialog, &QFileDialog::rejected, this, [this] { after_save_ = {}; });
    dialog->open();
}

void MainWindow::when_settled(std::function<void()> go_on)
{
    if (session_->saved() || session_->is_empty()) {
        go_on();
        return;
    }
    auto* question = new QMessageBox(QMessageBox::NoIcon, tr("Unsaved work"),
                                     tr("“%1” has changes that are not saved.").arg(session_->name()),
                                     QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
    question->setAttribute(Qt::WA_DeleteOnClose);
    connect(question, &QMessageBox::buttonClicked, this, [this, question, go_on = std::move(go_on)](QAbstractButton* pressed) {
        const auto answer = question->standardButton(pressed);
        if (answer == QMessageBox::Discard) {
            session_->start({}, {}); // gone on purpose: nothing is kept for recovery
            go_on();
        } else if (answer == QMessageBox::Save) {
            after_save_ = go_on;
            save();
        }
    });
    question->open();
}

void MainWindow::offer_recovery()
{
    background_->run(
        this, [folder = places_.recovery] { return abandoned_work(folder); },
        [this](const std::vector<AbandonedWork>& found) {
            if (found.empty())
                return;
            const AbandonedWork& work = found.front();
            const QString name = work.saved_as.empty() ? tr("a project without a name")
                                                       : tr("“%1”").arg(to_qt(work.saved_as.stem()));
            const QString when = QFileInfo(to_qt(work.kept)).lastModified().toString(QStringLiteral("d MMM HH:mm"));
            notice_->show_message(
                tr("Work on %1 from %2 was not saved before Frenlo ended.").arg(name).arg(when),
                {{tr("Take it back"),
                  [this, work] {
                      background_->run(
                          this, [work] { return Background::guarded([&] { return recovered(work); }); },
                          [this, work](Result<Project> project) {
                              if (!project) {
                                  notice_->show_message(QString::fromStdString(project.error().text()));
                                  return;
                              }
                              session_->take_back(std::move(*project), work.saved_as);
                              background_->run(this, [work] { return forget(work), true; }, [](bool) {});
                          });
                  }},
                 {tr("Throw it away"),
                  [this, work] { background_->run(this, [work] { return forget(work), true; }, [](bool) {}); }}});
        });
}

}
