#pragma once
#include "core/time/rate.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <variant>

namespace frenlo {

/// A hold thought in frames of the rate the shot is paced at.
struct Frames
{
    std::int64_t count = 1;
    auto operator<=>(const Frames&) const = default;
};

/// How long a photo stays. At least 0 and at most max_hold_seconds; 0 is "not shown".
using Hold = std::variant<Frames, Seconds>;

inline constexpr std::int64_t max_hold_frames = 100'000;
inline constexpr std::int64_t max_hold_seconds = 3'600;

/// "2f", "2 f", "0.15s", "0.15 s", "1/6s", "12.5 fps" (each photo lasts 1/12.5 s); a bare number is frames.
/// Nothing for anything else or outside the limits.
std::optional<Hold> parse_hold(std::string_view text);

/// "2f", "1/6s", "0.15s": read back by parse_hold as the same hold.
std::string hold_text(Hold hold);

/// For people: "2 f", "0.15 s", "1/6 s".
std::string shown_hold(Hold hold);

/// Its exact length for a shot paced at this rate.
Seconds length_of(Hold hold, Rate paced_at);

inline std::size_t hash_value(const Frames& f)
{
    return std::size_t(f.count);
}

}
