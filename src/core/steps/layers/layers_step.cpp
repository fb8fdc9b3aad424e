#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/layers/colour_out.h"
#include "core/steps/layers/layer_pictures.h"
#include "core/steps/layers/layers_command.h"
#include "core/steps/step.h"

namespace frenlo {

namespace {

void take_colour_out(const Shot& shot, PhotoIndex, StageValues& stages)
{
    if (const auto* out = shot.steps.find<ColourOut>())
        stages.set(*out);
}

}

const Step& layers_step()
{
    static const Step step{.name = "layers",
                           .shot_values = {step_coding<OfShot, Layers>("What lies over its photos, or behind them"),
                                           step_coding<OfShot, ColourOut>("A colour that is taken out of its photos")},
                           .pictures = {.stages = take_colour_out,
                                        .stage_order = stage_order::colour_out,
                                        .dress = dress_layers,
                                        .dress_reel = dress_reel_layers},
                           .add_commands = command::add_layers_commands};
    return step;
}

}
