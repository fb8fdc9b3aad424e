#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/shoot/shoot_command.h"
#include "core/steps/shoot/shoot_values.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& shoot_step()
{
    static const Step step{
        .name = "shoot",
        .photo_values = {step_coding<OfPhoto, TakenHere>("That Frenlo took it, and how")},
        .shot_values = {step_coding<OfShot, PathMarks>("Where something should be on each photo, drawn before")},
        .add_commands = command::add_shoot_commands};
    return step;
}

}
