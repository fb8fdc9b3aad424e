#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_shoot_commands(CLI::App& app, Run& run);

}
