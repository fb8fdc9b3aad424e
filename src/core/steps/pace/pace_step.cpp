#include "core/steps/pace/pace_command.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& pace_step()
{
    static const Step step{.name = "pace", .add_commands = command::add_pace_commands};
    return step;
}

}
