#pragma once
#include "core/base/job.h"
#include "core/steps/steady/alignment.h"
#include "core/steps/steady/registration.h"
#include "core/steps/steady/trust_map.h"

#include <vector>

namespace frenlo {

struct WalkOptions
{
    Movement movement = Movement::perspective;
    Region region{};
    bool keep_when_stopped = false; ///< in place of throwing Stopped: what was measured till then, the others in doubt
};

struct WalkRegistration
{
    cv::Size size;                 ///< of the photos, as seen
    std::vector<Alignment> photos; ///< with from_before; as shot otherwise
    TrustMap trusted;              ///< of the frame, over all photos
};

/// Measures the camera's path through a walked shot: each photo against the one before it. A photo that cannot be
/// followed is passed over, and lies on the way between those around it; where nothing leads on, the path begins anew,
/// and the photo says so. Photos are read once, at about 1200 pixels. Throws Stopped unless that is to be kept, and
/// Failure where there are no photos.
WalkRegistration follow_walk(const std::vector<SeenPhoto>& photos, const WalkOptions& options,
                             const PhotoSource& source, const Job& job);

/// What to keep steady in the picture: a box of one photo, in shares of its width and height.
struct Target
{
    std::size_t photo = 0; ///< position
    cv::Rect2d box;
};

/// Finds the middle of the target in each photo, from its own on in both directions for as long as it is seen; adds it
/// to the alignments of a walk. Throws Stopped, and Failure where the box shows nothing that can be followed.
void follow_target(const std::vector<SeenPhoto>& photos, const Target& target, const PhotoSource& source,
                   const Job& job, WalkRegistration& walked);

}
