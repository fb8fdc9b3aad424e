#include "app/work/session.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/project/exactly.h"
#include "core/project/project_file.h"
#include "core/source/photo_source.h"

#include <QFile>

namespace frenlo::app {

QString to_qt(const std::filesystem::path& path)
{
    return QFile::decodeName(path.c_str());
}

std::filesystem::path from_qt(const QString& path)
{
    return QFile::encodeName(path).toStdString();
}

namespace {

std::shared_ptr<const PhotoSource> measured_from(PreviewStore* previews)
{
    if (previews)
        return std::make_shared<SmallVersions>(*previews);
    return std::make_shared<Originals>();
}

}

Session::Session(Background& background, const std::filesystem::path& recovery_folder, PreviewStore* previews,
                 QObject* parent)
    : QObject(parent), background_(background), measured_from_(app::measured_from(previews)),
      search_(background, Rank::measure)
{
    connect(&search_, &Task::progress, this, &Session::progress);
    connect(&search_, &Task::failed, this, &Session::failed);
    connect(&search_, &Task::stopped, this, [this] {
        // What came in stays; of photos that are gone nothing is exchanged before all were looked for.
        Q_EMIT failed(finding_ ? tr("Stopped. No photo was exchanged.")
                               : tr("Stopped. The photos that were found so far are in."));
    });
    try {
        recovery_ = std::make_shared<RecoverySlot>(recovery_folder);
    } catch (const Failure& failure) {
        const QString message = QString::fromStdString(failure.what());
        QTimer::singleShot(0, this, [this, message] { Q_EMIT failed(message); });
    }
    recovery_timer_.setSingleShot(true);
    recovery_timer_.setInterval(300);
    connect(&recovery_timer_, &QTimer::timeout, this, &Session::write_recovery);
    // A file that is replaced is another one: its folder is what tells. Changes come in bursts.
    watch_timer_.setSingleShot(true);
    watch_timer_.setInterval(200);
    connect(&watch_timer_, &QTimer::timeout, this, &Session::look_at_disk);
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, &watch_timer_, qOverload<>(&QTimer::start));
}

QString Session::name() const
{
    return file_.empty() ? tr("New project") : to_qt(file_.stem());
}

void Session::apply(const std::function<Project(const Project&)>& edit, const QString& name, std::uint64_t gesture)
{
    try {
        Project changed = edit(project());
        require_exact(changed, project());
        if (!history_.push(std::move(changed), name.toStdString(), gesture))
            return;
    } catch (const Failure& f) {
        Q_EMIT failed(QString::fromStdString(f.problem().text()));
        return;
    }
    keep_for_recovery();
    Q_EMIT changed();
}

QString Session::undo_name() const
{
    return QString::fromUtf8(history_.undo_name().data(), qsizetype(history_.undo_name().size()));
}

QString Session::redo_name() const
{
    return QString::fromUtf8(history_.redo_name().data(), qsizetype(history_.redo_name().size()));
}

void Session::undo()
{
    history_.undo();
    keep_for_recovery();
    Q_EMIT changed();
}

void Session::redo()
{
    history_.redo();
    keep_for_recovery();
    Q_EMIT changed();
}

void Session::set_beginnings(const Beginnings& beginnings)
{
    beginnings_ = beginnings;
    if (is_empty() && file_.empty() && saved() && project().delivered_at != beginnings.delivered_at)
        start(fresh_project(), {});
}

Project Session::fresh_project() const
{
    Project project;
    project.delivered_at = beginnings_.delivered_at;
    return project;
}

void Session::start(Project project, std::filesystem::path file)
{
    leave_behind();
    history_ = History(std::move(project));
    file_ = std::move(file);
    key_.clear();
    watch();
    saved_at_ = {};
    keep_for_recovery();
    Q_EMIT started();
    Q_EMIT changed();
}

bool Session::grows_to(const Project& project) const
{
    const bool untouched = file_.empty() && saved() && undo_name().isEmpty() && redo_name().isEmpty();
    return untouched && !is_empty() && !project.shots.empty() &&
           this->project().shots.front()->id == project.shots.front()->id;
}

bool Session::grow(Project project)
{
    if (!grows_to(project))
        return false;
    history_ = History(std::move(project));
    Q_EMIT changed();
    return true;
}

bool Session::grown(const std::filesystem::path& file)
{
    if (!grows_to(project()))
        return false;
    background_.run(
        this, [file] { return Background::guarded([&] { return load_project(file); }); },
        [this, file](Result<LoadedProject> loaded) {
            if (!loaded) {
                Q_EMIT failed(QString::fromStdString(loaded.error().text()));
                return;
            }
            if (!grow(std::move(loaded->project)))
                return;
            file_ = file;
            key_ = loaded->key;
            missing_ = loaded->missing;
            watch();
            Q_EMIT changed();
            QStringList problems;
            for (const auto& p : loaded->problems)
                problems << QString::fromStdString(p.text());
            Q_EMIT opened(problems);
        });
    return true;
}

