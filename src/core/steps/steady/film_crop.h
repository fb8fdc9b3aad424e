#pragma once
#include "core/steps/steady/steady_values.h"

namespace frenlo {

/// A photo that has a say in the crop.
bool has_say_in_crop(const ShotPhoto& photo, bool shown);

/// polygon: what all photos show.
cv::Rect crop_inside(const std::vector<cv::Point2d>& polygon, const Steadying& steady);

/// The crop of a shot that is steadied, as its photos are now: whole pixels of the largest box of the wished shape
/// inside all photos in the film but those in doubt, so that none of these shrinks the film by mistake; the whole plane
/// where that is wanted, or where nothing is left.
void fit_crop(Shot& shot);
/// Whether both have the same crop, by what it is made of.
bool same_crop(const Shot& a, const Shot& b);

}
