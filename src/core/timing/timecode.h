#pragma once
#include "core/timing/rate.h"

#include <cstdint>
#include <string>

namespace frenlo {

/// The clock of the player, minutes:seconds:frames, "0:04:18": frames counted in the rate's nominal second.
/// Every place that shows a length in frames uses it.
std::string clock_text(std::int64_t frames, Rate rate);

/// SMPTE ST 12-1 time address "00:01:00:02", or "00:01:00;02" when frame numbers are dropped. Drop-frame counting is
/// defined for 30000/1001 and 60000/1001 only; it is used exactly there. Wraps after 24 hours.
std::string timecode_text(std::int64_t frames, Rate rate);

}
