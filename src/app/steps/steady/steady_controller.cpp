#include "app/steps/steady/steady_controller.h"

namespace frenlo::app {

SteadyController::SteadyController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, [this](double fraction) { Q_EMIT progress(fraction); });
    connect(&task_, &Task::changed, this, &SteadyController::changed);
    connect(&task_, &Task::failed, this, &SteadyController::failed);
}

void SteadyController::run(Operation operation, const QString& name)
{
    task_.start({viewing_.shot()->id, "steady"}, std::move(operation), session_, name);
}

void SteadyController::measure(SteadyPlan plan)
{
    if (running() || !viewing_.shot())
        return;
    plan.keep_when_stopped = true;
    run(measure_steady(*viewing_.shot(), plan), plan.way == SteadyWay::still ? tr("Hold still") : tr("Smooth path"));
}

void SteadyController::set_smoothing(const Smoothing& smoothing)
{
    if (!running() && viewing_.edited_shot())
        run(smooth_again(session_.project(), viewing_.shot_index(), smoothing), tr("Smooth path"));
}

void SteadyController::follow(PhotoIndex photo, const cv::Rect2d& box)
{
    if (!running() && viewing_.edited_shot() && steadying_of(*viewing_.shot()) &&
        steadying_of(*viewing_.shot())->way == SteadyWay::smooth)
        run(follow_target(*viewing_.shot(), {photo, box}), tr("Follow a target"));
}

void SteadyController::forget_target()
{
    session_.apply([&](const Project& p) { return frenlo::forget_target(p, viewing_.shot_index()); },
                   tr("Follow no target"));
}

void SteadyController::set_inside_all(bool inside_all)
{
    session_.apply([&](const Project& p) { return frenlo::set_inside_all(p, viewing_.shot_index(), inside_all); },
                   inside_all ? tr("Crop to what all photos show") : tr("Keep the whole photo"));
}

void SteadyController::set_edges(Edges edges)
{
    session_.apply([&](const Project& p) { return frenlo::set_edges(p, viewing_.shot_index(), edges); },
                   edges == Edges::mirrored ? tr("Mirror the edges") : tr("Let the edges go on"));
}

void SteadyController::set_crop_shape(cv::Size shape)
{
    session_.apply([&](const Project& p) { return frenlo::set_crop_shape(p, viewing_.shot_index(), shape); },
                   tr("Shape of the crop"));
}

void SteadyController::as_shot()
{
    session_.apply([&](const Project& p) { return frenlo::as_shot(p, viewing_.shot_index()); }, tr("As shot"));
}

void SteadyController::set_region(const Region& region)
{
    session_.apply([&](const Project& p) { return frenlo::set_region(p, viewing_.shot_index(), region); },
                   tr("Where to look"));
}

void SteadyController::align(PhotoIndex photo, PhotoIndex other, Movement movement)
{
    if (!running() && viewing_.edited_shot() && photo != other && alignment_of(viewing_.shot()->photos.at(other.at())))
        run(align_photo(*viewing_.shot(), photo, other, movement), tr("Align a photo"));
}

void SteadyController::align_by_points(PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs)
{
    if (!running() && viewing_.edited_shot() && steadying_of(*viewing_.shot()) &&
        alignment_of(viewing_.shot()->photos.at(other.at())))
        run(frenlo::align_by_points(*viewing_.shot(), photo, other, pairs), tr("Align a photo"));
}

void SteadyController::leave_as_shot(PhotoIndex photo)
{
    session_.apply([&](const Project& p) { return frenlo::leave_as_shot(p, viewing_.shot_index(), photo); },
                   tr("Leave a photo as shot"));
}

bool SteadyController::can_nudge() const
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot || !steadying_of(*shot) || viewing_.schedule().frames() == 0)
        return false;
    const auto& alignment = alignment_of(shot->photos[viewing_.schedule().photo_at(viewing_.playhead()).at()]);
    return alignment && !alignment->reference;
}

void SteadyController::set_nudging(bool on)
{
    if (on == nudging_)
        return;
    nudging_ = on;
    Q_EMIT nudging_changed();
}

void SteadyController::nudge(cv::Point2d by_px, double degrees, bool new_step)
{
    if (!can_nudge())
        return;
    if (new_step)
        ++gesture_;
    const PhotoIndex photo = viewing_.schedule().photo_at(viewing_.playhead());
    session_.apply([&](const Project& p) { return nudge_photo(p, viewing_.shot_index(), photo, by_px, degrees); },
                   tr("Move by hand"), gesture_);
}

}
