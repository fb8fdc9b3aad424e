#pragma once
#include <filesystem>
#include <optional>

namespace frenlo {

/// A file that one process holds; the system lets go of it when that process ends, however it ends.
class FileLock
{
public:
    /// Nothing while another process holds it, or where the file cannot be made; errno says which.
    static std::optional<FileLock> try_take(const std::filesystem::path& file);
    ~FileLock();
    FileLock(FileLock&& other) noexcept : fd_(other.fd_) { other.fd_ = -1; }
    FileLock& operator=(FileLock&& other) noexcept;

private:
    explicit FileLock(int fd) : fd_(fd) {}
    int fd_;
};

}
