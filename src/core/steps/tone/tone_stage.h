#pragma once
#include "core/picture/stages.h"
#include "core/steps/tone/tone_values.h"

namespace frenlo {

template <>
struct PhotoStage<Tone>
{
    static constexpr const char* key = "tone";
    static constexpr int order = stage_order::tone;
};

/// In this order: white balance; darkened corners lifted, by the fourth power of the cosine of the angle of view;
/// local contrast; the characteristic curve, on luminance, so that colours keep their hue; chroma, more of it the
/// farther a colour lies from the edge of BT.709, so that none goes beyond. What is brighter than a screen can be then
/// goes to white on the line of its hue: no channel is cut by itself.
RowStage row_stage(const Tone& tone, const StagePhoto& photo);

}
