#pragma once
#include "core/picture/canvas.h"

namespace frenlo {

/// Whether what is marked (1) is seen beyond the mark, too, since it is blurred or was marked too close: between what
/// is marked and what surely is not (0), pixels are on the way from the one to the other. (On a slope of the scene
/// itself they are, too; then what is near the mark is only not made use of.)
/// Of one size; in shares between nothing and all lies the mark's rim.
bool reaches_out(const Canvas& picture, const cv::Mat1f& marked);

}
