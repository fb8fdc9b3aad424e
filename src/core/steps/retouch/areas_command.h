#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_areas_command(CLI::App& app, Run& run);

}
