#pragma once
#include "core/base/job.h"
#include "core/source/photo_file.h"

#include <filesystem>
#include <span>
#include <vector>

namespace frenlo {

/// A photo that takes the place of another.
struct Match
{
    PhotoPtr old;
    PhotoPtr now;
};

/// Looks for photos that are gone from their place, in other folders and below them: by name and content, by content
/// under another name, or by name where the picture has the same size and capture time (it was written anew). What is
/// not found is not among the matches. Throws Failure, Stopped.
std::vector<Match> find_again(std::span<const PhotoPtr> gone, std::span<const std::filesystem::path> places,
                              const Job& job);

/// Which of a better set of photos stands for which that there is.
struct SwapPlan
{
    std::vector<Match> matches;
    std::size_t by_number = 0;            ///< of the matches; the others were found by capture time
    std::vector<PhotoPtr> without_better; ///< photos that keep their place
    std::vector<PhotoPtr> left_over;      ///< of the better set
    bool other_size = false;              ///< some differ in width or height from what they replace
};

/// By the number in the name, where both have it once and the capture times do not say otherwise; then by capture time,
/// where it is there once in each set.
SwapPlan plan_swap(std::span<const PhotoPtr> have, std::span<const PhotoPtr> better);

}
