#pragma once
#include "app/window/places.h"
#include "app/work/session.h"

#include <QObject>

#include <functional>

class QWidget;

namespace frenlo::app {

class NoticeBar;

/// What comes in and goes out: projects, photos, the demo, work that was not saved. Asks where something must be
/// chosen, and never lets unsaved work go unasked.
class ProjectDesk : public QObject
{
    Q_OBJECT
public:
    ProjectDesk(const Places& places, Background& background, Session& session, NoticeBar& notice, QWidget& window);

    void open(const std::filesystem::path& file);
    /// Folders, photos that stand for their runs, or one project.
    void take_in(const std::vector<std::filesystem::path>& places);
    void show_demo();
    void show_demo_card();
    void start_new();

    void ask_folder();
    void ask_run();
    void ask_project();
    void save();
    void save_as();
    /// All that the project is made of, copied into one folder.
    void ask_collect();
    void collect(const std::filesystem::path& folder);
    /// Goes on when nothing would be lost: asks where work is unsaved.
    void when_safe(std::function<void()> go_on);
    void offer_recovery();
    /// Photos that are gone are looked for beside the project and below by themselves, when it is opened.
    void set_look_near_by(bool on) { look_near_by_ = on; }

Q_SIGNALS:
    void used(const std::filesystem::path& file); ///< a project was opened or saved

private:
    void with_demo(std::function<void(const std::filesystem::path& project)> go_on,
                   std::function<void(const Project&)> so_far = {});
    void show_growing(const Project& so_far);

    Places places_;
    Background& background_;
    Session& session_;
    NoticeBar& notice_;
    QWidget& window_;
    bool look_near_by_ = false;
    Task demo_;
    bool demo_grows_ = false; ///< it is looked at while it is made
    Task collecting_;
    std::function<void()> after_save_; ///< what waits for a save that was asked for
};

}
