#pragma once
#include "core/base/id.h"

namespace frenlo {

using ShotId = Id<struct ShotIdTag>;

}
