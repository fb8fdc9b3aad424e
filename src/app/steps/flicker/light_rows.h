#pragma once
#include "core/project/project.h"

#include <vector>

namespace frenlo::app {

/// What the brightness meter under a row of the Sheet covers, stops.
struct LightRange
{
    double darkest = 0;
    double brightest = 0;
};

/// Each row has a range of its own, so that flicker is seen in a shot that goes from day to night; none covers less
/// than the shot's flicker, so that a quiet row looks quiet.
std::vector<LightRange> light_rows(const Shot& shot, const Schedule& schedule, int frames_per_row);

}
