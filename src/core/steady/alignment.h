#pragma once
#include "core/photo/photo_file.h"
#include "core/photo/photo_source.h"
#include "core/steady/transform.h"

#include <optional>
#include <string>

namespace frenlo {

/// A photo as it is seen in its shot.
struct SeenPhoto
{
    PhotoPtr photo;
    int turns = 0; ///< quarters clockwise
    Damage damage = Damage::refuse;
};

/// How one photo lies in the plane of the film: that of the reference photo where the shot is held still, that of the
/// smoothed path where it was walked. Pixels of the photos at full size, as seen.
struct Alignment
{
    Transform from_film = Transform::eye(); ///< of points of the film's plane to points of this photo
    std::optional<Transform> from_before{}; ///< walked: of points of the photo before to points of this one, as measured
    std::optional<cv::Point2d> target{}; ///< walked with a target: where it was seen
    double residual_px = 0; ///< what the trusted points miss
    double inliers = 0; ///< share of the points that agree, 0 to 1
    double left_px = 0; ///< of its movement: what different measurements disagree by, or what is left of the jitter
    bool reference = false; ///< it is the reference photo itself
    std::string doubt; ///< why it should be looked at; mostly empty
    bool operator==(const Alignment&) const = default;
};

}
