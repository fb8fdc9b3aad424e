// The window's menus and keys.
#include "app/picture/picture_view.h"
#include "app/picture/timing_line.h"
#include "app/sheet/sheet_panel.h"
#include "app/theme/theme.h"
#include "app/window/guide_page.h"
#include "app/window/keys_page.h"
#include "app/window/main_window.h"
#include "app/window/notice_bar.h"
#include "app/window/route.h"
#include "app/window/settings_page.h"
#include "app/work/desktop.h"

#include <QAction>
#include <QActionGroup>
#include <QApplication>
#include <QFileInfo>
#include <QMenuBar>

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
    add(file, tr("&New"), QKeySequence::New, [this] { desk_->start_new(); });
    add(file, tr("&Open…"), QKeySequence::Open, [this] { desk_->ask_project(); });
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
    add(file, tr("Bring a &folder in…"), tr("Ctrl+I"), [this] { desk_->ask_folder(); });
    add(file, tr("Bring a &numbered series in…"), {}, [this] { desk_->ask_run(); });
    add(file, tr("S&hoot with a camera"), {}, [this] { viewing().set_step("shoot"); });
    file->addSeparator();
    add(file, tr("&Save"), QKeySequence::Save, [this] { desk_->save(); });
    add(file, tr("Save &as…"), QKeySequence::SaveAs, [this] { desk_->save_as(); });
    add(file, tr("&Collect into a folder…"), {}, [this] { desk_->ask_collect(); });
    add(file, tr("&Export"), tr("Ctrl+E"), [this] { viewing().set_step("export"); });
    file->addSeparator();
    add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QAction* undo = add(edit, tr("&Undo"), QKeySequence::Undo, [this] { session().undo(); });
    QAction* redo = add(edit, tr("&Redo"), tr("Ctrl+Shift+Z"), [this] { session().redo(); });
    const auto refresh = [this, undo, redo] {
        const QString back = session().undo_name(), on = session().redo_name();
        undo->setEnabled(!back.isEmpty());
        redo->setEnabled(!on.isEmpty());
        undo->setText(back.isEmpty() ? tr("&Undo") : tr("&Undo: %1").arg(back));
        redo->setText(on.isEmpty() ? tr("&Redo") : tr("&Redo: %1").arg(on));
    };
    connect(&session(), &Session::changed, this, refresh);
    refresh();
    edit->addSeparator();
    add(edit, tr("&Settings…"), tr("Ctrl+,"), [this] { show_settings(); });

    QMenu* act = menuBar()->addMenu(tr("&Do"));
    const auto fill = [this, act] {
        if (keys_)
            keys_->fill(*act);
    };
    connect(act, &QMenu::aboutToShow, this, fill);
    connect(&viewing(), &Viewing::step_changed, act, fill, Qt::QueuedConnection);
    build_view_menu();

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add(help, tr("&Where is …?"), {}, [this] { ask_where(); });
    add(help, tr("&Guide"), {}, [this] { make_guide(this)->show(); });
    add(help, tr("&Keys"), QKeySequence::HelpContents, [this] { (new KeysPage(key_help(), this))->show(); });
    add(help, tr("Look at the &demo"), {}, [this] { show_demo(); });
    help->addSeparator();
    add(help, tr("&About Frenlo"), {}, [this] { make_about(this)->show(); });
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
    int number = 1;
    QString before;
    for (const StepModule* module : step_modules()) {
        const QString name = name_of(*module);
        if (name != before && !module->info.from_nothing) // the steps of one station share its key
            add(name, QKeySequence(tr("Ctrl+%1").arg(number++)), [this, name] { route_->go_to(name); });
        before = name;
    }
    view->addSeparator();
    const auto middle = [this] { return sheet().viewport()->rect().center(); };
    add(tr("Sheet &larger"), QKeySequence::ZoomIn, [this, middle] { sheet().zoom(1, middle()); });
    add(tr("Sheet &smaller"), QKeySequence::ZoomOut, [this, middle] { sheet().zoom(-1, middle()); });
    add(tr("Sheet as it f&its"), tr("Ctrl+0"), [this] {
        sheet().set_row_length(std::nullopt);
        sheet().set_tile_width(std::nullopt);
    });
    view->addSeparator();
    add(tr("Shot &before"), tr("Ctrl+PgUp"), [this] { next_shot(-1); });
    add(tr("&Next shot"), tr("Ctrl+PgDown"), [this] { next_shot(1); });
    view->addSeparator();
    QMenu* count = view->addMenu(tr("&Count in"));
    auto* group = new QActionGroup(count);
    const std::array names{tr("Minutes, seconds, frames"), tr("Timecode"),
                           tr("Timecode, drop-frame where it is defined"), tr("Frames"), tr("Seconds")};
    for (const Counting counting : all_countings) {
        QAction* one = count->addAction(names.at(std::size_t(counting)));
        one->setCheckable(true);
        connect(count, &QMenu::aboutToShow, one,
                [this, one, counting] { one->setChecked(counting == viewing().counting()); });
        group->addAction(one);
        connect(one, &QAction::triggered, this, [this, counting] {
            viewing().set_counting(counting);
            settings_.set_counting(counting);
        });
    }
    QAction* timing = add(tr("Player &timing"), {}, [this](bool on) { timing_->set_on(on); });
    timing->setCheckable(true);
    add(tr("&Full screen"), {}, [this] { set_full_screen(!isFullScreen()); });
    QAction* dim = add(tr("&Dim room"), {}, [this](bool on) {
        settings_.set_theme(on ? ThemeChoice::dim_room : ThemeChoice::paper);
        apply_theme(*qApp, settings_.theme());
    });
    dim->setCheckable(true);
    connect(new DesktopScheme(QDBusConnection::sessionBus(), this), &DesktopScheme::changed, this, [this] {
        if (settings_.theme_choice() == ThemeChoice::as_desktop)
            apply_theme(*qApp, settings_.theme());
    });
    connect(view, &QMenu::aboutToShow, dim, [this, dim] { dim->setChecked(settings_.theme() == ThemeName::dim_room); });
}

