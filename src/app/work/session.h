#pragma once
#include "app/work/task.h"
#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/recovery.h"
#include "core/steps/sort/filing.h"

#include <QDateTime>
#include <QFileSystemWatcher>
#include <QObject>
#include <QString>
#include <QTimer>

#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

namespace frenlo {
class PhotoSource;
class PreviewStore;
struct ScanResult;
}

namespace frenlo::app {

/// What new projects and new photos begin with, as the user wants it.
struct Beginnings
{
    std::optional<Hold> hold{}; ///< of new photos; none: as suits each shot's kind
    Rate delivered_at{24};
    bool operator==(const Beginnings&) const = default;
};

/// The project at work: its history, its file, and its copy for recovery. All disk work happens in the background.
class Session : public QObject
{
    Q_OBJECT
public:
    /// recovery_folder: where unsaved work is kept. previews: where small versions of photos are, not owned; none:
    /// what is measured is decoded each time.
    Session(Background& background, const std::filesystem::path& recovery_folder, PreviewStore* previews = nullptr,
            QObject* parent = nullptr);

    /// What steps measure photos from.
    [[nodiscard]] const std::shared_ptr<const PhotoSource>& measured_from() const { return measured_from_; }

    [[nodiscard]] const Project& project() const { return history_.current(); }
    [[nodiscard]] const std::filesystem::path& file() const { return file_; }
    [[nodiscard]] QString name() const;
    [[nodiscard]] bool saved() const { return history_.saved(); }
    [[nodiscard]] QDateTime saved_at() const { return saved_at_; }
    [[nodiscard]] bool is_empty() const { return project().shots.empty(); }

    /// One step that can be undone. An edit that throws Failure changes nothing; failed() says why. name is shown in
    /// the menu: "Set hold". gesture: see History::push.
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, std::uint64_t gesture = 0);
    [[nodiscard]] QString undo_name() const;
    [[nodiscard]] QString redo_name() const;
    void undo();
    void redo();

    /// For what begins from now on; a project to which nothing was done yet begins anew.
    void set_beginnings(const Beginnings& beginnings);
    /// A new project, with nothing in it.
    [[nodiscard]] Project fresh_project() const;

    /// Starts over with this project. file: empty when it was not saved yet.
    void start(Project project, std::filesystem::path file);
    /// What a project has become that somebody looks at while it is being made: another state of the same one, with the
    /// same identities. False, and nothing is changed, where somebody did something to it, or looks at another one.
    bool grow(Project project);
    /// It is whole now, and lies in this file, which is read in the background; the view stays where it is. opened()
    /// or failed() follows. False as above.
    bool grown(const std::filesystem::path& file);
    /// Takes unsaved work back: the project differs from its file.
    void take_back(Project project, std::filesystem::path file);

    /// Reads in the background, then starts with it, unless something was done here meanwhile that would be lost.
    /// opened() or failed() follows.
    void open(const std::filesystem::path& file);
    /// saved_now(), changed_on_disk() or failed() follows.
    void save(const std::filesystem::path& file);
    /// Takes what another program wrote into the project's file; a step that can be undone, so that unsaved work is
    /// kept.
    void take_change_in();

    /// Brings photos in: scans in the background and adds the shots in one step. photos_added() or failed() follows.
    void add_photos(const std::vector<std::filesystem::path>& places);
    [[nodiscard]] bool busy() const { return search_.running(); }
    void stop_adding() { search_.stop(); }

    /// Files that were missing when the project was opened.
    [[nodiscard]] std::size_t missing() const { return missing_; }
    /// Looks for the photos that are gone in another folder, in the background. found_again() or failed() follows.
    void find_again(const std::filesystem::path& folder);
    /// Files have another place on disk now; no edit, all steps follow. Saves a project that was saved.
    void relocate(Moved moved);
    /// Where Frenlo's own filings (filing.h) keep their journals, for photos that they moved.
    void set_journals(const std::filesystem::path& folder) { journals_ = folder; }

Q_SIGNALS:
    void changed(); ///< the project, what can be undone, or whether it is saved
    void started(); ///< another project altogether
    void opened(const QStringList& problems);
    void saved_now();
    void photos_added(int photos);
    void changed_on_disk(); ///< by another program, since it was last read or written here
    void found_again(int photos, int photos_gone, int sounds, int sounds_gone); ///< still gone
    void progress(double fraction, const QString& what);                        ///< of add_photos
    void failed(const QString& message);

private:
    /// Whether this is a later state of the project that grows.
    [[nodiscard]] bool grows_to(const Project& project) const;
    void leave_behind();
    void watch();
    void look_at_disk();
    /// What a scan found so far: added the first time, then brought up to date.
    void take_arrival(const ScanResult& found, const std::vector<std::filesystem::path>& places);
    void take_all(const ScanResult& found, const std::vector<std::filesystem::path>& places);
    void keep_for_recovery();
    void write_recovery();

    Background& background_;
    Beginnings beginnings_;
    std::shared_ptr<const PhotoSource> measured_from_;
    History history_;
    std::filesystem::path file_;
    std::string key_; ///< of the file's content as it was last read or written here
    bool saving_ = false;
    std::uint64_t begun_ = 0; ///< projects: what was asked for of one is not for the next
    QFileSystemWatcher watcher_;
    QTimer watch_timer_;
    std::filesystem::path journals_;
    QDateTime saved_at_;
    std::shared_ptr<RecoverySlot> recovery_; ///< none where its folder cannot be written to
    QTimer recovery_timer_;
    bool recovery_writing_ = false;
    std::size_t missing_ = 0;
    bool finding_ = false;       ///< what the search is for: photos that are gone; else new ones
    Task search_;                ///< for photos: new ones, or those that are gone
    std::uint64_t arrivals_ = 0; ///< tells what an earlier search brings from what is waited for
    std::uint64_t arriving_ = 0; ///< the gesture of what arrives; 0 before the first of it
    std::uint64_t last_gesture_ = 0;
};

/// Paths to and from Qt, without loss: names on Linux are bytes.
QString to_qt(const std::filesystem::path& path);
std::filesystem::path from_qt(const QString& path);

}
