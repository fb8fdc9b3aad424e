#include "app/window/main_window.h"

#include "app/picture/picture_view.h"
#include "app/picture/transport.h"
#include "app/sheet/sheet_panel.h"
#include "app/steps/export/export_bench.h"
#include "app/steps/flicker/flicker_bench.h"
#include "app/steps/pace/pace_bench.h"
#include "app/steps/sort/sort_bench.h"
#include "app/steps/sort/sort_tools.h"
#include "app/steps/steady/steady_bench.h"
#include "app/theme/theme.h"
#include "app/window/notice_bar.h"
#include "app/window/route.h"
#include "app/window/start_page.h"
#include "core/base/unfinished.h"
#include "demo/demo.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QLineEdit>
#include <QMenuBar>
#include <QMimeData>
#include <QScrollArea>
#include <QSplitter>
#include <QStackedWidget>
#include <QUrl>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {
constexpr std::uintmax_t preview_limit = 4'000'000'000; // some 20,000 photos
}

MainWindow::MainWindow(const Places& places, QSettings& settings, QWidget* parent)
    : QMainWindow(parent), places_(places), settings_(settings),
      store_(std::make_unique<PreviewStore>(places.previews, preview_limit)), background_(std::make_unique<Background>()),
      session_(std::make_unique<Session>(*background_, places.recovery)), viewing_(std::make_unique<Viewing>(*session_)),
      loader_(std::make_unique<PhotoLoader>(*background_, *store_)),
      findings_(std::make_unique<Findings>(*background_, *session_, *loader_)),
      sort_controller_(std::make_unique<SortController>(*background_, *session_, *viewing_, *findings_)),
      pace_controller_(std::make_unique<PaceController>(*session_, *viewing_)),
      thinning_(std::make_unique<Thinning>(*background_, *store_, *session_, *viewing_)),
      steady_controller_(std::make_unique<SteadyController>(*background_, *session_, *viewing_)),
      strips_(std::make_unique<StripMaker>(*background_, *session_, *viewing_, *store_)),
      flicker_controller_(std::make_unique<FlickerController>(*background_, *session_, *viewing_)),
      filer_(std::make_unique<Filer>(*background_, *session_, places.filings)),
      exporter_(std::make_unique<Exporter>(*background_)), player_(std::make_unique<Player>(*viewing_))
{
    session_->set_journals(places.filings);
    viewing_->set_counting(settings_.counting());
    build_parts();
    build_menus();
    build_single_keys();
    connect_parts();
    connect_sorting();
    refresh_title();
    refresh_page();
    start_->set_recent(settings_.recent());
    offer_recovery();
    filer_->finish_left_over();
    background_->run(this, [] { return sweep_unfinished().size(); }, [](std::size_t) {});
}

MainWindow::~MainWindow()
{
    exporter_->stop();
    filer_->stop();
    session_->stop_adding();
    thinning_->stop();
    steady_controller_->stop();
    flicker_controller_->stop();
    demo_stop_.request_stop();
    player_->stop();
    delete takeCentralWidget(); // its parts refer to what goes next
    player_.reset();
    exporter_.reset();
    filer_.reset();
    flicker_controller_.reset();
    steady_controller_.reset();
    strips_.reset();
    thinning_.reset();
    pace_controller_.reset();
    sort_controller_.reset();
    findings_.reset();
    background_.reset(); // waits for workers, which use the loader's previews
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
    route_ = new Route(*session_, *viewing_, *findings_, *exporter_);
    notice_ = new NoticeBar;
    page_ = new QStackedWidget;
    column->addWidget(route_);
    column->addWidget(notice_);
    column->addWidget(page_, 1);
    setCentralWidget(whole);

    start_ = new StartPage;
    page_->addWidget(start_);
    sheet_ = new SheetPanel(*session_, *viewing_, *loader_, *sort_controller_, *pace_controller_);
    picture_ = new PictureView(*viewing_, *loader_);
    sort_ = new SortBench(*session_, *viewing_, *findings_, *sort_controller_, *filer_);
    pace_ = new PaceBench(*session_, *viewing_, *pace_controller_, *thinning_);
    steady_ = new SteadyBench(*session_, *viewing_, *steady_controller_, *picture_);
    light_ = new LightBench(*session_, *viewing_, *flicker_controller_, *strips_, *picture_);
    export_ = new ExportBench(*background_, *session_, *viewing_, *exporter_);
    benches_ = new QStackedWidget;
    for (QWidget* bench : std::initializer_list<QWidget*>{sort_, pace_, steady_, light_, export_})
        benches_->addWidget(bench);
    benches_->setMinimumSize(480, 220);

    auto* top = new QWidget;
    auto* picture_column = new QVBoxLayout(top);
    picture_column->setContentsMargins(0, 0, 0, 0);
    picture_column->setSpacing(0);
    picture_column->addWidget(picture_, 1);
    tools_ = new QStackedWidget;
    tools_->addWidget(new SortTools(*session_, *viewing_, *sort_controller_, *picture_));
    tools_->addWidget(new Transport(*viewing_, *player_, *picture_));
    tools_->setAutoFillBackground(true);
    tools_->setBackgroundRole(QPalette::AlternateBase);
    tools_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    picture_column->addWidget(tools_);

    down_ = new QSplitter(Qt::Vertical);
    down_->addWidget(top);
    down_->addWidget(benches_);
    down_->setStretchFactor(0, 1);
    down_->setChildrenCollapsible(false);
    across_ = new QSplitter(Qt::Horizontal);
    across_->addWidget(sheet_);
    across_->addWidget(down_);
    across_->setChildrenCollapsible(false);
    for (QSplitter* s : {down_, across_})
        s->setHandleWidth(1);
    across_->setStretchFactor(0, 1);
    across_->setStretchFactor(1, 1);
    across_->setSizes({620, 660});
    down_->setSizes({426, 282});
    page_->addWidget(across_);
    if (const auto state = settings_.layout("window"); !state.isEmpty())
        restoreGeometry(state);
    if (const auto state = settings_.layout("across"); !state.isEmpty())
        across_->restoreState(state);
    if (const auto state = settings_.layout("down"); !state.isEmpty())
        down_->restoreState(state);
}

