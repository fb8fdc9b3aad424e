#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// Makes of a source, in place, what goes on from its surround: what the surround lets expect (kriging.h), and of what
/// the source has beyond what its own surround would let expect as much as makes the texture as lively as round about.
/// Conditional simulation, Journel 1974; but what is expected is made livelier first, which errs less than what another
/// place shows, unless the source looks like the picture where both are known.
/// source: of the part that is looked at. known: of the same size; 0: what is to be made. surround: the picture, wider;
/// corner: where the part lies in it. radius: of what is to be made, about its half width in pixels.
void continue_texture(Canvas& source, const cv::Mat1b& known, Canvas surround, const cv::Point& corner, double radius);

}
