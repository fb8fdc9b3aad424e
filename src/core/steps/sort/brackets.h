#pragma once
#include "core/steps/sort/find_shots.h"

#include <cstddef>
#include <optional>
#include <span>

namespace frenlo {

/// Whether these photos are exposures of one moment, in even steps to both sides of one: the position of that one.
/// gaps: seconds between each and the next, one fewer than photos; nothing where it is not known.
std::optional<std::size_t> middle_of_bracket(std::span<const Candidate* const> photos,
                                             std::span<const std::optional<double>> gaps);

}
