#pragma once
#include "core/project/project.h"

#include <vector>

namespace frenlo {

/// The items of the Reel as they are: those that are written down whose shots are there, then the shots in none of
/// them, in the project's order. Unsorted cards come in only where they are written down.
std::vector<ReelItem> reel_items(const Project& project);

/// The shot as this item shows it: with the range that is kept here.
ShotPtr shot_in_reel(const Project& project, const ReelItem& item);

}
