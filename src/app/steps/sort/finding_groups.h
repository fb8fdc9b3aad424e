#pragma once
#include "app/steps/sort/findings.h"

#include <QString>

#include <span>
#include <vector>

namespace frenlo::app {

/// Findings of one kind, so that a card with forty remarks stays readable. All that is settled is one group.
struct FindingGroup
{
    FindingKind kind = FindingKind::unreadable;
    bool resolved = false;
    std::vector<ToLookAt> members; ///< in the order of the list
    std::vector<Remedy> remedies;  ///< that every member has, in the order of the first
};

/// In the order in which their first members come, what is settled last.
std::vector<FindingGroup> grouped(std::span<const ToLookAt> findings);

/// "4 photos are much brighter or darker than their neighbours".
QString group_text(const FindingGroup& group);

}
