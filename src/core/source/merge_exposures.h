#pragma once
// Private to source/.
#include "core/source/decode.h"

namespace frenlo {

/// The exposures of a bracket as one picture in which each part is taken from where it is exposed best (Mertens, Kautz,
/// Van Reeth 2007, OpenCV's): 16 bit, as decode.h says. All must have one size. Problems name the exposure that is
/// missing or does not fit.
Result<DecodedPhoto> merged_exposures(const PhotoFile& photo, cv::Size at_least);

}
