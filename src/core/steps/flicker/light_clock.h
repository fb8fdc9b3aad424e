#pragma once
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// When each photo is seen, seconds of the film, as the slow course of light takes it: where photos were taken at
/// irregular times, time counts and not number, and what lies between two photos is as long as it was for the camera
/// against its usual interval; at most five times as long or as short, so that a break of an hour tears nothing apart.
/// film: where each begins in the film, seconds, ascending; gaps: the camera's time before each (gaps_between),
/// seconds. Where intervals are equal, mostly unknown, or so short that whole seconds cannot tell, the film's time is
/// taken.
std::vector<double> light_clock(std::span<const double> film, std::span<const std::optional<double>> gaps);

}
