#pragma once
#include "core/base/file_lock.h"

#include <filesystem>
#include <optional>
#include <vector>

namespace frenlo {

/// The ending of what is being written and not yet under its name.
inline constexpr std::string_view unfinished_ending = ".unfinished";

/// Remembers in Frenlo's own folder that something long is being written (a film, a folder of stills), so that what a
/// killed process leaves behind anywhere is removed at the next start. Where the folder cannot be written to, nothing
/// is remembered; leftovers are then removed by the next export to the same place.
class UnfinishedNote
{
public:
    explicit UnfinishedNote(const std::filesystem::path& unfinished,
                            const std::filesystem::path& notes = usual_folder());
    /// It is finished, or was removed.
    ~UnfinishedNote();
    UnfinishedNote(const UnfinishedNote&) = delete;
    UnfinishedNote& operator=(const UnfinishedNote&) = delete;

    /// $XDG_STATE_HOME/frenlo/unfinished or ~/.local/state/frenlo/unfinished.
    static std::filesystem::path usual_folder();

private:
    std::filesystem::path note_;
    std::optional<FileLock> lock_;
};

/// Removes what processes that are no more left unfinished; returns what was removed.
std::vector<std::filesystem::path>
sweep_unfinished(const std::filesystem::path& notes = UnfinishedNote::usual_folder());

}
