#pragma once
#include "core/time/fraction.h"

#include <boost/multiprecision/cpp_int.hpp>

namespace frenlo {

/// A fraction of any size, for sums of many: those of 64 bits stop fitting.
using Exact = boost::multiprecision::cpp_rational;

inline Exact exact(Fraction f)
{
    return Exact(f.num(), f.den());
}

}
