#pragma once
#include <cstdint>
#include <filesystem>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace frenlo {

/// Size and time of a file, by which it is known again.
struct FileStamp
{
    std::uintmax_t bytes = 0;
    std::int64_t modified_ns = 0; ///< since the epoch of the file system's clock
    bool operator==(const FileStamp&) const = default;
};

/// Nothing where there is no regular file.
std::optional<FileStamp> stamp_of(const std::filesystem::path& file);

/// A regular file, opened for reading. Pipes and devices are a Failure at once: whoever opened one would wait for ever.
class InputFile
{
public:
    /// Throws Failure that says what, which file and what to do.
    explicit InputFile(std::filesystem::path file);
    ~InputFile();
    InputFile(const InputFile&) = delete;
    InputFile& operator=(const InputFile&) = delete;

    /// As it was when it was opened.
    [[nodiscard]] const FileStamp& stamp() const { return stamp_; }
    /// Reads up to size bytes, fewer at the end only. Throws Failure.
    std::size_t read(char* to, std::size_t size);
    void seek(std::uintmax_t position);

private:
    std::filesystem::path file_;
    int fd_ = -1;
    FileStamp stamp_;
};

/// The whole file. Throws Failure.
std::string read_whole_file(const std::filesystem::path& file);

/// Calls take(bytes) with the file's content, a piece at a time, until it returns false. Throws Failure.
void read_pieces(const std::filesystem::path& file, const std::function<bool(std::string_view)>& take);

/// Whether two files hold the same bytes. Throws Failure where one cannot be read.
bool same_bytes(const std::filesystem::path& a, const std::filesystem::path& b);

}
