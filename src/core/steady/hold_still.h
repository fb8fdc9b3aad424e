#pragma once
#include "core/base/job.h"
#include "core/photo/photo_source.h"
#include "core/steady/registration.h"

#include <optional>
#include <string>
#include <vector>

namespace frenlo {

/// A photo as it is seen in its shot.
struct SeenPhoto
{
    PhotoPtr photo;
    int turns = 0; ///< quarters clockwise
    Damage damage = Damage::refuse;
};

struct StillWishes
{
    Movement movement = Movement::similar;
    std::optional<std::size_t> reference{}; ///< position; none: the sharpest of the most typical ones
    Region region{};
};

/// How one photo lies against the reference photo.
struct Alignment
{
    Transform from_reference = Transform::eye(); ///< in pixels of the photos at full size, as seen
    double residual_px = 0; ///< what the trusted points miss, at full size
    double inliers = 0; ///< share of the points that agree, 0 to 1
    bool reference = false; ///< it is the reference photo itself
    std::string doubt; ///< why it should be looked at; mostly empty
    bool operator==(const Alignment&) const = default;
};

struct HeldStill
{
    std::size_t reference = 0;
    std::vector<Alignment> photos;
};

/// Registers all photos to one: neighbours, photos further apart and, where they still share enough, each to the reference;
/// then all links are brought into agreement at once (network.h). Photos are read once, at about 1200 pixels. A photo that
/// cannot be read, shows too little, or has nothing in common with the others is not forced: it lies as its neighbour does
/// and says so. Throws Stopped, and Failure where there are no photos.
HeldStill hold_still(const std::vector<SeenPhoto>& photos, const StillWishes& wishes, const PhotoSource& source, const Job& job);

}
