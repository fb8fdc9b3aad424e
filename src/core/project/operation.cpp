#include "core/project/operation.h"

namespace frenlo {

ShotIndex find_measured(const Project& now, ShotId shot)
{
    if (const auto index = now.find_shot(shot))
        return *index;
    throw Failure({"the shot that was measured is no longer in the project", {}, "Nothing was changed"});
}

}
