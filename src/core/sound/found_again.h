#pragma once
#include "core/base/job.h"
#include "core/project/project.h"

#include <filesystem>
#include <span>
#include <utility>
#include <vector>

namespace frenlo {

/// Sound files of the Reel that are not where they were, one of each.
std::vector<std::filesystem::path> gone_sounds(const Project& project);

/// Where each of these is now: in these places, or below them, of the same name and just as long. Those that are not
/// found are not among them. Throws Failure, Stopped.
std::vector<std::pair<std::filesystem::path, std::filesystem::path>>
find_sounds_again(const Project& project, std::span<const std::filesystem::path> places, const Job& job);

/// The project with its sounds taken from there.
Project with_sounds_at(const Project& project,
                       std::span<const std::pair<std::filesystem::path, std::filesystem::path>> found);

}
