#include "core/base/opencv_json.h"
#include "core/project/speed_course.h"
#include "core/project/value_codecs.h"
#include "core/steps/pace/pace_command.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& pace_step()
{
    static const Step step{.name = "pace",
                           .shot_values = {step_coding<OfShot, SpeedCourse>("How fast it goes, over its photos")},
                           .add_commands = command::add_pace_commands};
    return step;
}

}
