#pragma once
#include <span>
#include <vector>

namespace frenlo {

enum class LocalKernel
{
    even,    ///< all within reach alike: Savitzky, Golay 1964
    tricube, ///< (1 - |d|^3)^3 of the distance over the reach: Cleveland 1979
};

/// Where a local polynomial is fitted, and where it is looked at.
struct LocalPlace
{
    double around = 0;
    double at = 0;
    LocalPlace(double both) : around(both), at(both) {}
    LocalPlace(double around_, double at_) : around(around_), at(at_) {}
};

/// Smoothing by local polynomials: with what weights the values at x are summed to give the value at `at` of the
/// polynomial that fits those within reach of `around` best; mostly both are the same, and differ towards an end. x:
/// ascending, any spacing. The degree is lowered where fewer points are in reach than it needs. Values that are at
/// `reach` or farther take no part with tricube. prior: weights that the points have besides; empty for 1. All weights
/// are 0 where no point is in reach; else they sum to 1.
std::vector<double> local_weights(std::span<const double> x, LocalPlace place, double reach, int degree,
                                  LocalKernel kernel = LocalKernel::tricube, std::span<const double> prior = {});

}
