#include "core/project/project_lock.h"

#include "core/base/problem.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <optional>
#include <sstream>
#include <string>
#include <sys/file.h>
#include <sys/stat.h>
#include <thread>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// "frenlo-cli (process 4711)", by the kernel's own list of locks (proc(5)); empty where it cannot be told.
std::string holder_of(const struct stat& file)
{
    std::ifstream locks("/proc/locks");
    const std::string inode = ':' + std::to_string(file.st_ino);
    for (std::string line; std::getline(locks, line);) {
        std::istringstream words(line);
        std::string number, kind, mode, access, process, place;
        if (!(words >> number >> kind >> mode >> access >> process >> place) || kind != "FLOCK" ||
            !place.ends_with(inode))
            continue;
        std::string name;
        std::getline(std::ifstream("/proc/" + process + "/comm"), name);
        return (name.empty() ? "a program" : name) + " (process " + process + ')';
    }
    return {};
}

}

ProjectLock::ProjectLock(const fs::path& file, std::chrono::milliseconds patience)
{
    constexpr std::chrono::milliseconds nap{5};
    const auto until = std::chrono::steady_clock::now() + patience;
    for (;;) {
        fd_ = ::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC);
        if (fd_ < 0 && errno == ENOENT)
            return;
        if (fd_ < 0)
            throw Failure({std::string("the project cannot be opened (") + std::strerror(errno) + ")", file,
                           "Check that you may read it"});
        struct stat held = {}, now = {};
        ::fstat(fd_, &held);
        const bool taken = ::flock(fd_, LOCK_EX | LOCK_NB) == 0;
        // Whoever held it before may have put another file in its place.
        if (taken && ::stat(file.c_str(), &now) == 0 && now.st_ino == held.st_ino && now.st_dev == held.st_dev)
            return;
        const bool impossible = !taken && errno != EWOULDBLOCK && errno != EINTR;
        ::close(std::exchange(fd_, -1));
        if (impossible)
            return; // a file system without locks: as good as it can be there
        if (!taken && std::chrono::steady_clock::now() >= until) {
            const std::string who = holder_of(held);
            throw Failure({(who.empty() ? "another program" : who) + " is changing the project", file,
                           "Try again when it is done"});
        }
        if (!taken)
            std::this_thread::sleep_for(nap);
    }
}

ProjectLock::~ProjectLock()
{
    if (fd_ >= 0)
        ::close(fd_);
}

}
