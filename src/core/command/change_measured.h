#pragma once
#include "core/command/options.h"
#include "core/project/project_file.h"

#include <functional>

namespace frenlo::command {

/// That what was measured no longer fits the project.
Failure changed_meanwhile(const std::string& project);

/// Changes the project's file as it is by now, after something was measured of the shot; change is told where the shot
/// is, whatever others did meanwhile.
LoadedProject change_measured(const std::string& project, const Shot& measured,
                              const std::function<Project(const Project&, ShotIndex)>& change);

}
