#pragma once
#include "core/source/photo_file.h"

#include <optional>

namespace frenlo {

/// How much brighter these settings make a photo than 1 s, f/1, ISO 100 do, in stops: log2(t) - 2 log2(N) + log2(S/100)
/// (APEX, CIPA DC-008; ISO 2720). What Exif says is rounded: each value is taken for the exact third or half of a stop
/// that it stands for (1/50 s for 2^(-17/3) s, f/5.6 for 2^(5/2)), where one lies within its rounding. Nothing where
/// time or sensitivity is missing; a missing aperture is one that cannot be changed.
std::optional<double> exposure_stops(const Exposure& exposure);

/// The exact thirds or halves of a stop nearest to a value in stops, where one is within the tolerance; else the value.
double snapped_stops(double stops, double tolerance);

}
