#pragma once
#include "core/picture/stages.h"
#include "core/steps/retouch/healing.h"

namespace frenlo {

/// What is healed in this photo of the shot.
void heal_photo(const Shot& shot, PhotoIndex photo, StageValues& stages);

}
