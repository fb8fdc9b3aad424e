#pragma once
#include "core/base/smoothing.h"

#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// share times a row is added to another.
void add_row(SmoothingRow& to, const SmoothingRow& row, double share);

/// The slow course of light that changes as it likes, as rows that also smooth other curves of the same photos. How far
/// to look is found from the photos themselves, at each by itself and to each side: local polynomials over more and
/// more photos, as long as what they say agrees within what flicker makes of it (intersection of confidence intervals:
/// Goldenshluger, Nemirovski 1997; Katkovnik 1999). Then a plain smoothing where nothing speaks against it, so that the
/// curve does not flicker itself. x: seconds, ascending; y: stops; prior: 0 to 1, how much each photo has to say.
std::vector<SmoothingRow> adaptive_course(std::span<const double> x, std::span<const double> y,
                                          std::span<const double> prior);

/// How strong what does not last is: a standard deviation of neighbours against the line through theirs, robust (MAD).
double quick_part(std::span<const double> y);

/// How many photos a row is worth: an average over so many has as much of the flicker left.
double photos_of(const SmoothingRow& row);

}
