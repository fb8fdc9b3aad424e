#include "core/base/atomic_file.h"

#include "core/base/input_file.h"
#include "core/base/problem.h"
#include "core/base/unfinished.h"

#include <algorithm>
#include <cerrno>
#include <charconv>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <string>
#include <sys/stat.h>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::string_view ending = unfinished_ending;

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

/// Made before there is anything to be forgotten.
std::unique_ptr<UnfinishedNote> note_of(const fs::path& unfinished, Noted noted)
{
    return noted == Noted::yes ? std::make_unique<UnfinishedNote>(unfinished) : nullptr;
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

/// The rename itself must survive a power cut. Some file systems refuse to sync a folder; the data is safe all the
/// same.
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
        throw Failure(
            {"a file of this name is there already and is not replaced", to, "Choose another folder or name"});
    fail("the file cannot be given its name", to, error);
}

void rename_new(const fs::path& from, const fs::path& to)
{
    if (!try_rename_new(from, to))
        fail("the file cannot be given its name", to, EXDEV);
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
    try {
        read_pieces(from, [&](std::string_view bytes) { return (error = write_all(fd, bytes)) == 0; });
    } catch (const Failure&) {
        ::close(fd);
        throw;
    }
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

fs::path real_target(const fs::path& target)
{
    constexpr int most_links = 40; // as many as Linux itself follows
    fs::path real = target;
    std::error_code ec;
    for (int links = 0; fs::is_symlink(real, ec); ++links) {
        if (links == most_links)
            fail("the link goes in a circle", target, ELOOP);
        real = real.parent_path() / fs::read_symlink(real, ec);
        if (ec)
            fail("the link cannot be followed", target, ec.value());
    }
    return real;
}

AtomicFile::AtomicFile(fs::path target, Noted noted) : target_(std::move(target)), real_(real_target(target_))
{
    struct stat there = {};
    const bool replaces = ::stat(real_.c_str(), &there) == 0;
    if (replaces && !S_ISREG(there.st_mode))
        throw Failure(
            {S_ISDIR(there.st_mode) ? "this is a folder" : "this is not a file", target_, "Choose another name"});
    // Renaming needs no right to the file itself, so it is asked for here; the superuser is only stopped by the bits.
    if (replaces && ((there.st_mode & 0222) == 0 || ::access(real_.c_str(), W_OK) != 0))
        throw Failure({"the file may not be written to", target_, "Make it writable or choose another name"});
    unfinished_ = prepared(folder_of(real_), real_.filename().native());
    note_ = note_of(unfinished_, noted);
    const int fd = ::open(unfinished_.c_str(), O_CREAT | O_TRUNC | O_WRONLY | O_CLOEXEC, 0666);
    if (fd < 0)
        fail("the file cannot be written", target_, errno);
    if (replaces) {
        const bool own = there.st_uid == ::geteuid() && there.st_gid == ::getegid();
        // Only the superuser may give files away; for others the new file is theirs, as after a copy.
        if ((!own && ::fchown(fd, there.st_uid, there.st_gid) != 0 && errno != EPERM) ||
            ::fchmod(fd, there.st_mode & 07777) != 0) {
            const int error = errno;
            ::close(fd);
            ::unlink(unfinished_.c_str());
            fail("the file's mode cannot be kept", target_, error);
        }
    }
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
    rename_new(unfinished_, real_);
    committed_ = true;
    sync_folder(folder_of(real_));
}

void AtomicFile::commit()
{
    make_durable();
    if (::rename(unfinished_.c_str(), real_.c_str()) != 0)
        fail("the file cannot be given its name", target_, errno);
    committed_ = true;
    sync_folder(folder_of(real_));
}

AtomicFolder::AtomicFolder(fs::path target, std::string_view name, Noted noted)
    : target_(std::move(target)), unfinished_(prepared(target_, std::string(name))), note_(note_of(unfinished_, noted))
{
    if (::mkdir(unfinished_.c_str(), 0777) != 0)
        fail("the folder cannot be written to", target_, errno);
}

AtomicFolder::~AtomicFolder()
{
    std::error_code ec;
    fs::remove_all(unfinished_, ec);
}

/// The names of the files, in order, each of them safe on the disk.
std::vector<fs::path> AtomicFolder::durable_names() const
{
    std::vector<fs::path> names;
    for (const auto& entry : fs::directory_iterator(unfinished_))
        names.push_back(entry.path().filename());
    std::sort(names.begin(), names.end());
    for (const fs::path& name : names) {
        const int fd = ::open((unfinished_ / name).c_str(), O_WRONLY | O_CLOEXEC);
        if (fd < 0)
            fail("the file cannot be written", target_ / name, errno);
        sync_and_close(fd, target_ / name);
    }
    return names;
}

void AtomicFolder::commit()
{
    for (const fs::path& name : durable_names()) {
        const fs::path final_name = real_target(target_ / name);
        if (::rename((unfinished_ / name).c_str(), final_name.c_str()) != 0)
            fail("the file cannot be given its name", target_ / name, errno);
    }
    sync_folder(target_);
}

void AtomicFolder::commit_new()
{
    std::vector<fs::path> placed;
    try {
        for (const fs::path& name : durable_names()) {
            rename_new(unfinished_ / name, target_ / name);
            placed.push_back(name);
        }
    } catch (const Failure&) {
        for (const fs::path& name : placed)
            ::unlink((target_ / name).c_str());
        throw;
    }
    sync_folder(target_);
}

namespace {

void fill(const AtomicFile& file, std::string_view bytes)
{
    const int fd = ::open(file.path().c_str(), O_WRONLY | O_CLOEXEC);
    if (fd < 0)
        fail("the file cannot be written", file.target(), errno);
    const int error = write_all(fd, bytes);
    ::close(fd);
    if (error != 0)
        fail("the file cannot be written", file.target(), error);
}

}

void write_whole_file(const fs::path& target, std::string_view bytes)
{
    AtomicFile file(target);
    fill(file, bytes);
    file.commit();
}

void write_new_file(const fs::path& target, std::string_view bytes)
{
    AtomicFile file(target);
    fill(file, bytes);
    file.commit_new();
}

}
