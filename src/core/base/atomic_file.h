#pragma once
#include <filesystem>
#include <functional>
#include <string_view>

namespace frenlo {

/// Writing that either happens wholly or not at all. The bytes go to a hidden file in the target's own folder;
/// commit() makes them durable and renames it over the target. Without commit() nothing is left.
/// A process killed half way leaves only `.<name>.<process>.unfinished`, which the next AtomicFile for the same
/// target removes.
class AtomicFile {
public:
    /// Creates the folder when missing, and an empty file to write to. Throws Failure.
    explicit AtomicFile(std::filesystem::path target);
    ~AtomicFile();
    AtomicFile(const AtomicFile&) = delete;
    AtomicFile& operator=(const AtomicFile&) = delete;

    /// The file to write to until commit().
    [[nodiscard]] const std::filesystem::path& path() const { return unfinished_; }
    [[nodiscard]] const std::filesystem::path& target() const { return target_; }
    /// Throws Failure; the target is then as it was.
    void commit();
    /// The same for a target that must not exist yet: a file of that name, whoever made it, stays and is a Failure.
    void commit_new();

private:
    void make_durable() const;

    std::filesystem::path target_;
    std::filesystem::path unfinished_;
    bool committed_ = false;
};

/// Gives a file another name, on another disk too. A file that has that name stays and is a Failure. At any kill the file
/// is whole under one name or under both.
void move_to_new(const std::filesystem::path& from, const std::filesystem::path& to);

/// A copy with the same time of change. A file that has that name stays and is a Failure.
void copy_to_new(const std::filesystem::path& from, const std::filesystem::path& to);

/// Whether two files hold the same bytes. Throws Failure where one cannot be read.
bool same_bytes(const std::filesystem::path& a, const std::filesystem::path& b);

/// A folder of files that appear under their final names together: write into path(), then commit() moves each file
/// into the target folder. Files of the same names are replaced one by one at commit, not before.
class AtomicFolder {
public:
    /// target: the folder the files end in. name: tells apart several writers of one folder.
    AtomicFolder(std::filesystem::path target, std::string_view name);
    ~AtomicFolder();
    AtomicFolder(const AtomicFolder&) = delete;
    AtomicFolder& operator=(const AtomicFolder&) = delete;

    [[nodiscard]] const std::filesystem::path& path() const { return unfinished_; }
    void commit();

private:
    std::filesystem::path target_;
    std::filesystem::path unfinished_;
};

/// Replaces the file with these bytes, wholly or not at all. Throws Failure.
void write_whole_file(const std::filesystem::path& target, std::string_view bytes);

/// The whole file. Throws Failure.
std::string read_whole_file(const std::filesystem::path& file);
/// The same into memory of the caller's: room is asked for as many bytes as the file has, once, and not for an empty file.
/// Returns how many were read, fewer where the file was cut meanwhile.
std::size_t read_whole_file(const std::filesystem::path& file, const std::function<char*(std::size_t)>& room);

}
