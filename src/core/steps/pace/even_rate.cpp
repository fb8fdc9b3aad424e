#include "core/steps/pace/even_rate.h"

#include "core/project/speed_course.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace frenlo {

std::optional<Rate> even_rate(const Project& project, const Shot& shot)
{
    const auto* course = shot.steps.find<SpeedCourse>();
    if (shot.pacing.between != Between::repeat || (course && !course->points.empty()))
        return std::nullopt;
    std::set<Fraction> lengths;
    for (const HeldPhoto& photo : held_photos(shot))
        lengths.insert(length_of(photo.hold, pacing_rate(project, shot)).value);
    const auto even_at = [&](Rate rate) {
        return std::all_of(
            lengths.begin(), lengths.end(),
            [rate = rate.value()](const Fraction& length) { // both are reduced: no product that may not fit
                return rate.num() % length.den() == 0 && length.num() % rate.den() == 0;
            });
    };
    if (even_at(project.delivered_at))
        return std::nullopt;
    const auto apart = [&](Rate rate) {
        return std::abs(rate.value().approx() - project.delivered_at.value().approx());
    };
    std::optional<Rate> best;
    for (const Rate rate : usual_rates()) // from slow to fast
        if (even_at(rate) && (!best || apart(rate) <= apart(*best)))
            best = rate;
    return best;
}

}
