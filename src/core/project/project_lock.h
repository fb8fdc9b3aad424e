#pragma once
#include <chrono>
#include <filesystem>

namespace frenlo {

/// How long a command or the window waits for another to be done with a project.
inline constexpr std::chrono::milliseconds usual_patience{10'000};

/// A project's file, held from before it is read until after it is written, so that of two who change it at once both
/// changes are in it. It is the file itself that is locked, so nothing is left lying about and the system lets go of it
/// when its process ends, however it ends. Reading alone takes no lock: writing is atomic.
class ProjectLock
{
public:
    /// Waits where another holds it; throws Failure that says who does when patience is at an end. A file that is not
    /// there needs no lock.
    explicit ProjectLock(const std::filesystem::path& file, std::chrono::milliseconds patience = usual_patience);
    ~ProjectLock();
    ProjectLock(const ProjectLock&) = delete;
    ProjectLock& operator=(const ProjectLock&) = delete;

private:
    int fd_ = -1;
};

}
