#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

#include <functional>

namespace frenlo {

/// What long work found out, as an edit of whatever the project is by then. Throws Failure where it no longer fits.
using Edit = std::function<Project(const Project&)>;

/// Long work on a shot: it reads photos, takes its time, and touches no project; what is to be measured was taken out
/// of the project when the operation was made. The window and the command line call the same one. Throws Stopped and
/// Failure.
using Operation = std::function<Edit(const PhotoSource&, const Job&)>;

/// Where the shot is in the project by now. Throws Failure where it is gone.
ShotIndex find_measured(const Project& now, ShotId shot);

}
