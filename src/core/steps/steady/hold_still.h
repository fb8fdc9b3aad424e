#pragma once
#include "core/base/job.h"
#include "core/steps/steady/alignment.h"
#include "core/steps/steady/registration.h"
#include "core/steps/steady/trust_map.h"

#include <optional>
#include <vector>

namespace frenlo {

struct StillOptions
{
    Movement movement = Movement::similar;
    std::optional<std::size_t> reference{}; ///< position; none: the sharpest of the most typical ones
    Region region{};
    bool keep_when_stopped = false; ///< in place of throwing Stopped: what was measured till then, the others in doubt
};

struct StillRegistration
{
    std::size_t reference = 0;
    cv::Size size; ///< of the photos, as seen
    std::vector<Alignment> photos;
    TrustMap trusted; ///< of the reference photo
};

/// Registers all photos to one: neighbours, photos further apart and, where they still share enough, each to the
/// reference; then all links are brought into agreement at once (network.h). Photos are read once, at about 1200
/// pixels. A photo that cannot be read, shows too little, or has nothing in common with the others is not forced: it
/// lies as its neighbour does and says so. Throws Stopped unless that is to be kept, and Failure where there are no
/// photos.
StillRegistration hold_still(const std::vector<SeenPhoto>& photos, const StillOptions& options,
                             const PhotoSource& source, const Job& job);

/// One photo against another whose place is known: the remedy for a photo that is in doubt, with another movement or
/// against another photo, without measuring the others again. guess: where the photo is thought to lie, of points of
/// the other at full size, as by points set by hand. Throws Failure where either cannot be read or nothing fits.
Alignment align_to(const SeenPhoto& photo, const SeenPhoto& other, const Transform& other_from_film, Movement movement,
                   const Region& region, const PhotoSource& source, const std::optional<Transform>& guess = {});

}
