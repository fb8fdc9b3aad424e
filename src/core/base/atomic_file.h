#pragma once
#include <filesystem>
#include <memory>
#include <string_view>
#include <vector>

namespace frenlo {

class UnfinishedNote;

/// Whether what is being written is noted in Frenlo's own folder (unfinished.h): for what takes long.
enum class Noted
{
    no,
    yes
};

/// Writing that either happens wholly or not at all. The bytes go to a hidden file in the target's own folder;
/// commit() makes them durable and renames it over the target. Without commit() nothing is left. A target that is a
/// symbolic link stays one: the file that it points to is written. A file that is replaced hands on its mode bits and
/// its owner; one that nobody may write to is not replaced. A process killed half way leaves only
/// `.<name>.<process>.unfinished`, which the next AtomicFile for the same target removes, and where it is noted the
/// next start.
class AtomicFile
{
public:
    /// Creates the folder when missing, and an empty file to write to. Throws Failure.
    explicit AtomicFile(std::filesystem::path target, Noted noted = Noted::no);
    ~AtomicFile();
    AtomicFile(const AtomicFile&) = delete;
    AtomicFile& operator=(const AtomicFile&) = delete;

    /// The file to write to until commit().
    [[nodiscard]] const std::filesystem::path& path() const { return unfinished_; }
    /// As it was named, for people; a link is not followed.
    [[nodiscard]] const std::filesystem::path& target() const { return target_; }
    /// Throws Failure; the target is then as it was.
    void commit();
    /// The same for a target that must not exist yet: a file of that name, whoever made it, stays and is a Failure.
    void commit_new();

private:
    void make_durable() const;

    std::filesystem::path target_;
    std::filesystem::path real_; ///< the target with links followed
    std::filesystem::path unfinished_;
    std::unique_ptr<UnfinishedNote> note_;
    bool committed_ = false;
};

/// The file that is written when this name is written to: links are followed, whether what they point to is there or
/// not. Throws Failure where they go in a circle.
std::filesystem::path real_target(const std::filesystem::path& target);

/// Gives a file another name, on another disk too. A file that has that name stays and is a Failure. At any kill the
/// file is whole under one name or under both.
void move_to_new(const std::filesystem::path& from, const std::filesystem::path& to);

/// A copy with the same time of change. A file that has that name stays and is a Failure.
void copy_to_new(const std::filesystem::path& from, const std::filesystem::path& to);

/// A folder of files that appear under their final names together: write into path(), then commit() makes all of them
/// durable and only then moves them into the target folder, in the order of their names.
class AtomicFolder
{
public:
    /// target: the folder the files end in. name: tells apart several writers of one folder.
    AtomicFolder(std::filesystem::path target, std::string_view name, Noted noted = Noted::no);
    ~AtomicFolder();
    AtomicFolder(const AtomicFolder&) = delete;
    AtomicFolder& operator=(const AtomicFolder&) = delete;

    [[nodiscard]] const std::filesystem::path& path() const { return unfinished_; }
    /// Files of the same names are replaced one by one, not before.
    void commit();
    /// No file is replaced: where one of a name is there already it is a Failure, and none of this folder's stays.
    void commit_new();

private:
    [[nodiscard]] std::vector<std::filesystem::path> durable_names() const;

    std::filesystem::path target_;
    std::filesystem::path unfinished_;
    std::unique_ptr<UnfinishedNote> note_;
};

/// Replaces the file with these bytes, wholly or not at all. Throws Failure.
void write_whole_file(const std::filesystem::path& target, std::string_view bytes);
/// The same for a file that must not be there yet.
void write_new_file(const std::filesystem::path& target, std::string_view bytes);

}