void MainWindow::connect_parts()
{
    connect(route_, &Route::undo, session_.get(), &Session::undo);
    connect(route_, &Route::redo, session_.get(), &Session::redo);
    connect(start_, &StartPage::bring_folder_in, this, &MainWindow::ask_folder);
    connect(start_, &StartPage::bring_run_in, this, &MainWindow::ask_run);
    connect(start_, &StartPage::open_project, this, &MainWindow::ask_project);
    connect(start_, &StartPage::open_recent, this, [this](const QString& file) { open(from_qt(file)); });
    connect(start_, &StartPage::show_demo, this, &MainWindow::show_demo);
    connect(start_, &StartPage::show_demo_card, this, &MainWindow::show_demo_card);

    connect(session_.get(), &Session::changed, this, &MainWindow::refresh_title);
    connect(session_.get(), &Session::changed, this, &MainWindow::refresh_page);
    connect(session_.get(), &Session::opened, this, [this](const QStringList& problems) {
        remember(session_->file());
        if (problems.isEmpty())
            notice_->hide();
        else
            notice_->show_message(problems.size() == 1 ? problems.first()
                                                       : tr("%1 And %2 more; Sort lists them.").arg(problems.first()).arg(problems.size() - 1));
    });
    connect(session_.get(), &Session::saved_now, this, [this] {
        remember(session_->file());
        if (auto next = std::exchange(after_save_, {}))
            next();
    });
    connect(session_.get(), &Session::failed, this, [this](const QString& message) {
        after_save_ = {};
        notice_->end_progress();
        notice_->show_message(message);
    });
    connect(session_.get(), &Session::progress, this, [this](double fraction, const QString& what) {
        if (session_->busy())
            notice_->show_progress(fraction, what, [this] { session_->stop_adding(); });
    });
    connect(session_.get(), &Session::changed_on_disk, this, [this] {
        notice_->show_message(tr("Another program has changed “%1” on the disk since it was opened here.").arg(session_->name()),
                              {{tr("Take the change in"), [this] { session_->take_change_in(); }}, {tr("Save under another name…"), [this] { save_as(); }}});
    });
    connect(session_.get(), &Session::photos_added, this, [this] { notice_->end_progress(); });

    connect(viewing_.get(), &Viewing::step_changed, this, [this] {
        benches_->setCurrentIndex(int(viewing_->step()));
        tools_->setCurrentIndex(viewing_->step() == Step::sort ? 0 : 1);
        if (viewing_->step() == Step::sort)
            player_->stop();
        if (viewing_->step() != Step::steady)
            steady_controller_->set_nudging(false);
        picture_->set_tool(nullptr);
        picture_->set_comparing(Compare::off);
        sheet_->view().setFocus();
    });
    for (QLineEdit* field : benches_->findChildren<QLineEdit*>())
        connect(
            field, &QLineEdit::returnPressed, this,
            [this, field] { // taken: the keys are the Sheet's again
                if (!field->property("wrong").toBool())
                    sheet_->view().setFocus();
            },
            Qt::QueuedConnection);
    connect(steady_, &SteadyBench::show_photo, this, &MainWindow::show_photo);
    connect(steady_controller_.get(), &SteadyController::nudging_changed, this, [this] {
        picture_->set_blinking(steady_controller_->nudging());
        sheet_->view().setFocus();
    });
    connect(light_, &LightBench::show_photo, this, &MainWindow::show_photo);
    const auto tell = [this](const QString& message) { notice_->show_message(message); };
    connect(findings_.get(), &Findings::failed, this, tell);
    connect(sort_controller_.get(), &SortController::failed, this, tell);
    connect(thinning_.get(), &Thinning::failed, this, tell);
    connect(steady_controller_.get(), &SteadyController::failed, this, tell);
    connect(flicker_controller_.get(), &FlickerController::failed, this, tell);
    connect(pace_, &PaceBench::resolved, this, [this] { sheet_->view().setFocus(); });
    for (const auto signal : {&Viewing::playhead_changed, &Viewing::selection_changed, &Viewing::shot_changed})
        connect(viewing_.get(), signal, this, &MainWindow::want_pictures);
    connect(&sheet_->view(), &SheetView::looked_elsewhere, this, &MainWindow::want_pictures);
    connect(picture_, &PictureView::resized, this, &MainWindow::want_pictures);
    connect(player_.get(), &Player::state_changed, this, &MainWindow::want_pictures);
    connect(player_.get(), &Player::state_changed, this, [this] { picture_->set_playing(player_->playing()); });
    connect(picture_, &PictureView::painted, player_.get(), &Player::painted);
    timing_timer_.setInterval(500);
    connect(&timing_timer_, &QTimer::timeout, this, &MainWindow::refresh_timing);
    connect(player_.get(), &Player::state_changed, this, [this] {
        if (timing_timer_.isActive())
            refresh_timing();
    });
    player_->set_picture_ready([this] { return picture_->shows_what_it_should(); });
}

