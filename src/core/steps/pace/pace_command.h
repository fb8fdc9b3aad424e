#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_pace_commands(CLI::App& app, Run& run);
void add_timing_command(CLI::App& app, Run& run); ///< the timing as tables and lists of other programs

}
