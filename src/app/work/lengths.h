#pragma once
#include "core/time/timecode.h"

#include <QString>

namespace frenlo::app {

/// A length in frames and in seconds, as every place says it where there is room: "114 frames · 4.75 s".
QString length_in_full(std::int64_t frames, Rate rate);

}
