#include "core/base/opencv_json.h"
#include "core/project/value_codecs.h"
#include "core/steps/shoot/shoot_command.h"
#include "core/steps/shoot/shoot_values.h"
#include "core/steps/step.h"

namespace frenlo {

namespace {

/// Another file was not taken so.
void follow_taken(const ShotEdit& edit)
{
    for (std::size_t i = 0; i < edit.now.photos.size(); ++i)
        if (const ShotPhoto* before = edit.photo_before(i);
            before && before->photo->fingerprint != edit.now.photos[i].photo->fingerprint &&
            edit.now.photos[i].steps.has<TakenHere>())
            edit.now.photos.edit(i).steps.drop<TakenHere>();
}

}

const Step& shoot_step()
{
    static const Step step{
        .name = "shoot",
        .photo_values = {step_coding<OfPhoto, TakenHere>("That Frenlo took it, and how")},
        .shot_values = {step_coding<OfShot, PathMarks>("Where something should be on each photo, drawn before"),
                        step_coding<OfShot, FollowedFilm>("A film or picture that its photos follow")},
        .follow = follow_taken,
        .add_commands = command::add_shoot_commands};
    return step;
}

}
