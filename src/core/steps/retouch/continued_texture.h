#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// Makes of a source, in place, what goes on from its surround: its texture is the source's, and how the picture
/// differs from it where that is known is predicted where it is not (kriging.h). Conditional simulation: Journel 1974.
/// source: of the part that is looked at. known: of the same size; 0: what is to be made. surround: the picture, wider;
/// corner: where the part lies in it. radius: of what is to be made, about its half width in pixels.
void continue_texture(Canvas& source, const cv::Mat1b& known, Canvas surround, const cv::Point& corner, double radius);

}
