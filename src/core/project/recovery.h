#pragma once
#include "core/base/file_lock.h"
#include "core/base/problem.h"
#include "core/project/project.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// A place on disk where a running Frenlo keeps its unsaved work, so that nothing is lost at any kill. While the slot
/// is alive its work is in use; after a kill it is found by abandoned_work().
class RecoverySlot
{
public:
    /// Throws Failure when the folder cannot be written to.
    explicit RecoverySlot(const std::filesystem::path& folder);
    /// Gives the slot up; what was kept and not cleared stays for the next start.
    ~RecoverySlot();
    RecoverySlot(const RecoverySlot&) = delete;
    RecoverySlot& operator=(const RecoverySlot&) = delete;

    /// Keeps the work; saved_as: the project's file, empty when it has none yet. Throws Failure.
    void keep(const Project& project, const std::filesystem::path& saved_as);
    /// Nothing is unsaved.
    void clear();

    /// $XDG_STATE_HOME/frenlo/recovery or ~/.local/state/frenlo/recovery.
    static std::filesystem::path usual_folder();

private:
    std::filesystem::path work_;
    std::filesystem::path lock_file_;
    std::optional<FileLock> lock_;
};

struct AbandonedWork
{
    std::filesystem::path kept;     ///< the file in the recovery folder
    std::filesystem::path saved_as; ///< the project's own file, may be empty
    std::filesystem::file_time_type when;
    std::optional<Problem> damaged{}; ///< why it cannot be taken back
};

/// Work of processes that ended without saving, newest first; what cannot be read at the end.
std::vector<AbandonedWork> abandoned_work(const std::filesystem::path& folder);

/// Throws Failure.
Project recovered(const AbandonedWork& work);

void forget(const AbandonedWork& work);

}
