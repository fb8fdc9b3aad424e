#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_layers_commands(CLI::App& app, Run& run);

}