void MainWindow::show_settings()
{
    auto* page = new SettingsPage(settings_, work_->store, work_->background, this);
    connect(page, &SettingsPage::theme_changed, this, [this] { apply_theme(*qApp, settings_.theme()); });
    connect(page, &SettingsPage::counting_changed, this, [this] { viewing().set_counting(settings_.counting()); });
    connect(page, &SettingsPage::beginnings_changed, this,
            [this] { session().set_beginnings(settings_.beginnings()); });
    connect(page, &SettingsPage::looks_near_by_changed, this,
            [this] { desk_->set_look_near_by(settings_.looks_near_by()); });
    page->show();
}

void MainWindow::build_keys()
{
    using enum StepKey::Where;
    keys_ = new KeyTable(viewing(), *this, sheet());
    // Shift changes what some keys type on most keyboards: both what is typed and the key are taken.
    const QList<QKeySequence> photo_back{Qt::SHIFT | Qt::Key_Comma, Qt::SHIFT | Qt::Key_Less,
                                         Qt::SHIFT | Qt::Key_Semicolon};
    const QList<QKeySequence> photo_on{Qt::SHIFT | Qt::Key_Period, Qt::SHIFT | Qt::Key_Greater,
                                       Qt::SHIFT | Qt::Key_Colon};
    const auto onion = [this] {
        OnionSkin skin = picture_->onion_skin();
        skin.on = !skin.on;
        picture_->set_onion_skin(skin);
    };
    keys_->add({},
               {named(tr("Play or stop"), {{Qt::Key_Space}, [this] { player().toggle(); }, rows}),
                named(tr("A frame back"), {{Qt::Key_Comma}, [this] { viewing().step_frames(-1); }, everywhere, true}),
                named(tr("A frame on"), {{Qt::Key_Period}, [this] { viewing().step_frames(1); }, everywhere, true}),
                named(tr("A photo back"), {photo_back, [this] { viewing().step_photos(-1); }, everywhere, true}),
                named(tr("A photo on"), {photo_on, [this] { viewing().step_photos(1); }, everywhere, true}),
                named(tr("At full size, or whole again"),
                      {{Qt::Key_Z}, [this] { picture_->set_full_size(!picture_->full_size()); }, everywhere}),
                named(tr("Onion skin"), {{Qt::Key_G}, onion, everywhere}),
                named(tr("Where is …?"), {{Qt::SHIFT | Qt::Key_Question, Qt::Key_Question, Qt::SHIFT | Qt::Key_Slash},
                                          [this] { ask_where(); },
                                          everywhere}),
                named(tr("The picture on the full screen"),
                      {{Qt::Key_F11}, [this] { set_full_screen(!isFullScreen()); }, everywhere}),
                named(tr("End what goes on"), {{Qt::Key_Escape}, [this] { end_what_goes_on(); }, everywhere}),
                named(tr("As shot"), held_key(
                                         Qt::Key_B, [this](bool on) { picture_->show_as_shot(on); }, everywhere)),
                named(tr("What it is compared with"),
                      held_key(
                          Qt::Key_C, [this](bool on) { picture_->show_before(on); }, everywhere))});
    for (std::size_t i = 0; i < pages_.size(); ++i)
        keys_->add(step_modules()[i]->info.key, pages_[i]->keys());
}

