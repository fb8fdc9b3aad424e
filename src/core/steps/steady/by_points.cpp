#include "core/steps/steady/by_points.h"

#include "core/base/problem.h"

#include <algorithm>

namespace frenlo {

Movement movement_by_points(std::size_t points, Movement at_most)
{
    const Movement most = points < 2 ? Movement::shift : points < 4 ? Movement::similar : Movement::perspective;
    return std::min(most, at_most);
}

Transform by_points(std::span<const PointPair> pairs, Movement at_most)
{
    const auto t = fit(movement_by_points(pairs.size(), at_most), pairs);
    if (!t)
        throw Failure({"these points do not say how the photo lies", {}, "Set two or more that are far apart"});
    return *t;
}

}
