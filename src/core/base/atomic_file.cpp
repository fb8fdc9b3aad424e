#include "core/base/atomic_file.h"

#include "core/base/problem.h"

#include <cerrno>
#include <charconv>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <fstream>
#include <string>
#include <sys/stat.h>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view ending = ".unfinished";

std::string remedy_for(int error)
{
    switch (error) {
    case ENOSPC:
    case EDQUOT:
    case EFBIG:
        return "Make room on the disk or choose another folder";
    case EACCES:
    case EPERM:
    case EROFS:
        return "Choose a folder that you may write to";
    case ENAMETOOLONG:
        return "Choose a shorter name";
    default:
        return "Check the disk or choose another folder";
    }
}

[[noreturn]] void fail(const std::string& what, const fs::path& file, int error)
{
    throw Failure({what + " (" + std::strerror(error) + ")", file, remedy_for(error)});
}

/// Removes what killed processes left beside the target; a running process keeps its own.
void remove_leftovers(const fs::path& folder, const std::string& prefix)
{
    std::error_code ec;
    for (fs::directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec)) {
        const std::string name = it->path().filename().native();
        if (!name.starts_with(prefix) || !name.ends_with(ending) || name.size() <= prefix.size() + ending.size())
            continue;
        const std::string_view digits(name.data() + prefix.size(), name.size() - prefix.size() - ending.size());
        pid_t pid = 0;
        const auto [end_of_number, error] = std::from_chars(digits.data(), digits.data() + digits.size(), pid);
        if (error != std::errc() || end_of_number != digits.data() + digits.size())
            continue;
        if (pid != ::getpid() && ::kill(pid, 0) != 0 && errno == ESRCH)
            fs::remove_all(it->path(), ec);
    }
}

fs::path prepared(const fs::path& folder, const std::string& name)
{
    std::error_code ec;
    fs::create_directories(folder, ec);
    if (ec)
        fail("the folder cannot be made", folder, ec.value());
    const std::string prefix = '.' + name + '.';
    remove_leftovers(folder, prefix);
    return folder / (prefix + std::to_string(::getpid()) + std::string(ending));
}

fs::path folder_of(const fs::path& target)
{
    return fs::absolute(target).parent_path();
}

void sync_and_close(int fd, const fs::path& file)
{
    if (::fsync(fd) != 0) {
        const int error = errno;
        ::close(fd);
        fail("the file cannot be written", file, error);
    }
    ::close(fd);
}

/// The rename itself must survive a power cut. Some file systems refuse to sync a folder; the data is safe all the same.
void sync_folder(const fs::path& folder)
{
    const int fd = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
    if (fd >= 0) {
        ::fsync(fd);
        ::close(fd);
    }
}

/// Renames without replacing; whether another disk would be needed.
bool try_rename_new(const fs::path& from, const fs::path& to)
{
    if (::renameat2(AT_FDCWD, from.c_str(), AT_FDCWD, to.c_str(), RENAME_NOREPLACE) == 0)
        return true;
    int error = errno;
    if (error == EINVAL) { // a file system that cannot promise it: look first
        struct stat there = {};
        if (::lstat(to.c_str(), &there) == 0)
            error = EEXIST;
        else if (::rename(from.c_str(), to.c_str()) == 0)
            return true;
        else
            error = errno;
    }
    if (error == EXDEV)
        return false;
    if (error == EEXIST)
        throw Failure({"a file of this name is there already and is not replaced", to, "Choose another folder or name"});
    fail("the file cannot be given its name", to, error);
}

void rename_new(const fs::path& from, const fs::path& to)
{
    if (!try_rename_new(from, to))
        fail("the file cannot be given its name", to, EXDEV);
}

/// Calls take(bytes) with the file's content, a piece at a time.
template <class Take>
void read_pieces(const fs::path& file, Take take)
{
    const int fd = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0)
        fail("the file cannot be opened", file, errno);
    std::string piece(1 << 20, '\0');
    for (;;) {
        const ssize_t n = ::read(fd, piece.data(), piece.size());
        if (n < 0 && errno == EINTR)
            continue;
        if (n <= 0) {
            const int error = n < 0 ? errno : 0;
            ::close(fd);
            if (error != 0)
                fail("the file cannot be read", file, error);
            return;
        }
        if (!take(std::string_view(piece.data(), std::size_t(n)))) {
            ::close(fd);
            return;
        }
    }
}

int write_all(int fd, std::string_view bytes)
{
    while (!bytes.empty()) {
        const ssize_t n = ::write(fd, bytes.data(), bytes.size());
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            return errno;
        bytes.remove_prefix(static_cast<std::size_t>(n));
    }
    return 0;
}

}

void copy_to_new(const fs::path& from, const fs::path& to)
{
    struct stat original = {};
    if (::stat(from.c_str(), &original) != 0)
        fail("the file cannot be opened", from, errno);
    AtomicFile copy(to);
    const int fd = ::open(copy.path().c_str(), O_WRONLY | O_CLOEXEC);
    if (fd < 0)
        fail("the file cannot be written", to, errno);
    int error = 0;
    read_pieces(from, [&](std::string_view bytes) { return (error = write_all(fd, bytes)) == 0; });
    const timespec times[] = {original.st_atim, original.st_mtim};
    ::futimens(fd, times); // some file systems keep no times; the copy is whole all the same
    ::close(fd);
    if (error != 0)
        fail("the file cannot be written", to, error);
    copy.commit_new();
}

