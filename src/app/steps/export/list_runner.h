#pragma once
#include "app/work/desktop.h"
#include "app/work/task.h"
#include "core/export/export_list.h"

#include <QObject>

#include <filesystem>
#include <memory>
#include <optional>
#include <vector>

namespace frenlo::app {

/// The list of exports at work: one after another in the background, each of its project as it was when it was put
/// there; kept on disk with that, so that after a crash what is done is done and the rest waits.
class ListRunner : public QObject
{
    Q_OBJECT
public:
    struct Entry
    {
        ListedExport listed;
        std::shared_ptr<const Project> project; ///< null: still on disk, from before a restart
        std::string snapshot;                   ///< its name on disk
    };

    /// folder: where the list is kept; may not be there yet. memory: for what is made on the way; must outlive the
    /// background's work.
    ListRunner(Background& background, std::filesystem::path folder, SharedCache* memory, QObject* parent = nullptr);

    [[nodiscard]] const std::vector<Entry>& entries() const { return entries_; }
    /// What was left of an earlier run comes back, and waits.
    void restore();
    void add(std::vector<ListedExport> exports, const Project& project);
    /// Goes on with what waits, until there is nothing left or it is paused.
    void start();
    /// What runs is finished, nothing after it begins.
    void pause();
    [[nodiscard]] bool going_on() const { return going_on_; }
    [[nodiscard]] bool running() const { return task_.running(); }
    [[nodiscard]] std::optional<std::size_t> current() const;
    /// Ends the one that runs, and leaves it out; the next goes on.
    void leave_out_current();
    void move(std::size_t row, int by);
    /// Out of the list; one that runs is stopped.
    void remove(std::size_t row);
    /// One that failed or was left out waits again.
    void again(std::size_t row);
    void clear_done();
    /// Reads every photo of what waits, and sees whether it fits and whether there is room; writes nothing. looked()
    /// follows, and each entry says what was found.
    void look_ahead();
    void stop_looking() { looking_.stop(); }
    [[nodiscard]] bool looking() const { return looking_.running(); }

Q_SIGNALS:
    void changed();
    void progress(double fraction, const QString& what, int left_seconds); ///< of the one that runs
    void ended(int done, int failed);
    void looked(int exports, int photos, int with_problems);
    void told(const QString& message);

private:
    void next();
    void keep();
    [[nodiscard]] Entry* entry(ListedId id);

    Background& background_;
    std::filesystem::path folder_;
    SharedCache* memory_;
    std::vector<Entry> entries_;
    Task task_, looking_;
    ListedId current_{};
    bool going_on_ = false;
    bool keeping_ = false, keep_again_ = false;
    int done_ = 0, failed_ = 0; ///< since start()
    std::unique_ptr<StayAwake> awake_;
};

}
