#include "core/steps/flicker/operations.h"

namespace frenlo {

namespace {

void decide(DeflickerInput& input, PhotoIndex photo, bool kept)
{
    const auto at = std::find(input.photos.at.begin(), input.photos.at.end(), photo);
    if (at == input.photos.at.end())
        return;
    const auto position = std::size_t(at - input.photos.at.begin());
    bool known = false;
    for (LightStep& step : input.options.steps)
        if (step.photo == position) {
            step.jump.kept = kept;
            known = true;
        }
    if (!known) // whatever it may turn out to be
        for (const LightJump::Cause cause : {LightJump::Cause::scene, LightJump::Cause::camera})
            input.options.steps.insert(input.options.steps.begin(), {position, {0, cause, kept}});
}

}

Operation measure_flicker(const Project& project, ShotIndex shot, const FlickerPlan& plan)
{
    DeflickerInput input = deflicker_input(project, project.shot(shot), plan.settings);
    if (plan.region)
        input.region = *plan.region;
    for (const auto& [photo, kept] : plan.steps)
        decide(input, photo, kept);
    return [=, id = project.shot(shot).id](const PhotoSource& source, const Job& job) -> Edit {
        const DeflickerResult result = deflicker_shot(input.photos.photos, input.from_film, input.seconds, input.region,
                                                      input.options, source, job);
        return [=](const Project& now) {
            const ShotIndex index = find_measured(now, id);
            if (!deflicker_input(now, now.shot(index), plan.settings).same_photos(input))
                throw Failure({"photos of the shot were changed while its light was measured, and the light of each "
                               "depends on those around it",
                               {},
                               "Remove flicker again"});
            return set_deflicker(plan.region ? set_light_region(now, index, *plan.region) : now, index, input, result,
                                 plan.settings);
        };
    };
}

}
