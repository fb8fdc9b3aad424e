#pragma once
#include "core/project/project.h"

namespace frenlo::demo {

/// Gulls drawn over the ferry, photo by photo, and a title that slides in over the Reel.
Project with_overlays(Project project, ShotIndex ferry);

}
