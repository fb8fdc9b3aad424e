#include "core/steps/reel/reel_command.h"
#include "core/steps/step.h"

namespace frenlo {

/// What it keeps is the project's own (project/reel.h).
const Step& reel_step()
{
    static const Step step{.name = "reel", .add_commands = command::add_reel_commands};
    return step;
}

}
