#pragma once
#include "core/base/problem.h"
#include "core/document/project.h"

#include <filesystem>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// The `.frenlo` file: JSON, UTF-8, described by docs/project.schema.json. Photos are named relative to the file's
/// folder, with size and time to know them again.
/// Version 2 added what Pacing holds beside the rate, and what Steady measured; files of version 1 are read as they are.
inline constexpr int project_file_version = 2;

struct LoadedProject
{
    Project project;
    /// Photos that are gone or changed since; the project is whole all the same.
    std::vector<Problem> problems;
};

std::string project_to_json(const Project& project, const std::filesystem::path& file);

/// Throws Failure for what is broken (with the place), newer or not a project.
LoadedProject project_from_json(std::string_view json, const std::filesystem::path& file);

/// Throws Failure. Photos that changed on disk are read again; those that are gone and that Frenlo itself has moved
/// (filing.h) are taken from where they are now.
LoadedProject load_project(const std::filesystem::path& file,
                           const std::map<std::filesystem::path, std::filesystem::path>& moved = {});

/// Atomic. Refuses to replace a file that is not a project or that a newer Frenlo wrote. Throws Failure.
void save_project(const Project& project, const std::filesystem::path& file);

}
