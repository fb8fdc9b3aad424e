#pragma once
#include "core/command/options.h"

namespace frenlo::command {

void add_retouch_commands(CLI::App& app, Run& run);

}
