#include "app/steps/tone/tone_controller.h"

#include "core/project/to_measure.h"
#include "core/steps/tone/part_tones.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"

#include <array>

namespace frenlo::app {

ToneController::ToneController(Background& background, Session& session, Viewing& viewing, PreviewStore& store,
                               QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing), store_(store),
      measure_(background, Rank::measure), flicker_(background, Rank::prepare), grey_(background, Rank::screen)
{
    connect(&measure_, &Task::changed, this, &ToneController::changed);
    connect(&measure_, &Task::progress, this, &ToneController::changed);
    for (Task* task : {&measure_, &grey_})
        connect(task, &Task::failed, this, &ToneController::failed);
}

ShotPtr ToneController::shot_now() const
{
    return viewing_.edited_shot();
}

std::optional<Tone> ToneController::tone() const
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot || photo().value < 0)
        return std::nullopt;
    return where_.everywhere() ? tone_of(*shot, photo()) : part_tone(*shot, where_);
}

void ToneController::choose(const ToneWhere& where)
{
    if (where == where_)
        return;
    where_ = where;
    Q_EMIT changed();
}

bool ToneController::seen_here() const
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot || photo().value < 0)
        return false;
    const Area* area = where_.area ? find_area(*shot, *where_.area) : nullptr;
    return in_state(where_.state, *shot, photo()) && (!where_.area || (area && mask_at(*area, *shot, photo())));
}

void ToneController::begin_change()
{
    ++gesture_;
    changing_ = photo();
}

void ToneController::set(ToneValue value, double to)
{
    if (auto now = tone()) {
        (*now).*value = to;
        set(*now, tr("Tone"));
    }
}

void ToneController::set(const Tone& tone, const QString& name)
{
    if (!viewing_.edited_shot() || photo().value < 0)
        return;
    if (changing_ != photo()) // the player moved on
        begin_change();
    session_.apply(
        [&](const Project& p) {
            return where_.everywhere() ? set_anchor(p, viewing_.shot_index(), photo(), tone)
                                       : set_part_tone(p, viewing_.shot_index(), where_, tone);
        },
        name, gesture_);
}

void ToneController::make_grey(QPointF place)
{
    const ShotPtr shot = shot_now();
    if (!shot || photo().value < 0 || grey_.running())
        return;
    const cv::Size size = seen_size(shot->photos[photo().at()]);
    const cv::Point pixel(std::clamp(int(place.x() * size.width), 0, size.width - 1),
                          std::clamp(int(place.y() * size.height), 0, size.height - 1));
    grey_.start(
        {shot->id, "tone"},
        [shot, photo = photo(), pixel](const Job&) { return white_at(*shot, photo, pixel, Originals()); },
        [this, id = shot->photos[photo().at()].id](const WhitePoint& white) {
            auto now = tone();
            if (!now || viewing_.edited_shot()->photos[photo().at()].id != id)
                return; // something else is looked at by now
            now->warmth = white.kelvin;
            now->green_magenta = white.green_magenta;
            begin_change();
            set(*now, tr("Make grey"));
        });
}

void ToneController::drop_anchor()
{
    session_.apply([&](const Project& p) { return frenlo::drop_anchor(p, viewing_.shot_index(), photo()); },
                   tr("No anchor photo"));
}

void ToneController::same_for_all()
{
    session_.apply([&](const Project& p) { return same_tone_for_all(p, viewing_.shot_index(), photo()); },
                   tr("One tone for all photos"));
}

void ToneController::copy_to_selection()
{
    session_.apply(
        [&](const Project& p) { return copy_tone(p, viewing_.shot_index(), photo(), viewing_.chosen_or_all()); },
        tr("Copy tone"));
}

void ToneController::copy_to_shots(const std::vector<ShotId>& shots)
{
    session_.apply([&](const Project& p) { return copy_tone_to_shots(p, viewing_.shot_index(), photo(), shots); },
                   tr("Copy tone"));
}

void ToneController::set_blend(ToneBlend blend)
{
    session_.apply([&](const Project& p) { return set_tone_blend(p, viewing_.shot_index(), blend); },
                   tr("Tone between anchor photos"));
    if (blend == ToneBlend::light && viewing_.shot() && tone_light_missing(*viewing_.shot()) > 0)
        measure_light();
}

void ToneController::measure_light()
{
    if (const ShotPtr shot = shot_now())
        measure_.start({shot->id, "tone"}, measure_tone_light(session_.project(), viewing_.shot_index()), session_,
                       tr("Measure light"));
}

void ToneController::as_shot()
{
    session_.apply(
        [&](const Project& p) {
            return where_.everywhere() ? drop_tone(p, viewing_.shot_index())
                                       : set_part_tone(p, viewing_.shot_index(), where_, Tone());
        },
        tr("Tone as shot"));
}

void ToneController::look()
{
    const ShotPtr shot = shot_now();
    if (!shot || photo().value < 0)
        return;
    look_at_flicker();
    if (looking_ || (shot == looked_at_ && photo() == looked_photo_))
        return;
    looking_ = true;
    looked_at_ = shot;
    looked_photo_ = photo();
    background_.run(
        this,
        [shot, photo = photo(), &store = store_] {
            return Background::guarded([&] { return tone_scopes(*shot, photo, Previews(store)); });
        },
        [this](Result<ToneScopes> scopes) {
            looking_ = false;
            if (scopes)
                scopes_ = std::move(*scopes);
            Q_EMIT looked();
            look(); // something else may be shown by now
        });
}

void ToneController::look_at_flicker()
{
    const ShotPtr shot = shot_now();
    if (shot == figures_of_)
        return;
    flicker_.forget(); // of a tone that is no longer set
    figures_of_ = shot;
    figures_.reset();
    if (!is_toned(*shot))
        return;
    flicker_.start(
        {shot->id, "tone"},
        [shot, &store = store_](const Job& job) { return tone_figures(*shot, Previews(store), job); },
        [this, shot](const ToneFigures& figures) {
            if (shot == shot_now())
                figures_ = figures;
            Q_EMIT looked();
        });
}

}
