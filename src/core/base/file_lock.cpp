#include "core/base/file_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>
#include <utility>

namespace frenlo {

std::optional<FileLock> FileLock::try_take(const std::filesystem::path& file)
{
    const int fd = ::open(file.c_str(), O_CREAT | O_RDWR | O_CLOEXEC, 0600);
    if (fd < 0)
        return std::nullopt;
    FileLock lock(fd);
    if (::flock(fd, LOCK_EX | LOCK_NB) != 0)
        return std::nullopt;
    return lock;
}

FileLock::~FileLock()
{
    if (fd_ >= 0)
        ::close(fd_);
}

FileLock& FileLock::operator=(FileLock&& other) noexcept
{
    std::swap(fd_, other.fd_);
    return *this;
}

}
