#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/retouch/areas_command.h"
#include "core/steps/retouch/retouch_command.h"
#include "core/steps/retouch/retouch_pictures.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& retouch_step()
{
    static const Step step{
        .name = "retouch",
        .photo_values = {step_coding<OfPhoto, MadePlate>("That Frenlo made it as the shot's clean plate")},
        .shot_values = {step_coding<OfShot, Retouch>("What is healed in its photos"),
                        step_coding<OfShot, Areas>("Parts of the picture in which something holds"),
                        step_coding<OfShot, States>("Finished versions of the same photos")},
        .pictures = {.stages = heal_photo, .stage_order = stage_order::retouch},
        .add_commands = [](CLI::App& app, command::Run& run) {
            command::add_retouch_commands(app, run);
            command::add_areas_command(app, run);
        }};
    return step;
}

}
