#include "core/project/value_codecs.h"
#include "core/steps/sort/clip_taking.h"
#include "core/steps/sort/sort_command.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& sort_step()
{
    static const Step step{
        .name = "sort",
        .shot_values = {step_coding<OfShot, ShotClip>("What was taken of the clip that it is made of")},
        .add_commands = command::add_sort_commands};
    return step;
}

}
