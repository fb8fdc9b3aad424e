#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/frame/frame_command.h"
#include "core/steps/frame/framing.h"
#include "core/steps/step.h"

namespace frenlo {

const Step& frame_step()
{
    static const Step step{
        .name = "frame",
        .photo_values = {step_coding<OfPhoto, DriftView>("A view that the film drifts through, set at this photo")},
        .shot_values = {step_coding<OfShot, Framing>("How its frame is dressed; absent: as shot")},
        .pictures = {.dressed_size = dressed_size, .dress = dress_frames},
        .add_commands = command::add_frame_commands};
    return step;
}

}
