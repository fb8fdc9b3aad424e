#pragma once
#include "core/project/operation.h"
#include "core/steps/flicker/flicker_edits.h"

#include <optional>
#include <utility>
#include <vector>

namespace frenlo {

/// How the light of a shot is to be evened.
struct FlickerPlan
{
    Deflicker settings{};
    std::optional<Region> region{}; ///< where is measured, of the film's plane; none: as it was set
    std::vector<std::pair<PhotoIndex, bool>>
        steps{}; ///< the light changes at once with this photo: whether that is kept in the film
};

/// Measures and evens. The edit fails where other photos are in the film by then, or lie or follow each other in
/// another way: the light of each depends on those around it. Names, marks and what was decided meanwhile do not
/// matter.
Operation measure_flicker(const Project& project, ShotIndex shot, const FlickerPlan& plan);

}
