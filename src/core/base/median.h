#pragma once
#include <algorithm>
#include <vector>

namespace frenlo {

/// The value in the middle; of an even count the upper of the two that lie there, so that it is one of them. values: at
/// least one.
template <class Value>
Value upper_median(std::vector<Value> values)
{
    const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

}
