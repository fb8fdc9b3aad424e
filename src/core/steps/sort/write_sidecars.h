#pragma once
#include "core/base/job.h"
#include "core/project/project.h"

#include <optional>
#include <vector>

namespace frenlo {

struct SidecarReport
{
    std::int64_t written = 0;
    std::int64_t unchanged = 0; ///< said all of it already
    std::vector<Problem> problems;
};

/// Holds, turns and what is set aside, into an XMP sidecar beside each photo of the shot, or of all; pictures of clips
/// have none. Throws Stopped.
SidecarReport write_sidecars(const Project& project, std::optional<ShotIndex> shot, const Job& job);

}
