// Loaded before the system's library: counts the calls that change the disk below one folder, and kills the process at
// the Nth of them, or lets it, or it and all that write after it, fail.
//   FRENLO_FAULT_BELOW   only files below this folder count
//   FRENLO_FAULT         "kill:7", "ENOSPC:7", "EIO:7" (from the seventh on nothing can be written), "EACCES:0"
//   (nothing can be read) FRENLO_FAULT_FIRED   a file that is made when it happens
#include <climits>

#include <array>
#include <cerrno>
#include <csignal>
#include <cstdarg>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <dirent.h>
#include <dlfcn.h>
#include <fcntl.h>
#include <string>
#include <string_view>
#include <sys/stat.h>
#include <sys/syscall.h>
#include <unistd.h>

namespace {

template <class Function>
Function* next(const char* name)
{
    return reinterpret_cast<Function*>(dlsym(RTLD_NEXT, name));
}

struct Plan
{
    std::string_view below;
    int error = 0; ///< 0: kill
    long at = -1;  ///< below 0: nothing is to happen
    const char* fired = nullptr;
};

const Plan& plan()
{
    static const Plan made = [] {
        Plan p;
        const char* fault = std::getenv("FRENLO_FAULT");
        const char* below = std::getenv("FRENLO_FAULT_BELOW");
        if (!fault || !below)
            return p;
        const std::string_view text(fault);
        p.below = below;
        p.at = std::atol(fault + text.find(':') + 1);
        p.error = text.starts_with("ENOSPC")   ? ENOSPC
                  : text.starts_with("EIO")    ? EIO
                  : text.starts_with("EACCES") ? EACCES
                                               : 0;
        p.fired = std::getenv("FRENLO_FAULT_FIRED");
        return p;
    }();
    return made;
}

long count = 0;

void mark()
{
    if (plan().fired) // not through the calls that are watched
        syscall(SYS_close, syscall(SYS_openat, AT_FDCWD, plan().fired, O_CREAT | O_WRONLY, 0600));
}

std::string absolute(const char* path)
{
    if (path[0] == '/')
        return path;
    std::array<char, PATH_MAX> here{};
    return std::string(getcwd(here.data(), here.size()) ? here.data() : "") + '/' + path;
}

bool watched(const char* path)
{
    return path && plan().at >= 0 && absolute(path).starts_with(plan().below);
}

bool watched(int fd)
{
    if (plan().at < 0)
        return false;
    struct stat info = {};
    if (fstat(fd, &info) != 0 || !S_ISREG(info.st_mode))
        return false;
    std::array<char, PATH_MAX> name{};
    const auto n = readlink(("/proc/self/fd/" + std::to_string(fd)).c_str(), name.data(), name.size() - 1);
    return n > 0 && watched(name.data());
}

/// A change is about to be made; writes: one that needs room. True where it must fail, errno is set.
bool fails(bool writes)
{
    if (plan().error == EACCES)
        return false;
    const long now = ++count;
    if (plan().error == 0 && now == plan().at) {
        mark();
        kill(getpid(), SIGKILL);
        pause();
    }
    const bool fail = plan().error != 0 && (now == plan().at || (now > plan().at && writes));
    if (fail) {
        mark();
        errno = plan().error;
    }
    return fail;
}

bool changes(int flags)
{
    return (flags & (O_CREAT | O_TRUNC | O_WRONLY | O_RDWR)) != 0;
}

/// Opening for reading, where nothing may be read.
bool refused(const char* path)
{
    if (plan().error != EACCES || !watched(path))
        return false;
    mark();
    errno = EACCES;
    return true;
}

}

#define FRENLO_OPEN(name, ...)                                                                                         \
    extern "C" int name(const char* path, int flags, ...)                                                              \
    {                                                                                                                  \
        va_list more;                                                                                                  \
        va_start(more, flags);                                                                                         \
        const auto mode = (flags & O_CREAT) != 0 ? va_arg(more, mode_t) : 0;                                           \
        va_end(more);                                                                                                  \
        if (refused(path) || (changes(flags) && watched(path) && fails(true)))                                         \
            return -1;                                                                                                 \
        return next<int(const char*, int, ...)>(#name)(path, flags, mode);                                             \
    }
FRENLO_OPEN(open)
FRENLO_OPEN(open64)

extern "C" int openat(int folder, const char* path, int flags, ...)
{
    va_list more;
    va_start(more, flags);
    const auto mode = (flags & O_CREAT) != 0 ? va_arg(more, mode_t) : 0;
    va_end(more);
    if (folder == AT_FDCWD && (refused(path) || (changes(flags) && watched(path) && fails(true))))
        return -1;
    return next<int(int, const char*, int, ...)>("openat")(folder, path, flags, mode);
}

extern "C" DIR* opendir(const char* path)
{
    return refused(path) ? nullptr : next<DIR*(const char*)>("opendir")(path);
}

extern "C" int access(const char* path, int mode)
{
    return (mode & R_OK) != 0 && refused(path) ? -1 : next<int(const char*, int)>("access")(path, mode);
}

extern "C" ssize_t write(int fd, const void* bytes, size_t size)
{
    return watched(fd) && fails(true) ? -1 : next<ssize_t(int, const void*, size_t)>("write")(fd, bytes, size);
}

extern "C" ssize_t writev(int fd, const struct iovec* parts, int number)
{
    return watched(fd) && fails(true) ? -1 : next<ssize_t(int, const struct iovec*, int)>("writev")(fd, parts, number);
}

extern "C" int fsync(int fd)
{
    return watched(fd) && fails(true) ? -1 : next<int(int)>("fsync")(fd);
}

extern "C" int rename(const char* from, const char* to)
{
    return watched(to) && fails(false) ? -1 : next<int(const char*, const char*)>("rename")(from, to);
}

extern "C" int renameat2(int a, const char* from, int b, const char* to, unsigned flags)
{
    return watched(to) && fails(false)
               ? -1
               : next<int(int, const char*, int, const char*, unsigned)>("renameat2")(a, from, b, to, flags);
}

extern "C" int unlink(const char* path)
{
    return watched(path) && fails(false) ? -1 : next<int(const char*)>("unlink")(path);
}

extern "C" int mkdir(const char* path, mode_t mode)
{
    return watched(path) && fails(true) ? -1 : next<int(const char*, mode_t)>("mkdir")(path, mode);
}

extern "C" int fchmod(int fd, mode_t mode)
{
    return watched(fd) && fails(false) ? -1 : next<int(int, mode_t)>("fchmod")(fd, mode);
}
