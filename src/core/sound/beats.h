#pragma once
#include "core/sound/loudness.h"

#include <vector>

namespace frenlo {

/// Where the beats are, in seconds, found by aubio; none where it hears none. Throws Stopped.
std::vector<double> found_beats(const ReadSound& read, std::int64_t samples, const Job& job);

}
