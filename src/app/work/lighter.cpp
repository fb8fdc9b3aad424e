#include "app/work/lighter.h"

#include "core/document/edits.h"

#include <algorithm>
#include <array>

namespace frenlo::app {

Lighter::Lighter(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing)
{}

void Lighter::even(const Lighting& lighting)
{
    if (!running_ && viewing_.shot())
        run(lighting, to_even(session_.project(), *viewing_.shot(), lighting));
}

void Lighter::keep_step(PhotoIndex photo, bool kept)
{
    const Shot* shot = viewing_.shot();
    if (running_ || !shot || !shot->lighting)
        return;
    ToEven photos = to_even(session_.project(), *shot, *shot->lighting);
    for (LightStep& step : photos.wishes.steps)
        if (photos.photos.at[step.photo] == photo)
            step.jump.kept = kept;
    run(*shot->lighting, std::move(photos));
}

void Lighter::run(const Lighting& lighting, ToEven photos)
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
                [&] { return even_shot(photos.photos.photos, photos.alignments, photos.seconds, photos.region, photos.wishes, Originals(), job); });
        },
        [this, shot, photos, lighting](const Result<EvenedShot>& evened) {
            running_ = false;
            // Names, marks and what was decided meanwhile do not matter to what was measured.
            const Project& project = session_.project();
            auto now = project.find_shot(shot);
            if (now && !to_even(project, project.shot(*now), lighting).same_photos(photos))
                now.reset();
            if (!evened) {
                if (!stop_.stop_requested())
                    Q_EMIT failed(QString::fromStdString(evened.error().text()));
            } else if (!now) {
                Q_EMIT failed(tr("Photos of the shot were changed while its light was measured, and the light of each hangs on those around it. Even it again."));
            } else {
                session_.apply([&](const Project& p) { return even_shot(p, *now, photos, *evened, lighting); }, tr("Even the light"));
            }
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void Lighter::set_region(const Region& on_photo)
{
    const Shot* shot = viewing_.shot();
    if (!shot || viewing_.shown_photo().value < 0)
        return;
    const Region region = into_film(*shot, viewing_.shown_photo(), on_photo);
    session_.apply([&](const Project& p) { return set_light_region(p, viewing_.shot_index(), region); }, tr("Where light is measured"));
}

void Lighter::settle(PhotoIndex photo, LightRemedy remedy)
{
    session_.apply([&](const Project& p) { return settle_light(p, viewing_.shot_index(), photo, remedy); }, tr("Light of a photo"));
}

void Lighter::set_aside(PhotoIndex photo)
{
    session_.apply([&](const Project& p) { return frenlo::set_aside(p, viewing_.shot_index(), std::array{photo}, true); }, tr("Set aside"));
}

void Lighter::as_shot()
{
    session_.apply([&](const Project& p) { return light_as_shot(p, viewing_.shot_index()); }, tr("Light as shot"));
}

QString flicker_text(const Lighting& lighting)
{
    return QStringLiteral("%1 → %2").arg(lighting.before.shared, 0, 'f', 3).arg(lighting.after.shared, 0, 'f', 3);
}

}
