#pragma once
#include "core/project/to_measure.h"
#include "core/steps/steady/hold_still.h"
#include "core/steps/steady/steady_values.h"
#include "core/steps/steady/walked.h"

namespace frenlo {

/// The shot is held still as was measured (photos as to_measure gave them).
Project hold_still(const Project& project, ShotIndex shot, const ToMeasure& measured, const StillRegistration& result,
                   Movement movement);

/// The camera goes along a smooth path, by what was measured of the walk. smoothing: none keeps what was set before.
Project smooth_walk(const Project& project, ShotIndex shot, const ToMeasure& measured, const WalkRegistration& result,
                    Movement movement, std::optional<Smoothing> smoothing = {});

/// The path is smoothed anew, from what was measured. Nothing where the shot is not on a smooth path.
Project set_smoothing(const Project& project, ShotIndex shot, const Smoothing& smoothing);

/// The film no longer follows a target.
Project forget_target(const Project& project, ShotIndex shot);
bool follows_target(const Shot& shot);

/// The frame is the largest box inside all photos, or the whole plane with edges that go on or are mirrored.
Project set_inside_all(const Project& project, ShotIndex shot, bool inside_all);
/// The crop's shape, width to height; empty: that of the photos.
Project set_crop_shape(const Project& project, ShotIndex shot, cv::Size shape);
Project set_edges(const Project& project, ShotIndex shot, Edges edges);

/// What is looked at when it is measured next.
Project set_region(const Project& project, ShotIndex shot, const Region& region);

/// Moves a photo by hand, in pixels of the film's plane: right and down; and turns it clockwise about the plane's
/// middle. A doubt about it is settled by that.
Project nudge_photo(const Project& project, ShotIndex shot, PhotoIndex photo, cv::Point2d by, double degrees = 0);

/// One photo lies as was measured of it alone.
Project set_alignment(const Project& project, ShotIndex shot, PhotoIndex photo, const Alignment& alignment);

/// One photo is left as shot among the others, and is no longer in doubt.
Project leave_as_shot(const Project& project, ShotIndex shot, PhotoIndex photo);

/// As shot again; what was measured goes.
Project as_shot(const Project& project, ShotIndex shot);

/// The reference photo of a shot that is held still: the one that does not move.
std::optional<PhotoIndex> reference_photo(const Shot& shot);

/// The photo without which the crop would keep most more of the picture, and how much more: share of the plane. Nothing
/// where no single photo costs anything.
struct Costliest
{
    PhotoIndex photo;
    double share = 0;
};
std::optional<Costliest> costliest_photo(const Shot& shot);

/// Share of the film's plane that the crop loses, 0 to 1.
double lost_to_crop(const Shot& shot);

}
