#pragma once
#include "core/project/with_shot.h"

namespace frenlo {

/// Changes one member of a shot's pacing.
template <class Member, class Value>
Project with_pacing(const Project& project, ShotIndex shot, Member member, Value value)
{
    return with_shot(project, shot, [&](Shot& s) { s.pacing.*member = value; });
}

}
