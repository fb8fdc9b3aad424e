#include "app/steps/flicker/flicker_controller.h"

#include "core/project/edits.h"

#include <algorithm>
#include <array>

namespace frenlo::app {

FlickerController::FlickerController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing)
{}

void FlickerController::even(const Deflicker& deflicker)
{
    if (!running_ && viewing_.shot())
        run(deflicker, deflicker_input(session_.project(), *viewing_.shot(), deflicker));
}

void FlickerController::keep_step(PhotoIndex photo, bool kept)
{
    const Shot* shot = viewing_.shot();
    if (running_ || !shot || !deflicker_of(*shot))
        return;
    DeflickerInput photos = deflicker_input(session_.project(), *shot, *deflicker_of(*shot));
    for (LightStep& step : photos.options.steps)
        if (photos.photos.at[step.photo] == photo)
            step.jump.kept = kept;
    run(*deflicker_of(*shot), std::move(photos));
}

void FlickerController::run(const Deflicker& deflicker, DeflickerInput photos)
{
    running_ = true;
    stop_ = {};
    const ShotId shot = viewing_.shot()->id;
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_](double fraction, std::string_view) {
        background.post(self, [this, fraction] { Q_EMIT progress(fraction); });
    });
    background_.run(
        this,
        [photos, job] {
            return Background::guarded(
                [&] { return deflicker_shot(photos.photos.photos, photos.from_film, photos.seconds, photos.region, photos.options, Originals(), job); });
        },
        [this, shot, photos, deflicker](const Result<DeflickerResult>& evened) {
            running_ = false;
            // Names, marks and what was decided meanwhile do not matter to what was measured.
            const Project& project = session_.project();
            auto now = project.find_shot(shot);
            if (now && !deflicker_input(project, project.shot(*now), deflicker).same_photos(photos))
                now.reset();
            if (!evened) {
                if (!stop_.stop_requested())
                    Q_EMIT failed(QString::fromStdString(evened.error().text()));
            } else if (!now) {
                Q_EMIT failed(tr("Photos of the shot were changed while its light was measured, and the light of each hangs on those around it. Even it again."));
            } else {
                session_.apply([&](const Project& p) { return set_deflicker(p, *now, photos, *evened, deflicker); }, tr("Even the light"));
            }
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void FlickerController::set_region(const Region& on_photo)
{
    const Shot* shot = viewing_.shot();
    if (!shot || viewing_.shown_photo().value < 0)
        return;
    const Region region = into_film(*shot, viewing_.shown_photo(), on_photo);
    session_.apply([&](const Project& p) { return set_light_region(p, viewing_.shot_index(), region); }, tr("Where light is measured"));
}

void FlickerController::settle(PhotoIndex photo, LightRemedy remedy)
{
    session_.apply([&](const Project& p) { return resolve_light(p, viewing_.shot_index(), photo, remedy); }, tr("Light of a photo"));
}

void FlickerController::set_aside(PhotoIndex photo)
{
    session_.apply([&](const Project& p) { return frenlo::set_aside(p, viewing_.shot_index(), std::array{photo}, true); }, tr("Set aside"));
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
