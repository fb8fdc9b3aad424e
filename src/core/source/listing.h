#pragma once
#include "core/base/problem.h"

#include <filesystem>
#include <span>
#include <vector>

namespace frenlo {

struct Listing
{
    std::vector<std::filesystem::path> files;
    std::vector<Problem> problems; ///< folders below the places that cannot be read
};

/// All files in folders and below them, in natural order, each once; a file among the places stands for its run: the
/// files beside it with the same name but for the number. Hidden files are passed over; what is named as a photo and is
/// no file (a pipe, a link to nowhere) is among them, to be told. Throws Failure when a place itself cannot be listed.
Listing files_in(std::span<const std::filesystem::path> places);

}
