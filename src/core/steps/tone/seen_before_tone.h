#pragma once
#include "core/picture/picture.h"
#include "core/project/to_measure.h"
#include "core/steps/tone/tone_values.h"

namespace frenlo {

/// What is done to the photo's pixels before it is toned.
StageValues stages_before_tone(const Shot& shot, PhotoIndex photo);

/// The whole photo like that.
FrameRequest request_before_tone(const SeenPhoto& photo, const StageValues& stages, cv::Size size);

/// The same, its longer side so many pixels at most. A problem where it cannot be read.
Result<Canvas> small_before_tone(const SeenPhoto& photo, const StageValues& stages, int side,
                                 const PhotoSource& source);

/// Such a picture of a whole photo, toned.
Canvas toned(const Canvas& whole, const Tone& tone);

}