void Session::take_back(Project project, std::filesystem::path file)
{
    leave_behind();
    history_ = History();
    history_.push(std::move(project), tr("Take unsaved work back").toStdString());
    file_ = std::move(file);
    key_.clear();
    watch();
    saved_at_ = {};
    keep_for_recovery();
    Q_EMIT started();
    Q_EMIT changed();
}

void Session::open(const std::filesystem::path& file)
{
    background_.run(
        this,
        [file, journals = journals_] {
            return Background::guarded([&] { return load_project(file, moved_files(journals)); });
        },
        [this, file, before = project()](Result<LoadedProject> loaded) {
            if (!loaded) {
                Q_EMIT failed(QString::fromStdString(loaded.error().text()));
                return;
            }
            if (!saved() && !(project() == before)) {
                Q_EMIT failed(tr("“%1” was not opened, since something was changed here meanwhile. Save that, and open "
                                 "it again.")
                                  .arg(to_qt(file.stem())));
                return;
            }
            start(std::move(loaded->project), file);
            key_ = loaded->key;
            missing_ = loaded->missing;
            QStringList problems;
            for (const auto& p : loaded->problems)
                problems << QString::fromStdString(p.text());
            Q_EMIT opened(problems);
        });
}

void Session::save(const std::filesystem::path& file)
{
    struct Saved
    {
        std::string key;
        bool changed = false;
    };
    const Project project = history_.current();
    const auto last_key = file == file_ ? std::optional(key_) : std::nullopt;
    saving_ = true;
    background_.run(
        this,
        [project, file, last_key] {
            return Background::guarded([&]() -> Saved {
                try {
                    return {save_project(project, file, last_key)};
                } catch (const ChangedOnDisk&) {
                    return {{}, true};
                }
            });
        },
        [this, project, file, begun = begun_](const Result<Saved>& done) {
            saving_ = false;
            if (!done) {
                Q_EMIT failed(QString::fromStdString(done.error().text()));
                return;
            }
            if (begun != begun_) { // it was the project before: nothing of it is this one's
                if (done->changed)
                    Q_EMIT failed(tr("“%1” was not saved, since another program has changed it on the disk.")
                                      .arg(to_qt(file.stem())));
                return;
            }
            if (done->changed) {
                Q_EMIT changed_on_disk();
                return;
            }
            file_ = file;
            key_ = done->key;
            watch();
            saved_at_ = QDateTime::currentDateTime();
            if (project == history_.current())
                history_.mark_saved();
            keep_for_recovery();
            Q_EMIT changed();
            Q_EMIT saved_now();
        },
        Rank::save);
}

void Session::watch()
{
    if (const QStringList watched = watcher_.directories(); !watched.isEmpty())
        watcher_.removePaths(watched);
    if (!file_.empty())
        watcher_.addPath(to_qt(real_target(file_).parent_path()));
}

void Session::look_at_disk()
{
    if (file_.empty() || key_.empty())
        return;
    if (saving_) { // that was this window; whether it was the only one is seen afterwards
        watch_timer_.start();
        return;
    }
    background_.run(
        this, [file = file_] { return Background::guarded([&] { return project_key(file); }); },
        [this, file = file_, key = key_](const Result<std::string>& now) {
            const bool meant = file == file_ && key == key_ && !saving_;
            if (meant && now && !now->empty() && *now != key_)
                Q_EMIT changed_on_disk();
        },
        Rank::save);
}

void Session::take_change_in()
{
    background_.run(
        this,
        [file = file_, journals = journals_] {
            return Background::guarded([&] { return load_project(file, moved_files(journals)); });
        },
        [this, file = file_](Result<LoadedProject> loaded) {
            if (file != file_)
                return;
            if (!loaded) {
                Q_EMIT failed(QString::fromStdString(loaded.error().text()));
                return;
            }
            key_ = loaded->key;
            history_.push(std::move(loaded->project), tr("Take the change in").toStdString());
            history_.mark_saved();
            saved_at_ = QDateTime::currentDateTime();
            keep_for_recovery();
            Q_EMIT changed();
        },
        Rank::save);
}

/// What is still being looked for was for the project before.
void Session::leave_behind()
{
    ++begun_;
    search_.forget();
    ++arrivals_;
}

void Session::relocate(Moved moved)
{
    const bool was_saved = saved() && !file_.empty();
    Relocation relocation(std::move(moved));
    history_.map([&](const Project& p) { return relocation(p); });
    keep_for_recovery();
    Q_EMIT changed();
    if (was_saved)
        save(file_);
}

void Session::keep_for_recovery()
{
    if (recovery_)
        recovery_timer_.start();
}

void Session::write_recovery()
{
    if (recovery_writing_) { // one at a time, so that the newest is the last
        recovery_timer_.start();
        return;
    }
    recovery_writing_ = true;
    const bool clear = history_.saved();
    background_.run(
        this,
        [slot = recovery_, clear, project = history_.current(), file = file_] {
            return Background::guarded([&] {
                clear ? slot->clear() : slot->keep(project, file);
                return true;
            });
        },
        [this](const Result<bool>& done) {
            recovery_writing_ = false;
            if (!done)
                Q_EMIT failed(QString::fromStdString(done.error().text()));
        },
        Rank::save);
}

}
