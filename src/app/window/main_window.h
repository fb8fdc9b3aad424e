#pragma once
#include "app/picture/player.h"
#include "app/steps/export/exporter.h"
#include "app/steps/flicker/flicker_controller.h"
#include "app/steps/flicker/strip_maker.h"
#include "app/steps/pace/pace_controller.h"
#include "app/steps/pace/thinning.h"
#include "app/steps/sort/filer.h"
#include "app/steps/sort/sort_controller.h"
#include "app/steps/steady/steady_controller.h"
#include "app/window/settings.h"
#include "app/work/findings.h"
#include "app/work/photo_loader.h"
#include "app/work/session.h"
#include "app/work/viewing.h"

#include <QMainWindow>
#include <QTimer>

#include <filesystem>
#include <functional>
#include <memory>

class QFileDialog;
class QSettings;
class QSplitter;
class QStackedWidget;

namespace frenlo::app {

class ExportBench;
class NoticeBar;
class PaceBench;
class PictureView;
class Route;
class SheetPanel;
class SortBench;
class StartPage;
class LightBench;
class SteadyBench;

/// Where a running Frenlo keeps its things; tests give it folders of their own.
struct Places
{
    std::filesystem::path previews;
    std::filesystem::path recovery;
    std::filesystem::path demo;
    std::filesystem::path filings; ///< journals of moved files
};

/// The window: composes the parts and connects them; what they do is theirs.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow(const Places& places, QSettings& settings, QWidget* parent = nullptr);
    ~MainWindow() override;

    void open(const std::filesystem::path& file);
    /// Folders, photos that stand for their runs, or one project.
    void take_in(const std::vector<std::filesystem::path>& places);
    void show_demo();
    void show_demo_card();

    [[nodiscard]] Session& session() { return *session_; }
    [[nodiscard]] Viewing& viewing() { return *viewing_; }
    [[nodiscard]] PhotoLoader& loader() { return *loader_; }
    [[nodiscard]] Player& player() { return *player_; }
    [[nodiscard]] const Findings& findings() const { return *findings_; }
    [[nodiscard]] bool at_rest() const; ///< nothing runs in the background

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void build_parts();
    void build_menus();
    void build_single_keys();
    void connect_parts();
    void offer_recovery();
    void with_demo(std::function<void(const std::filesystem::path& project)> go_on);
    void want_pictures();
    void refresh_title();
    void refresh_page();
    void remember(const std::filesystem::path& file);
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void next_shot(int by);

    void ask_folder();
    void ask_run();
    void ask_better_set();
    void ask_where_photos_are();
    void connect_sorting();
    void ask_project();
    void save();
    void save_as();
    /// Goes on when nothing would be lost: asks where work is unsaved.
    void when_settled(std::function<void()> go_on);
    void set_theme(ThemeName theme);
    void build_view_menu();
    bool nudge_by(const QKeyEvent& key);
    /// The picture alone, as large as the screen; Esc or F11 comes back.
    void set_full_screen(bool on);
    void show_timing(bool on);
    void refresh_timing();

    Places places_;
    Settings settings_;
    // In this order: what comes later uses what comes before, and background_ is the last to go.
    std::unique_ptr<PreviewStore> store_;
    std::unique_ptr<Background> background_;
    std::unique_ptr<Session> session_;
    std::unique_ptr<Viewing> viewing_;
    std::unique_ptr<PhotoLoader> loader_;
    std::unique_ptr<Findings> findings_;
    std::unique_ptr<SortController> sort_controller_;
    std::unique_ptr<PaceController> pace_controller_;
    std::unique_ptr<Thinning> thinning_;
    std::unique_ptr<SteadyController> steady_controller_;
    std::unique_ptr<StripMaker> strips_;
    std::unique_ptr<FlickerController> flicker_controller_;
    std::unique_ptr<Filer> filer_;
    std::unique_ptr<Exporter> exporter_;
    std::unique_ptr<Player> player_;

    Route* route_ = nullptr;
    NoticeBar* notice_ = nullptr;
    QStackedWidget* page_ = nullptr;
    StartPage* start_ = nullptr;
    QSplitter* across_ = nullptr;
    QSplitter* down_ = nullptr;
    SheetPanel* sheet_ = nullptr;
    PictureView* picture_ = nullptr;
    QStackedWidget* tools_ = nullptr; ///< under the picture: player, or what Sort needs
    QStackedWidget* benches_ = nullptr;
    SortBench* sort_ = nullptr;
    PaceBench* pace_ = nullptr;
    SteadyBench* steady_ = nullptr;
    LightBench* light_ = nullptr;
    ExportBench* export_ = nullptr;
    std::function<void()> after_save_; ///< what waits for a save that was asked for
    ShotPtr prepared_for_;
    QTimer timing_timer_;
    std::stop_source demo_stop_;
    bool closing_ = false;
};

}
