#pragma once
#include "core/picture/canvas.h"

namespace frenlo {

/// How far the tones of a picture stand out from those around them: stops of luminance above what an edge-preserving
/// filter makes of it (guided by itself: He, Sun, Tang 2013), so that edges get no halo. Of a small picture: noise and
/// fine texture are no matter of local contrast. As large as the picture.
cv::Mat1f tones_standing_out(const Canvas& small);

}
