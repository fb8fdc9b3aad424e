#pragma once
#include "core/source/capture_gaps.h"
#include "core/time/rate.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// The shortest pause that ends a shot, found from the photos' own intervals, as a round number. Irregular work (things
/// moved by hand) asks for longer pauses than regular work.
Seconds pause_for(const std::vector<std::optional<double>>& gaps);

/// Positions of the photos before which there is a pause: longer than this, and more than three times the photos' own
/// interval on both sides, so that a photo every ten minutes is no pause each.
std::vector<std::size_t> pauses(const std::vector<std::optional<double>>& gaps, Seconds longer_than);

/// Whether the gaps are all alike to a second or a twentieth, but for few. At least three gaps; else nothing.
std::optional<bool> regular(std::span<const std::optional<double>> gaps);

/// "12 min", "40 s", "2 h 30 min".
std::string shown_pause(double seconds);

}
