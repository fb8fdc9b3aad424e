#pragma once
#include "core/project/operation.h"
#include "core/steps/steady/steady_edits.h"

#include <optional>
#include <vector>

namespace frenlo {

/// What is to be measured of a shot, and how it is to lie then.
struct SteadyPlan
{
    SteadyWay way = SteadyWay::still;
    Movement movement = Movement::similar;
    std::optional<PhotoIndex> reference{}; ///< still; none: the sharpest of the most typical ones
    std::optional<Smoothing> smoothing{};  ///< smooth; none: as it was set
    std::optional<Region> region{};        ///< what is looked at; none: as it was set
    bool keep_when_stopped = false;        ///< what was measured till then, the others in doubt
};

/// A thing that is to stay where it is in the film: a box of one photo, in shares of its width and height.
struct FollowedTarget
{
    PhotoIndex photo;
    cv::Rect2d box;
};

/// Holds the shot still, or smooths its path. The edit lays the photos that are still there by then; it fails where the
/// reference photo is gone, or where the photos of a path no longer follow each other as they did.
Operation measure_steady(const Shot& shot, const SteadyPlan& plan, const std::optional<FollowedTarget>& target = {});

/// The film of a smooth path follows a target, from what was measured of the walk.
Operation follow_target(const Shot& shot, const FollowedTarget& target);

/// The path is smoothed anew, from what was measured: with thousands of photos it takes a moment. The edit fails where
/// the shot is another one by then.
Operation smooth_again(const Project& project, ShotIndex shot, const Smoothing& smoothing);

/// One photo anew, against another one whose place is known.
Operation align_photo(const Shot& shot, PhotoIndex photo, PhotoIndex other, Movement movement);

/// One photo by points set by hand: pairs of a point of the other photo and of this one, pixels. What they say is made
/// exact on the photos where these agree with it.
Operation align_by_points(const Shot& shot, PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs);

}
