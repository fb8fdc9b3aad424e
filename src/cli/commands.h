#pragma once
#include "core/command/options.h"

namespace frenlo::cli {

/// What is no step's: the commands that look at a whole project or write films.
void add_info(CLI::App& app, command::Run& run);
void add_collect(CLI::App& app, command::Run& run);
void add_export_commands(CLI::App& app, command::Run& run);
void add_presets(CLI::App& app, command::Run& run);

}
