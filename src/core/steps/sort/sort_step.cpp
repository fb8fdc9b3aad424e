#include "core/steps/sort/sort_command.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& sort_step()
{
    static const Step step{.name = "sort", .add_commands = command::add_sort_commands};
    return step;
}

}
