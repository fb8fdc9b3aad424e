#pragma once
#include "core/base/fields.h"

namespace frenlo {

/// How a movement begins and ends.
enum class Ease
{
    none,
    in,  ///< it begins slowly
    out, ///< it ends slowly
    both
};

/// Time from 0 to 1 along a movement that is eased; strength: of 1, 0 is even. From rest, or to it, without a jump of
/// the acceleration either.
double eased(double time, Ease ease, double strength = 1);

template <>
struct Words<Ease>
{
    static constexpr std::array<std::string_view, 4> words{"none", "in", "out", "both"};
};

}