void move_to_new(const fs::path& from, const fs::path& to)
{
    std::error_code ec;
    fs::create_directories(folder_of(to), ec);
    if (ec)
        fail("the folder cannot be made", folder_of(to), ec.value());
    if (try_rename_new(from, to)) {
        sync_folder(folder_of(to));
        sync_folder(folder_of(from));
        return;
    }
    copy_to_new(from, to);
    if (::unlink(from.c_str()) != 0)
        fail("the copy is whole, but the original cannot be removed", from, errno);
}

bool same_bytes(const fs::path& a, const fs::path& b)
{
    std::error_code ec;
    if (fs::file_size(a, ec) != fs::file_size(b, ec) || ec)
        return false;
    std::ifstream other(b, std::ios::binary);
    bool same = true;
    std::string there;
    read_pieces(a, [&](std::string_view bytes) {
        there.resize(bytes.size());
        other.read(there.data(), std::streamsize(there.size()));
        same = std::size_t(other.gcount()) == bytes.size() && there == bytes;
        return same;
    });
    return same;
}

AtomicFile::AtomicFile(fs::path target)
    : target_(std::move(target)), unfinished_(prepared(folder_of(target_), target_.filename().native()))
{
    const int fd = ::open(unfinished_.c_str(), O_CREAT | O_TRUNC | O_WRONLY | O_CLOEXEC, 0666);
    if (fd < 0)
        fail("the file cannot be written", target_, errno);
    ::close(fd);
}

AtomicFile::~AtomicFile()
{
    if (!committed_)
        ::unlink(unfinished_.c_str());
}

void AtomicFile::make_durable() const
{
    const int fd = ::open(unfinished_.c_str(), O_WRONLY | O_CLOEXEC);
    if (fd < 0)
        fail("the file cannot be written", target_, errno);
    sync_and_close(fd, target_);
}

void AtomicFile::commit_new()
{
    make_durable();
    rename_new(unfinished_, target_);
    committed_ = true;
    sync_folder(folder_of(target_));
}

void AtomicFile::commit()
{
    make_durable();
    if (::rename(unfinished_.c_str(), target_.c_str()) != 0)
        fail("the file cannot be given its name", target_, errno);
    committed_ = true;
    sync_folder(folder_of(target_));
}

AtomicFolder::AtomicFolder(fs::path target, std::string_view name)
    : target_(std::move(target)), unfinished_(prepared(target_, std::string(name)))
{
    if (::mkdir(unfinished_.c_str(), 0777) != 0)
        fail("the folder cannot be written to", target_, errno);
}

AtomicFolder::~AtomicFolder()
{
    std::error_code ec;
    fs::remove_all(unfinished_, ec);
}

void AtomicFolder::commit()
{
    for (const auto& entry : fs::directory_iterator(unfinished_)) {
        const fs::path final_name = target_ / entry.path().filename();
        const int fd = ::open(entry.path().c_str(), O_WRONLY | O_CLOEXEC);
        if (fd < 0)
            fail("the file cannot be written", final_name, errno);
        sync_and_close(fd, final_name);
        if (::rename(entry.path().c_str(), final_name.c_str()) != 0)
            fail("the file cannot be given its name", final_name, errno);
    }
    sync_folder(target_);
}

void write_whole_file(const fs::path& target, std::string_view bytes)
{
    AtomicFile file(target);
    const int fd = ::open(file.path().c_str(), O_WRONLY | O_CLOEXEC);
    if (fd < 0)
        fail("the file cannot be written", target, errno);
    const int error = write_all(fd, bytes);
    ::close(fd);
    if (error != 0)
        fail("the file cannot be written", target, error);
    file.commit();
}

std::string read_whole_file(const fs::path& file)
{
    std::string bytes;
    const std::size_t read = read_whole_file(file, [&](std::size_t size) {
        bytes.resize(size);
        return bytes.data();
    });
    bytes.resize(read);
    return bytes;
}

std::size_t read_whole_file(const fs::path& file, const std::function<char*(std::size_t)>& room)
{
    const int fd = ::open(file.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0)
        throw Failure({std::string("the file cannot be opened (") + std::strerror(errno) + ")", file,
                       errno == ENOENT ? "It was moved, renamed or deleted" : "Check that you may read it"});
    struct Closing
    {
        int fd;
        ~Closing() { ::close(fd); }
    } const closing{fd};
    struct stat info = {};
    if (::fstat(fd, &info) != 0 || !S_ISREG(info.st_mode))
        throw Failure({"this is not a file", file, ""});
    const auto size = static_cast<std::size_t>(info.st_size);
    char* bytes = size > 0 ? room(size) : nullptr;
    std::size_t done = 0;
    while (done < size) {
        const ssize_t n = ::read(fd, bytes + done, size - done);
        if (n < 0 && errno == EINTR)
            continue;
        if (n < 0)
            throw Failure({std::string("the file cannot be read (") + std::strerror(errno) + ")", file,
                           "Check the disk or card, and copy the file again"});
        if (n == 0)
            break;
        done += static_cast<std::size_t>(n);
    }
    return done;
}

}
