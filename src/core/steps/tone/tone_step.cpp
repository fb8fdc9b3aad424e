#include "core/base/opencv_json.h"
#include "core/steps/step.h"
#include "core/steps/tone/part_tones.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_command.h"
#include "core/steps/tone/tone_stage.h"

namespace frenlo {

namespace {

/// How bright a photo is holds for its content.
void follow(const ShotEdit& edit)
{
    for (std::size_t i = 0; i < edit.now.photos.size(); ++i) {
        const ShotPhoto* old = edit.photo_before(i);
        const bool carried_over = !old || old->steps.shares<ToneLight>(edit.now.photos[i].steps);
        if (edit.now.photos[i].steps.has<ToneLight>() && carried_over && !edit.seen_as_before(i))
            edit.now.photos.edit(i).steps.drop<ToneLight>();
    }
}

void stages(const Shot& shot, PhotoIndex photo, StageValues& stages)
{
    if (!toning_of(shot) && !anchor_of(shot.photos[photo.at()]))
        return;
    if (const Tone tone = tone_of(shot, photo); !tone.nothing())
        stages.set(tone);
    if (auto parts = part_tones_of(shot, photo); !parts.all.empty())
        stages.set(std::move(parts));
}

}

const Step& tone_step()
{
    static const Step step{
        .name = "tone",
        .photo_values = {step_coding<OfPhoto, ToneAnchor>("Its tone, where it is an anchor photo"),
                         step_coding<OfPhoto, ToneLight>("How bright it is, where that was measured for its tone")},
        .shot_values = {step_coding<OfShot, Toning>("How its tone is set; absent: as shot")},
        .follow = follow,
        .pictures = {.stages = stages, .stage_order = stage_order::tone},
        .add_commands = command::add_tone_commands};
    return step;
}

}
