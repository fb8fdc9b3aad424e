#pragma once
#include "core/picture/step_pictures.h"

namespace frenlo::app {

/// Of shares of the picture that Retouch shows of this photo to shares of the film's plane, which spots and areas count
/// in.
Transform shown_to_plane(const Shot* shot, PhotoIndex photo);

}
