#pragma once
#include "core/steps/steady/steady_values.h"

#include <vector>

namespace frenlo {

/// How far a photo had moved, pixels, at the corner that moved most; 0 where it was not measured.
double moved_px(const Shot& shot, PhotoIndex photo);
/// The largest of all photos in the film.
double most_moved_px(const Shot& shot);
/// What is left of it, the largest of the photos that are not in doubt.
double most_left_px(const Shot& shot);
/// Photos in the film that should be looked at.
std::vector<PhotoIndex> doubtful_photos(const Shot& shot);

}