void MainWindow::connect_sorting()
{
    connect(sort_, &SortBench::bring_folder_in, this, &MainWindow::ask_folder);
    connect(sort_, &SortBench::ask_better_set, this, &MainWindow::ask_better_set);
    connect(sort_, &SortBench::find_again, this, &MainWindow::ask_where_photos_are);
    connect(sort_, &SortBench::show_photo, this, &MainWindow::show_photo);
    connect(session_.get(), &Session::found_again, this, [this](int found, int gone) {
        notice_->end_progress();
        QString text = tr("%n photo(s) found again.", nullptr, found);
        if (gone > 0)
            text += QLatin1Char(' ') + tr("%n photo(s) are still missing.", nullptr, gone);
        notice_->show_message(text);
    });
    connect(filer_.get(), &Filer::progress, this, [this](double fraction, const QString& what) {
        if (filer_->running())
            notice_->show_progress(fraction, what, [this] { filer_->stop(); });
    });
    connect(filer_.get(), &Filer::ended, this, [this](const QString& message, bool well) {
        notice_->end_progress();
        if (!well || !sort_->isVisible())
            notice_->show_message(message);
    });
}

void MainWindow::want_pictures()
{
    const ShotPtr shot = viewing_->shot() ? session_->project().shots[viewing_->shot_index().at()] : nullptr;
    ViewState s;
    s.shot = shot.get();
    s.schedule = &viewing_->schedule();
    s.large = picture_->requests();
    s.can_play = viewing_->step() != Step::sort;
    s.play_begin = player_->range().begin;
    s.play_end = player_->range().end;
    s.playhead = viewing_->playhead();
    s.playing = player_->playing();
    s.picture_size = picture_->picture_size();
    sheet_->view().set_player_size(s.picture_size);
    if (shot)
        sheet_->view().describe(s);
    loader_->want(plan_loads(s));
    if (shot != prepared_for_) {
        const bool other_photos =
            !shot || !prepared_for_ || shot->photos.size() != prepared_for_->photos.size() ||
            shot->photos.front().photo != prepared_for_->photos.front().photo;
        prepared_for_ = shot;
        if (other_photos)
            loader_->prepare(shot ? preparing_order(*shot, viewing_->shown_photo()) : std::vector<PhotoPtr>());
    }
}

