#pragma once
#include "core/document/project.h"

namespace frenlo {

/// The shot's photos as they are to be measured: those in the film, in its order; where each is in the shot.
struct ToMeasure
{
    std::vector<SeenPhoto> photos;
    std::vector<PhotoIndex> at;
};
ToMeasure to_measure(const Shot& shot);

/// The shot is held still as was measured (photos as to_measure gave them). cropped: to the largest box of the photos'
/// shape inside all of them; those with a doubt are left out of that, so that none shrinks the film by mistake.
Project hold_still(const Project& project, ShotIndex shot, const ToMeasure& measured, const HeldStill& result, Movement movement,
                   bool cropped);

/// The frame is the largest box inside all photos, or the whole reference photo with edges that go on.
Project set_steady_crop(const Project& project, ShotIndex shot, bool cropped);

/// Moves a photo by hand, in pixels of the reference photo as seen: right and down. A doubt about it is settled by that.
Project nudge_photo(const Project& project, ShotIndex shot, PhotoIndex photo, cv::Point2d by);

/// As shot again; what was measured goes.
Project as_shot(const Project& project, ShotIndex shot);

/// The reference photo of a shot that is held still: the one that does not move.
std::optional<PhotoIndex> reference_photo(const Shot& shot);

}
