#include "core/command/change_measured.h"

namespace frenlo::command {

Failure changed_meanwhile(const std::string& project)
{
    return Failure({"the shot's photos or their timing were changed while they were measured; nothing of it was kept",
                    project, "Call it again"});
}

LoadedProject change_measured(const std::string& project, const Shot& measured,
                              const std::function<Project(const Project&, ShotIndex)>& change)
{
    return change_project(project, [&](const Project& now) { return change(now, same_shot(now, measured)); });
}

}
