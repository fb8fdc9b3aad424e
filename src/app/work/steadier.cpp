#include "app/work/steadier.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

Steadier::Steadier(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing)
{}

void Steadier::measure(Movement movement, std::optional<PhotoIndex> reference)
{
    if (running_ || !viewing_.shot())
        return;
    const ShotPtr shot = session_.project().shots[viewing_.shot_index().at()];
    ToMeasure photos = to_measure(*shot);
    StillWishes wishes;
    wishes.movement = movement;
    if (reference)
        if (const auto at = std::find(photos.at.begin(), photos.at.end(), *reference); at != photos.at.end())
            wishes.reference = std::size_t(at - photos.at.begin());
    running_ = true;
    stop_ = {};
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_](double fraction, std::string_view) {
        background.post(self, [this, fraction] { Q_EMIT progress(fraction); });
    });
    background_.run(
        this,
        [photos, wishes, job] { return Background::guarded([&] { return hold_still(photos.photos, wishes, Originals(), job); }); },
        [this, shot, photos, movement](const Result<HeldStill>& held) {
            running_ = false;
            if (held)
                take(shot, photos, *held, movement);
            else if (!stop_.stop_requested())
                Q_EMIT failed(QString::fromStdString(held.error().text()));
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

/// What was done to the shot meanwhile stays: each photo takes what was measured of it, wherever it is now.
void Steadier::take(const ShotPtr& shot, const ToMeasure& measured, const HeldStill& held, Movement movement)
{
    const auto& shots = session_.project().shots;
    const auto now = std::find_if(shots.begin(), shots.end(), [&](const ShotPtr& s) { return s == shot || s->name == shot->name; });
    if (now == shots.end())
        return; // the shot is gone
    ToMeasure here;
    HeldStill result;
    bool has_reference = false;
    for (std::size_t i = 0; i < measured.at.size(); ++i) {
        const auto& photos = (*now)->photos;
        const auto at = std::find_if(photos.begin(), photos.end(), [&](const ShotPhoto& p) {
            return p.photo == measured.photos[i].photo && p.turns == measured.photos[i].turns;
        });
        if (at == photos.end())
            continue;
        if (i == held.reference) {
            result.reference = here.at.size();
            has_reference = true;
        }
        here.at.emplace_back(at - photos.begin());
        here.photos.push_back(measured.photos[i]);
        result.photos.push_back(held.photos[i]);
    }
    if (!has_reference) {
        Q_EMIT failed(tr("The reference photo is no longer in the shot. Measure again."));
        return;
    }
    const bool cropped = !(*now)->steady || (*now)->steady->cropped;
    session_.apply(
        [&](const Project& p) {
            return hold_still(p, ShotIndex(now - shots.begin()), here, result, movement, cropped);
        },
        tr("Hold still"));
}

void Steadier::set_crop(bool cropped)
{
    session_.apply([&](const Project& p) { return set_steady_crop(p, viewing_.shot_index(), cropped); },
                   cropped ? tr("Crop to what all photos show") : tr("Keep the whole frame"));
}

void Steadier::as_shot()
{
    session_.apply([&](const Project& p) { return frenlo::as_shot(p, viewing_.shot_index()); }, tr("As shot"));
}

bool Steadier::can_nudge() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || !shot->steady || viewing_.schedule().frames() == 0)
        return false;
    const auto& alignment = shot->photos[viewing_.schedule().photo_at(viewing_.playhead()).at()].alignment;
    return alignment && !alignment->reference;
}

void Steadier::set_nudging(bool on)
{
    if (on == nudging_)
        return;
    nudging_ = on;
    Q_EMIT nudging_changed();
}

void Steadier::nudge(cv::Point2d by_px, bool new_step)
{
    if (!can_nudge())
        return;
    if (new_step)
        ++gesture_;
    const PhotoIndex photo = viewing_.schedule().photo_at(viewing_.playhead());
    session_.apply([&](const Project& p) { return nudge_photo(p, viewing_.shot_index(), photo, by_px); }, tr("Move by hand"), gesture_);
}

double moved_px(const Shot& shot, PhotoIndex photo)
{
    const ShotPhoto& p = shot.photos[photo.at()];
    if (!p.alignment)
        return 0;
    double most = 0;
    for (const cv::Point2d& c : corners_of(seen_size(p))) {
        const cv::Point2d d = moved(p.alignment->from_reference, c) - c;
        most = std::max(most, std::hypot(d.x, d.y));
    }
    return most;
}

double most_moved_px(const Shot& shot)
{
    double most = 0;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i])
            most = std::max(most, moved_px(shot, PhotoIndex(std::int64_t(i))));
    return most;
}

std::vector<PhotoIndex> doubtful_photos(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i] && shot.photos[i].alignment && !shot.photos[i].alignment->doubt.empty())
            photos.emplace_back(std::int64_t(i));
    return photos;
}

}
