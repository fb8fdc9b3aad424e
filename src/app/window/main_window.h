#pragma once
#include "app/window/key_table.h"
#include "app/window/project_desk.h"
#include "app/window/settings.h"
#include "app/window/where_is.h"
#include "app/window/workshop.h"
#include "app/window/workspace.h"

#include <QMainWindow>

#include <memory>
#include <string_view>
#include <vector>

class QMenu;
class QSettings;
class QStackedWidget;

namespace frenlo::app {

class NoticeBar;
class Route;
class SheetView;
class StartPage;
class TimingLine;

/// The window: composes the parts and the pages of the steps; what they do is theirs.
class MainWindow : public QMainWindow
{
    Q_OBJECT
public:
    MainWindow(const Places& places, QSettings& settings, QWidget* parent = nullptr);
    ~MainWindow() override;

    void open(const std::filesystem::path& file) { desk_->open(file); }
    /// What was dropped, or named on the command line: photos, folders of them, a project, sounds.
    void take_in(const std::vector<std::filesystem::path>& places);
    void show_demo() { desk_->show_demo(); }
    void collect(const std::filesystem::path& folder) { desk_->collect(folder); }

    [[nodiscard]] Session& session() { return work_->session; }
    [[nodiscard]] Viewing& viewing() { return work_->viewing; }
    [[nodiscard]] PhotoLoader& loader() { return work_->loader; }
    [[nodiscard]] Player& player() { return work_->player; }
    /// Null where there is no such step.
    [[nodiscard]] StepPage* page(std::string_view step);
    /// All that “Where is …?” knows.
    [[nodiscard]] std::vector<WherePlace> where_places();
    [[nodiscard]] bool at_rest() const; ///< nothing runs in the background

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void build_parts();
    void build_pages();
    void build_menus();
    void build_view_menu();
    void build_keys();
    void connect_page(StepPage& page);
    void show_step();
    void refresh_title();
    void refresh_page();
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void next_shot(int by);
    /// The picture alone, as large as the screen; Esc or F11 comes back.
    void set_full_screen(bool on);
    void end_what_goes_on();
    void ask_where();
    void show_settings();
    void go_to_place(const WherePlace& place);
    [[nodiscard]] std::vector<KeyHelp> key_help() const;
    [[nodiscard]] SheetView& sheet();

    Places places_;
    Settings settings_;
    std::unique_ptr<Workshop> work_;
    std::vector<std::unique_ptr<StepPage>> pages_; ///< in the order of the list
    Route* route_ = nullptr;
    NoticeBar* notice_ = nullptr;
    QStackedWidget* stack_ = nullptr; ///< the start page, or the workspace
    StartPage* start_ = nullptr;
    PictureView* picture_ = nullptr;
    Workspace* workspace_ = nullptr;
    ProjectDesk* desk_ = nullptr;
    KeyTable* keys_ = nullptr;
    TimingLine* timing_ = nullptr;
    StepPage* shown_ = nullptr; ///< of the step in view
    bool closing_ = false;
};

}