void MainWindow::refresh_title()
{
    setWindowTitle(session_->is_empty() ? QStringLiteral("Frenlo") : tr("%1[*] – Frenlo").arg(session_->name()));
    setWindowModified(!session_->saved());
}

void MainWindow::refresh_page()
{
    QWidget* wanted = session_->is_empty() ? static_cast<QWidget*>(start_) : across_;
    if (page_->currentWidget() == wanted)
        return;
    page_->setCurrentWidget(wanted);
    if (wanted == across_)
        sheet_->view().setFocus();
}

void MainWindow::remember(const std::filesystem::path& file)
{
    settings_.add_recent(to_qt(file));
    start_->set_recent(settings_.recent());
}

void MainWindow::show_photo(ShotIndex shot, PhotoIndex photo)
{
    viewing_->set_shot(shot);
    Selection s;
    s.choose(photo);
    viewing_->set_selection(s);
    viewing_->go_to_photo(photo);
    sheet_->view().scroll_to(photo);
    sheet_->view().setFocus();
}

void MainWindow::next_shot(int by)
{
    const ShotIndex next = viewing_->shot_index() + by;
    if (next.value >= 0)
        viewing_->set_shot(next);
}

void MainWindow::open(const std::filesystem::path& file)
{
    when_settled([this, file] { session_->open(file); });
}

void MainWindow::take_in(const std::vector<std::filesystem::path>& places)
{
    if (places.size() == 1 && places.front().extension() == ".frenlo")
        open(places.front());
    else if (!places.empty())
        session_->add_photos(places);
}

void MainWindow::show_demo()
{
    with_demo([this](const std::filesystem::path& project) { open(project); });
}

void MainWindow::show_demo_card()
{
    with_demo([this](const std::filesystem::path& project) { take_in({demo::card_folder(project.parent_path())}); });
}

void MainWindow::with_demo(std::function<void(const std::filesystem::path&)> go_on)
{
    demo_stop_ = {};
    const Job job(demo_stop_.get_token(), [this, self = QPointer<QObject>(this), &background = *background_](
                                              double fraction, std::string_view what) {
        const QString text = tr("Making the demo: %1").arg(QString::fromUtf8(what.data(), qsizetype(what.size())));
        background.post(self, [this, fraction, text] {
            if (!demo_stop_.stop_requested())
                notice_->show_progress(fraction, text, [this] { demo_stop_.request_stop(); });
        });
    });
    background_->run(
        this, [folder = places_.demo, job] { return Background::guarded([&] { return demo::make_demo(folder, job); }); },
        [this, go_on = std::move(go_on)](const Result<std::filesystem::path>& made) {
            notice_->end_progress();
            if (made)
                go_on(*made);
            else if (!demo_stop_.stop_requested())
                notice_->show_message(QString::fromStdString(made.error().text()));
        });
}

bool MainWindow::at_rest() const
{
    return background_->idle() && loader_->idle();
}

void MainWindow::set_theme(ThemeName theme)
{
    settings_.set_theme(theme);
    apply_theme(*qApp, theme);
}

void MainWindow::set_full_screen(bool on)
{
    for (QWidget* w : std::initializer_list<QWidget*>{route_, sheet_, benches_, menuBar()})
        w->setVisible(!on);
    on ? showFullScreen() : showNormal();
    picture_->setFocusPolicy(on ? Qt::StrongFocus : Qt::NoFocus); // somebody must have the keys
    on ? picture_->setFocus() : sheet_->view().setFocus();
}

void MainWindow::show_timing(bool on)
{
    on ? timing_timer_.start() : timing_timer_.stop();
    on ? refresh_timing() : picture_->set_timing_line({});
}

void MainWindow::refresh_timing()
{
    const TimingMeter& timing = player_->timing();
    picture_->set_timing_line(timing.frames() == 0
                                  ? tr("player: nothing played yet")
                                  : tr("player: late by %1 ms in the mean, %2 ms at worst · %3 frames shown, %4 left out")
                                        .arg(timing.mean_ms(), 0, 'f', 1)
                                        .arg(timing.worst_ms(), 0, 'f', 1)
                                        .arg(timing.frames())
                                        .arg(timing.left_out()));
}

void MainWindow::closeEvent(QCloseEvent* event)
{
    settings_.set_layout("window", saveGeometry());
    settings_.set_layout("across", across_->saveState());
    settings_.set_layout("down", down_->saveState());
    if (closing_ || session_->saved()) {
        event->accept();
        return;
    }
    event->ignore();
    when_settled([this] {
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

}
