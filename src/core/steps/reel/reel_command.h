#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_reel_commands(CLI::App& app, Run& run);

}
