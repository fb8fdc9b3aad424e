#pragma once
#include "core/base/problem.h"
#include "core/project/project.h"

#include <filesystem>
#include <functional>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// The `.frenlo` file: JSON, UTF-8, described by docs/project.schema.json. Photos are named relative to the file's
/// folder, with size and time to know them again.
/// Version 3 has identities, and its fields are those of the values; versions 1 and 2 are read (old_versions.h).
inline constexpr int project_file_version = 3;

struct LoadedProject
{
    Project project;
    /// Photos that are gone or changed since; the project is whole all the same.
    std::vector<Problem> problems;
    /// Stands for the file's content, to see whether somebody else has written it since.
    std::string key{};
    std::size_t missing = 0; ///< files of photos and sounds that are not where they were
};

std::string project_to_json(const Project& project, const std::filesystem::path& file);

/// Throws Failure for what is broken (with the place), newer or not a project.
LoadedProject project_from_json(std::string_view json, const std::filesystem::path& file);

/// Throws Failure. Photos that changed on disk are read again; those that are gone and that Frenlo itself has moved
/// (filing.h) are taken from where they are now.
LoadedProject load_project(const std::filesystem::path& file,
                           const std::map<std::filesystem::path, std::filesystem::path>& moved = {});

/// The same without looking at the photos on the disk.
LoadedProject read_project(const std::filesystem::path& file);

/// Somebody else has written the project's file since it was read.
class ChangedOnDisk : public Failure
{
public:
    using Failure::Failure;
};

/// Atomic. What would be written is read first: a project that could not be opened again is refused, and what was saved
/// before stays. Refuses to replace a file that is not a project or that a newer Frenlo wrote, and, where the key of
/// what was last read or written is given, one that has changed since (ChangedOnDisk). Returns the key of what is now
/// there. Throws Failure.
std::string save_project(const Project& project, const std::filesystem::path& file,
                         const std::optional<std::string>& last_key = {});

/// The same under a name that must not be there yet. Throws Failure.
void save_new_project(const Project& project, const std::filesystem::path& file);

/// The key of what is there now; empty where there is no file.
std::string project_key(const std::filesystem::path& file);

/// Reads, changes and writes the project with nobody else between. Returns what was written, with what is to be said
/// about its photos; nothing is written where nothing changed. Throws Failure, and what change throws.
LoadedProject change_project(const std::filesystem::path& file, const std::function<Project(const Project&)>& change);

}
