#include "core/base/input_file.h"

#include "core/base/problem.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

FileStamp stamp_from(const struct stat& info)
{
    return {static_cast<std::uintmax_t>(info.st_size),
            std::int64_t(info.st_mtim.tv_sec) * 1'000'000'000 + info.st_mtim.tv_nsec};
}

[[noreturn]] void cannot_open(const fs::path& file, int error)
{
    throw Failure({std::string("the file cannot be opened (") + std::strerror(error) + ")", file,
                   error == ENOENT ? "It was moved, renamed or deleted" : "Check that you may read it"});
}

}

std::optional<FileStamp> stamp_of(const fs::path& file)
{
    struct stat info = {};
    if (::stat(file.c_str(), &info) != 0 || !S_ISREG(info.st_mode))
        return std::nullopt;
    return stamp_from(info);
}

InputFile::InputFile(fs::path file) : file_(std::move(file))
{
    // Looked at first, since opening a pipe or a device can do something; and without waiting, should it change
    // meanwhile.
    struct stat info = {};
    if (::stat(file_.c_str(), &info) != 0)
        cannot_open(file_, errno);
    const auto no_file = [&] {
        return Failure({"this is not a file", file_, S_ISDIR(info.st_mode) ? "" : "Pipes and devices cannot be read"});
    };
    if (!S_ISREG(info.st_mode))
        throw no_file();
    fd_ = ::open(file_.c_str(), O_RDONLY | O_NONBLOCK | O_NOCTTY | O_CLOEXEC);
    if (fd_ < 0)
        cannot_open(file_, errno);
    if (::fstat(fd_, &info) != 0 || !S_ISREG(info.st_mode)) {
        ::close(fd_);
        throw no_file();
    }
    stamp_ = stamp_from(info);
}

InputFile::~InputFile()
{
    ::close(fd_);
}

std::size_t InputFile::read(char* to, std::size_t size)
{
    std::size_t done = 0;
    while (done < size) {
        const ssize_t n = ::read(fd_, to + done, size - done);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            throw Failure({std::string("the file cannot be read (") + std::strerror(errno) + ")", file_,
                           "Check the disk or card, and copy the file again"});
        if (n == 0)
            break;
        done += static_cast<std::size_t>(n);
    }
    return done;
}

void InputFile::seek(std::uintmax_t position)
{
    if (::lseek(fd_, static_cast<off_t>(position), SEEK_SET) < 0)
        throw Failure(
            {std::string("the file cannot be read (") + std::strerror(errno) + ")", file_, "Check the disk or card"});
}

std::string read_whole_file(const fs::path& file)
{
    InputFile in(file);
    std::string bytes(in.stamp().bytes, '\0');
    bytes.resize(in.read(bytes.data(), bytes.size()));
    return bytes;
}

void read_pieces(const fs::path& file, const std::function<bool(std::string_view)>& take)
{
    constexpr std::size_t piece_bytes = 1 << 20;
    InputFile in(file);
    std::string piece(piece_bytes, '\0');
    while (const std::size_t n = in.read(piece.data(), piece.size()))
        if (!take(std::string_view(piece).substr(0, n)))
            return;
}

bool same_bytes(const fs::path& a, const fs::path& b)
{
    InputFile other(b);
    if (InputFile(a).stamp().bytes != other.stamp().bytes)
        return false;
    bool same = true;
    std::string there;
    read_pieces(a, [&](std::string_view bytes) {
        there.resize(bytes.size());
        there.resize(other.read(there.data(), there.size()));
        return same = there == bytes;
    });
    return same;
}

}
