#pragma once
#include "core/sound/loudness.h"

#include <span>
#include <vector>

namespace frenlo {

/// Where the beats are, in seconds: what begins in the sound (aubio's spectral flux), the period in which most of it
/// comes back, 50 to 190 a minute, and the row of beats that fits both best (D. Ellis, Beat Tracking by Dynamic
/// Programming, Journal of New Music Research 36, 2007). None where nothing comes back. Throws Stopped.
std::vector<double> found_beats(const ReadSound& read, std::int64_t samples, const Job& job);

}
