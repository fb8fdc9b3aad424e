#pragma once
#include "core/base/problem.h"
#include "core/project/project.h"

#include <algorithm>
#include <stdexcept>

namespace frenlo {

[[noreturn]] inline void too_fine()
{
    throw Failure({"the holds would be too fine to be kept exactly", {}, "Set them anew, in frames or seconds"});
}

/// What work returns; where a fraction no longer fits, a Failure that says so.
template <class Work>
Project exactly(Work work)
{
    try {
        return work();
    } catch (const std::overflow_error&) {
        too_fine();
    }
}

/// Throws a Failure where a film of this project cannot be told in exact times any more: holds that fit by themselves
/// may not fit together, once photos come back or shots are joined. before: what shares its shots was fine there.
inline void require_exact(const Project& project, const Project& before)
{
    const bool all = !(project.delivered_at == before.delivered_at);
    for (const ShotPtr& shot : project.shots)
        if (all || std::find(before.shots.begin(), before.shots.end(), shot) == before.shots.end())
            try {
                (void)display_timeline(project, *shot);
            } catch (const std::overflow_error&) {
                too_fine();
            }
}

}
