#pragma once
#include <filesystem>
#include <span>
#include <vector>

namespace frenlo {

/// All files in folders and below them, in natural order, each once; a file among the places stands for its run: the
/// files beside it with the same name but for the number. Hidden files are passed over. Throws Failure when a place
/// cannot be listed.
std::vector<std::filesystem::path> files_in(std::span<const std::filesystem::path> places);

}
