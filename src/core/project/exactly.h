#pragma once
#include "core/base/problem.h"
#include "core/project/project.h"

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

}
