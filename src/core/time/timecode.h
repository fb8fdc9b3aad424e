#pragma once
#include "core/time/rate.h"

#include <array>
#include <cstdint>
#include <string>
#include <string_view>

namespace frenlo {

/// The clock of the player, minutes:seconds:frames, "0:04:18": frames counted in the rate's nominal second.
std::string clock_text(std::int64_t frames, Rate rate);

/// SMPTE ST 12-1 time address "00:01:00:02". Drop-frame counting, "00:01:00;02", is defined for 30000/1001 and
/// 60000/1001 only and is used exactly there when it is asked for. Wraps after 24 hours.
enum class DropFrame
{
    no,
    where_defined
};
std::string timecode_text(std::int64_t frames, Rate rate, DropFrame drop = DropFrame::where_defined);
/// Whether drop-frame counting is defined for this rate.
bool has_drop_frame(Rate rate);

/// How lengths and places in a film are counted for people.
enum class Counting
{
    clock,
    timecode,
    drop_frame,
    frames,
    seconds
};
inline constexpr std::array all_countings{Counting::clock, Counting::timecode, Counting::drop_frame, Counting::frames,
                                          Counting::seconds};
std::string_view counting_name(Counting counting); ///< "clock", "timecode" …, as settings keep it

/// The one formatter of lengths: "0:04:18", "00:00:04:18", "00:00:04;18", "114 f", "4.75 s".
std::string length_text(std::int64_t frames, Rate rate, Counting counting);

}
