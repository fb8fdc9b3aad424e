#pragma once
#include "core/picture/in_between.h"

namespace frenlo {

/// The first picture as if the shutter had stayed open while it became the second for so much of the way, 0 to 1: the
/// mean of in-betweens, so close together that no step between them is seen. Of light, so in linear light.
Canvas long_shutter(const Canvas& first, const Canvas& second, const DenseMotion& motion, double share);

}
