#pragma once
#include "core/base/job.h"
#include "core/project/sounds.h"

namespace frenlo {

/// All of the file, beginning at this time of the Reel; its length is counted, whatever its header says. Throws Failure
/// where it is no sound or has no length, Stopped.
Sound whole_sound(const std::filesystem::path& file, Seconds at, const Job& job);

}
