#include "app/steps/flicker/flicker_controller.h"

#include "core/project/edits.h"

#include <algorithm>
#include <array>

namespace frenlo::app {

FlickerController::FlickerController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, [this](double fraction) { Q_EMIT progress(fraction); });
    connect(&task_, &Task::changed, this, &FlickerController::changed);
    connect(&task_, &Task::failed, this, &FlickerController::failed);
}

void FlickerController::even(const Deflicker& deflicker)
{
    if (viewing_.edited_shot())
        run({.settings = deflicker});
}

void FlickerController::keep_step(PhotoIndex photo, bool kept)
{
    const ShotPtr shot = viewing_.edited_shot();
    if (shot && deflicker_of(*shot))
        run({.settings = *deflicker_of(*shot), .steps = {{photo, kept}}});
}

void FlickerController::run(const FlickerPlan& plan)
{
    if (!running())
        task_.start({viewing_.shot()->id, "flicker"}, measure_flicker(session_.project(), viewing_.shot_index(), plan),
                    session_, tr("Even the light"));
}

void FlickerController::set_region(const Region& on_photo)
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot || viewing_.shown_photo().value < 0)
        return;
    const Region region = into_film(*shot, viewing_.shown_photo(), on_photo);
    session_.apply([&](const Project& p) { return set_light_region(p, viewing_.shot_index(), region); },
                   tr("Where light is measured"));
}

void FlickerController::resolve(PhotoIndex photo, LightRemedy remedy)
{
    session_.apply([&](const Project& p) { return resolve_light(p, viewing_.shot_index(), photo, remedy); },
                   tr("Light of a photo"));
}

void FlickerController::set_aside(PhotoIndex photo)
{
    session_.apply(
        [&](const Project& p) { return frenlo::set_aside(p, viewing_.shot_index(), std::array{photo}, true); },
        tr("Set aside"));
}

void FlickerController::as_shot()
{
    session_.apply([&](const Project& p) { return light_as_shot(p, viewing_.shot_index()); }, tr("Light as shot"));
}

QString flicker_text(const Deflicker& deflicker)
{
    return QStringLiteral("%1 → %2").arg(deflicker.before.shared, 0, 'f', 3).arg(deflicker.after.shared, 0, 'f', 3);
}

}
