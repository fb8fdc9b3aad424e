#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

#include <vector>

namespace frenlo {

/// A range of photos that goes round: behind its last photo its first one comes again.
struct LoopFound
{
    PhotoIndex first;
    PhotoIndex last; ///< included
    /// How much the joint is seen: what changes there over what changes from photo to photo, and how differently it
    /// moves there; 1 is as little as anywhere in the shot.
    double seen = 0;
};

/// Ranges of the photos in the film, at least so long in seconds, whose joint is seen least, the best first: looked at
/// as the film shows them, aligned and evened, changes of the whole light left out. Of ranges that are multiples of
/// each other the shortest comes first, unless a longer one is clearly better. In the manner of Schödl, Szeliski,
/// Salesin, Essa: Video Textures, SIGGRAPH 2000 (difference of the pictures on both sides of the joint, filtered over
/// time). Throws Stopped.
std::vector<LoopFound> find_loops(const Project& project, const Shot& shot, Seconds at_least, const PhotoSource& source,
                                  const Job& job);

}
