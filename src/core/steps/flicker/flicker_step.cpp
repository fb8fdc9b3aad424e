#include "core/base/opencv_json.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/flicker_command.h"
#include "core/steps/flicker/flicker_edits.h"
#include "core/steps/step.h"

namespace frenlo {

namespace {

/// The light of a photo holds for its pixels as they lie, levelled with those of its shot.
void follow(const ShotEdit& edit)
{
    for (std::size_t i = 0; i < edit.now.photos.size(); ++i) {
        const ShotPhoto* old = edit.photo_before(i);
        const bool carried_over = !old || old->steps.shares<PhotoLight>(edit.now.photos[i].steps);
        if (light_of(edit.now.photos[i]) && carried_over && !edit.seen_as_before(i))
            edit.now.photos.edit(i).steps.drop<PhotoLight>();
    }
}

void stages(const Shot& shot, PhotoIndex photo, StageValues& stages)
{
    const PhotoLight* light = light_of(shot.photos[photo.at()]);
    if (!deflicker_of(shot) || !light)
        return;
    if (Correction correction = correction_of(*light); !correction.nothing())
        stages.set(std::move(correction));
}

}

const Step& flicker_step()
{
    static const Step step{
        .name = "flicker",
        .photo_values = {step_coding<OfPhoto, PhotoLight>("Its light, where it was measured")},
        .shot_values = {step_coding<OfShot, Deflicker>("How its light is evened; absent: as shot"),
                        step_coding<OfShot, LightRegion>("Where Light measures, of the film's plane")},
        .follow = follow,
        .pictures = {.stages = stages, .stage_order = stage_order::flicker, .standing_in = mixed_neighbours},
        .add_commands = command::add_flicker_commands};
    return step;
}

}
