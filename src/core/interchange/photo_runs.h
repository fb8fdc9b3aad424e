#pragma once
#include "core/project/project.h"
#include "core/timeline/reel_timeline.h"

#include <vector>

namespace frenlo {

/// A photo in a film, for as long as it is seen.
struct SeenRun
{
    FrameIndex begin; ///< in the film
    std::int64_t frames = 0;
    PhotoIndex photo; ///< of its shot
};

/// A shot's film, photo after photo; of an in-between the nearer one.
std::vector<SeenRun> photo_runs(const Project& project, const Shot& shot);
/// A part of the Reel; begin counts from the part's own begin.
std::vector<SeenRun> photo_runs(const ReelPart& part);

/// Photos whose names differ by their numbers only, which go up by one, each held as long as the others.
struct NumberedRun
{
    std::vector<SeenRun> photos; ///< at least one
    std::string prefix;          ///< of the file's name, before its number
    std::string suffix;          ///< and behind it; prefix is all of the name where there is no number
    std::optional<std::int64_t> first;
    int digits = 0;
};
std::vector<NumberedRun> numbered_runs(const Shot& shot, const std::vector<SeenRun>& runs);

}
