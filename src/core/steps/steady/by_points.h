#pragma once
#include "core/base/transform.h"

#include <span>

namespace frenlo {

/// The movement that so many pairs of points determine, at most the one that is wished: one a shift, two and three a
/// shift with turn and size, four and more a perspective.
Movement movement_by_points(std::size_t points, Movement at_most);

/// How a photo lies by points that were set by hand: pairs of a point of another photo and of this one, pixels at full
/// size. Throws Failure where they do not determine it: all on one place, or none.
Transform by_points(std::span<const PointPair> pairs, Movement at_most);

}