std::vector<WherePlace> MainWindow::where_places()
{
    std::vector<WherePlace> all;
    for (std::size_t i = 0; i < pages_.size(); ++i) {
        auto some = places_of(*step_modules()[i], *pages_[i]);
        all.insert(all.end(), some.begin(), some.end());
    }
    auto menus = places_of(menuBar()->actions());
    all.insert(all.end(), menus.begin(), menus.end());
    return all;
}

void MainWindow::ask_where()
{
    auto* where = new WhereIs(where_places(), this);
    connect(where, &WhereIs::chosen, this, &MainWindow::go_to_place);
    where->show();
}

void MainWindow::go_to_place(const WherePlace& place)
{
    if (place.action) {
        notice_->show_message(tr("“%1” is in the %2.").arg(place.name, place.station),
                              {{tr("Do it"), [action = place.action] {
                                    if (action)
                                        action->trigger();
                                }}});
        return;
    }
    if (session().is_empty() && place.step != "shoot") {
        notice_->show_message(tr("“%1” is on %2, once there are photos.").arg(place.name, place.station));
        return;
    }
    viewing().set_step(place.step);
    if (!place.control)
        return;
    if (!show_pages_around(*place.control)) {
        notice_->show_message(
            tr("“%1” is here on %2, and is shown when there is something to set.").arg(place.name, place.station));
        return;
    }
    place.control->setFocus(Qt::ShortcutFocusReason);
    point_at(*place.control);
}

void MainWindow::end_what_goes_on()
{
    if (isFullScreen())
        set_full_screen(false);
    else if (picture_->tool())
        picture_->set_tool(nullptr);
    else if (shown_ && shown_->end_what_goes_on())
        return;
    else if (workspace_->bench_has_focus())
        sheet().setFocus(); // out of a field, what was typed is left
    else
        sheet().select_none();
}

std::vector<KeyHelp> MainWindow::key_help() const
{
    std::vector<KeyHelp> help{
        {tr("Space"), tr("play or stop")},
        {tr(",   ."), tr("one frame back, one frame on")},
        {tr("Shift + ,   Shift + ."), tr("one photo back, one photo on")},
        {tr("G"), tr("onion skin")},
        {tr("B"), tr("held: as shot")},
        {tr("C"), tr("held: what the photo is compared with, in Sort the one before")},
        {tr("Z"), tr("the picture at full size, or whole again")},
        {tr("Arrow keys, Page, Home, End"), tr("move on the Sheet; with Shift the selection grows")},
        {tr("?"), tr("where is …? Any control, by its name or by another word for it")},
        {tr("Ctrl + A   Esc"), tr("select all photos of the shot; select none")}};
    QStringList names;
    for (std::size_t i = 0; i < pages_.size(); ++i) {
        for (const KeyHelp& line : pages_[i]->key_help())
            help.push_back(line);
        if (const QString name = name_of(*step_modules()[i]);
            !names.contains(name) && !step_modules()[i]->info.from_nothing)
            names << name;
    }
    help.push_back({tr("F11   Esc"), tr("the picture on the full screen, and back")});
    help.push_back({tr("Ctrl + 1 … Ctrl + %1").arg(names.size()), names.join(QStringLiteral(", "))});
    help.push_back({tr("Ctrl + Page Up   Ctrl + Page Down"), tr("the shot before, the next shot")});
    help.push_back({tr("Ctrl + Z   Ctrl + Shift + Z"), tr("undo, redo")});
    help.push_back({tr("Ctrl + N   Ctrl + O   Ctrl + S"), tr("new, open, save")});
    help.push_back({tr("Ctrl + I"), tr("bring a folder of photos in")});
    return help;
}

}
