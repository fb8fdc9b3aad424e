#include "app/window/main_window.h"

#include "app/picture/picture_view.h"
#include "app/picture/timing_line.h"
#include "app/sheet/sheet_panel.h"
#include "app/theme/theme.h"
#include "app/window/load_planner.h"
#include "app/window/monitor_profile.h"
#include "app/window/next_step.h"
#include "app/window/notice_bar.h"
#include "app/window/route.h"
#include "app/window/start_page.h"
#include "core/base/unfinished.h"

#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QMenuBar>
#include <QMimeData>
#include <QStackedWidget>
#include <QUrl>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

QString zoom_key(ShotId shot, bool tiles)
{
    return QString::fromStdString(id_text(shot.value)) + (tiles ? QStringLiteral(" tiles") : QString());
}

}

namespace {

std::vector<StepInfo> step_infos()
{
    std::vector<StepInfo> infos;
    for (const StepModule* module : step_modules())
        infos.push_back(module->info);
    return infos;
}

}

MainWindow::MainWindow(const Places& places, QSettings& settings, QWidget* parent)
    : QMainWindow(parent), places_(places), settings_(settings), work_(std::make_unique<Workshop>(places, step_infos()))
{
    work_->viewing.set_counting(settings_.counting());
    work_->store.set_limit(settings_.previews_limit());
    work_->session.set_beginnings(settings_.beginnings());
    work_->loader.show_on(MonitorColours::of_profile(monitor_profile()));
    build_parts();
    build_pages();
    build_menus();
    build_keys();
    connect(&work_->session, &Session::changed, this, &MainWindow::refresh_title);
    connect(&work_->session, &Session::changed, this, &MainWindow::refresh_page);
    connect(&work_->viewing, &Viewing::step_changed, this, &MainWindow::show_step);
    connect(&work_->viewing, &Viewing::step_changed, this, &MainWindow::refresh_page);
    refresh_title();
    refresh_page();
    show_step();
    desk_->offer_recovery();
    work_->background.run(
        this, [] { return sweep_unfinished().size(); }, [](std::size_t) {});
}

MainWindow::~MainWindow()
{
    work_->player.stop();
    work_->background.finish();
    delete takeCentralWidget(); // its parts refer to the pages and to what they work with
    pages_.clear();
}

void MainWindow::build_parts()
{
    setAcceptDrops(true);
    resize(1280, 800);
    setMinimumSize(900, 600);
    auto* whole = new QWidget;
    auto* column = new QVBoxLayout(whole);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    route_ = new Route(work_->session, work_->viewing);
    notice_ = new NoticeBar;
    stack_ = new QStackedWidget;
    for (QWidget* part : std::initializer_list<QWidget*>{route_, notice_})
        column->addWidget(part);
    column->addWidget(stack_, 1);
    setCentralWidget(whole);

    desk_ = new ProjectDesk(places_, work_->background, work_->session, *notice_, *this);
    desk_->setParent(this);
    desk_->set_look_near_by(settings_.looks_near_by());
    start_ = new StartPage;
    stack_->addWidget(start_);
    picture_ = new PictureView(work_->viewing, work_->loader);
    workspace_ = new Workspace(work_->session, work_->viewing, work_->loader, work_->moving, work_->player, *picture_);
    stack_->addWidget(workspace_);
    timing_ = new TimingLine(work_->player, *picture_, this);
    auto* planner = new LoadPlanner(work_->viewing, work_->loader, work_->player, *picture_, sheet());
    planner->setParent(workspace_);
    connect(&work_->player, &Player::state_changed, picture_,
            [this] { picture_->set_playing(work_->player.playing()); });
    connect(picture_, &PictureView::painted, &work_->player, &Player::painted);
    work_->player.set_picture_ready([this] { return picture_->shows_what_it_should(); });
    connect(start_, &StartPage::bring_folder_in, desk_, &ProjectDesk::ask_folder);
    connect(start_, &StartPage::bring_run_in, desk_, &ProjectDesk::ask_run);
    connect(start_, &StartPage::shoot, this, [this] { viewing().set_step("shoot"); });
    connect(start_, &StartPage::open_project, desk_, &ProjectDesk::ask_project);
    connect(start_, &StartPage::open_recent, desk_, [this](const QString& file) { open(from_qt(file)); });
    connect(start_, &StartPage::show_demo, desk_, &ProjectDesk::show_demo);
    connect(start_, &StartPage::show_demo_card, desk_, &ProjectDesk::show_demo_card);
    start_->set_recent(settings_.recent());
    connect(desk_, &ProjectDesk::used, this, [this](const std::filesystem::path& file) {
        settings_.add_recent(to_qt(file));
        start_->set_recent(settings_.recent());
    });
}

