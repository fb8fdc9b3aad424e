#include "core/base/unfinished.h"

#include "core/base/folders.h"
#include "core/base/input_file.h"
#include "core/base/problem.h"

#include <fstream>
#include <random>
#include <string>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view note_ending = ".note";

fs::path lock_beside(const fs::path& note)
{
    return fs::path(note).replace_extension(".lock");
}

/// Only what has the form of an unfinished file is ever removed, whatever a note says.
bool may_go(const fs::path& file)
{
    const std::string name = file.filename().native();
    return file.is_absolute() && name.starts_with('.') && name.ends_with(unfinished_ending);
}

}

fs::path UnfinishedNote::usual_folder()
{
    return state_folder() / "unfinished";
}

UnfinishedNote::UnfinishedNote(const fs::path& unfinished, const fs::path& notes)
{
    std::error_code ec;
    fs::create_directories(notes, ec);
    std::random_device random;
    note_ = notes / (std::to_string(::getpid()) + '-' + std::to_string(random()) + std::string(note_ending));
    lock_ = FileLock::try_take(lock_beside(note_));
    if (lock_)
        std::ofstream(note_, std::ios::binary) << fs::absolute(unfinished).native();
}

UnfinishedNote::~UnfinishedNote()
{
    std::error_code ec;
    fs::remove(note_, ec);
    fs::remove(lock_beside(note_), ec);
}

std::vector<fs::path> sweep_unfinished(const fs::path& notes)
{
    std::vector<fs::path> found, removed;
    std::error_code ec;
    for (fs::directory_iterator it(notes, ec), end; !ec && it != end; it.increment(ec))
        if (it->path().extension() == note_ending)
            found.push_back(it->path());
    for (const fs::path& note : found) {
        const auto lock = FileLock::try_take(lock_beside(note));
        if (!lock || !stamp_of(note))
            continue; // it is still being written, or was finished just now
        const fs::path unfinished(read_whole_file(note));
        if (may_go(unfinished) && fs::remove_all(unfinished, ec) > 0 && !ec)
            removed.push_back(unfinished);
        fs::remove(note, ec);
        fs::remove(lock_beside(note), ec);
    }
    return removed;
}

}