void MainWindow::build_pages()
{
    const Services services{work_->background,
                            work_->session,
                            work_->viewing,
                            work_->store,
                            work_->loader,
                            work_->player,
                            *picture_,
                            work_->waveforms,
                            places_.filings,
                            places_.kept,
                            [this] { desk_->ask_folder(); }};
    TileActions* tiles = nullptr;
    RowActions* rows = nullptr;
    for (const StepModule* module : step_modules()) {
        StepPage& page = *pages_.emplace_back(module->make(services));
        workspace_->add_page(*module, page);
        route_->add_page(*module, page);
        connect_page(page);
        tiles = page.tile_actions() ? page.tile_actions() : tiles;
        rows = page.row_actions() ? page.row_actions() : rows;
    }
    std::vector<NextStep::Way> ways;
    for (std::size_t i = 0; i < pages_.size(); ++i)
        ways.push_back({pages_[i].get(), name_of(*step_modules()[i]),
                        [this, key = step_modules()[i]->info.key] { viewing().set_step(key); }});
    new NextStep(session(), viewing(), *notice_, std::move(ways), notice_);
    sheet().set_zoom_store(
        {[this](ShotId shot, bool even) { return settings_.zoom(zoom_key(shot, even)); },
         [this](ShotId shot, bool even, const QString& zoom) { settings_.set_zoom(zoom_key(shot, even), zoom); }});
    sheet().set_actions(*tiles, *rows);
    route_->refresh();
    if (const auto state = settings_.layout("window"); !state.isEmpty())
        restoreGeometry(state);
    workspace_->restore_layout(settings_);
}

void MainWindow::connect_page(StepPage& page)
{
    connect(&page, &StepPage::told, this, [this](const QString& message) { notice_->show_message(message); });
    connect(&page, &StepPage::progress, notice_, &NoticeBar::show_progress);
    connect(&page, &StepPage::progress_ended, notice_, &NoticeBar::end_progress);
    connect(&page, &StepPage::show_photo, this, &MainWindow::show_photo);
    connect(&page, &StepPage::keys_to_sheet, this, [this] { sheet().setFocus(); });
}

SheetView& MainWindow::sheet()
{
    return workspace_->sheet().view();
}

StepPage* MainWindow::page(std::string_view step)
{
    for (std::size_t i = 0; i < pages_.size(); ++i)
        if (step == step_modules()[i]->info.key)
            return pages_[i].get();
    return nullptr;
}

void MainWindow::show_step()
{
    StepPage* now = pages_.at(work_->viewing.step_index()).get();
    if (shown_ && shown_ != now)
        shown_->left();
    shown_ = now;
    if (work_->viewing.step().tiles)
        work_->player.stop();
    picture_->set_tool(nullptr);
    picture_->set_comparing(Compare::off);
    workspace_->look();
    sheet().setFocus();
}

void MainWindow::refresh_title()
{
    setWindowTitle(session().is_empty() ? QStringLiteral("Frenlo") : tr("%1[*] – Frenlo").arg(session().name()));
    setWindowModified(!session().saved());
}

void MainWindow::refresh_page()
{
    const bool nothing = session().is_empty() && !work_->viewing.step().from_nothing;
    QWidget* wanted = nothing ? static_cast<QWidget*>(start_) : workspace_;
    if (stack_->currentWidget() == wanted)
        return;
    stack_->setCurrentWidget(wanted);
    if (wanted == workspace_)
        sheet().setFocus();
}

void MainWindow::show_photo(ShotIndex shot, PhotoIndex photo)
{
    const auto& shots = session().project().shots;
    if (shot.at() >= shots.size() || photo.at() >= shots[shot.at()]->photos.size())
        return; // it went while somebody looked at a list of before
    viewing().set_shot(shot);
    Selection s;
    s.choose(photo);
    viewing().set_selection(s);
    viewing().go_to_photo(photo);
    sheet().scroll_to(photo);
    sheet().setFocus();
}

void MainWindow::next_shot(int by)
{
    // As the tabs lie: the Reel behind the last shot.
    const auto shots = std::int64_t(session().project().shots.size());
    const std::int64_t next = (viewing().on_reel() ? shots : viewing().shot_index().value) + by;
    if (next == shots && shots > 0)
        viewing().show_reel();
    else if (next >= 0)
        viewing().set_shot(ShotIndex(next));
}

bool MainWindow::at_rest() const
{
    return work_->background.idle() && work_->loader.idle();
}

void MainWindow::set_full_screen(bool on)
{
    for (QWidget* w : std::initializer_list<QWidget*>{route_, menuBar()})
        w->setVisible(!on);
    on ? showFullScreen() : showNormal();
    workspace_->set_picture_alone(on);
}

void MainWindow::closeEvent(QCloseEvent* event)
{
    settings_.set_layout("window", saveGeometry());
    workspace_->save_layout(settings_);
    if (closing_ || session().saved()) {
        event->accept();
        return;
    }
    event->ignore();
    desk_->when_safe([this] {
        closing_ = true;
        close();
    });
}

namespace {

std::vector<std::filesystem::path> places_in(const QMimeData* data)
{
    std::vector<std::filesystem::path> places;
    for (const QUrl& url : data->urls())
        if (url.isLocalFile())
            places.push_back(from_qt(url.toLocalFile()));
    return places;
}

}

void MainWindow::dragEnterEvent(QDragEnterEvent* event)
{
    if (!places_in(event->mimeData()).empty())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event)
{
    event->acceptProposedAction();
    take_in(places_in(event->mimeData()));
}

void MainWindow::take_in(const std::vector<std::filesystem::path>& places)
{
    for (const auto& page : pages_)
        if (page->take_dropped(places))
            return;
    desk_->take_in(places);
}

}
