#include "app/steps/steady/steady_controller.h"

#include "core/project/to_measure.h"
#include "core/steps/steady/by_points.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

SteadyController::SteadyController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing)
{}

template <class Work, class Done>
void SteadyController::run(Work work, Done done)
{
    running_ = true;
    stop_ = {};
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_](double fraction, std::string_view) {
        background.post(self, [this, fraction] { Q_EMIT progress(fraction); });
    });
    background_.run(
        this, [work, job] { return Background::guarded([&] { return work(job); }); },
        [this, done](const auto& result) {
            running_ = false;
            if (result)
                done(*result);
            else if (!stop_.stop_requested())
                Q_EMIT failed(QString::fromStdString(result.error().text()));
            Q_EMIT changed();
        });
    Q_EMIT changed();
}

void SteadyController::measure(const SteadyPlan& plan)
{
    if (running_ || !viewing_.shot())
        return;
    const ShotPtr shot = current();
    const ToMeasure photos = to_measure(*shot);
    if (plan.way == SteadyWay::smooth) {
        const WalkOptions options{plan.movement, steady_region(*shot), true};
        run([photos, options](const Job& job) { return follow_walk(photos.photos, options, Originals(), job); },
            [this, shot, photos, plan](const WalkRegistration& walked) {
                take_walk(shot->id, photos, walked, plan.movement, plan.smoothing, tr("Smooth path"));
            });
        return;
    }
    StillOptions options;
    options.movement = plan.movement;
    options.region = steady_region(*shot);
    options.keep_when_stopped = true;
    if (plan.reference)
        if (const auto at = std::find(photos.at.begin(), photos.at.end(), *plan.reference); at != photos.at.end())
            options.reference = std::size_t(at - photos.at.begin());
    run([photos, options](const Job& job) { return hold_still(photos.photos, options, Originals(), job); },
        [this, shot, photos, plan](const StillRegistration& held) { take_still(shot->id, photos, held, plan.movement); });
}

std::optional<ShotIndex> SteadyController::where_now(ShotId shot)
{
    const auto now = session_.project().find_shot(shot);
    if (!now)
        Q_EMIT failed(tr("The shot that was measured is no longer in the project."));
    return now;
}

void SteadyController::take_still(ShotId shot, const ToMeasure& measured, const StillRegistration& held, Movement movement)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    ToMeasure here;
    StillRegistration result = held;
    result.photos.clear();
    bool has_reference = false;
    for (const auto& [i, at] : measured.still_in(session_.project().shot(*now))) {
        if (i == held.reference) {
            result.reference = here.at.size();
            has_reference = true;
        }
        here.at.push_back(at);
        here.photos.push_back(measured.photos[i]);
        here.ids.push_back(measured.ids[i]);
        result.photos.push_back(held.photos[i]);
    }
    if (!has_reference) {
        Q_EMIT failed(tr("The reference photo is no longer in the shot. Measure again."));
        return;
    }
    session_.apply([&](const Project& p) { return hold_still(p, *now, here, result, movement); }, tr("Hold still"));
}

void SteadyController::take_walk(ShotId shot, const ToMeasure& measured, const WalkRegistration& walked, Movement movement, const Smoothing& smoothing,
                         const QString& name)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    const auto there = measured.still_in(session_.project().shot(*now));
    ToMeasure here;
    WalkRegistration result = walked;
    result.photos.clear();
    for (const auto& [i, at] : there) {
        here.at.push_back(at);
        here.photos.push_back(measured.photos[i]);
        here.ids.push_back(measured.ids[i]);
        result.photos.push_back(walked.photos[i]);
    }
    if (there.size() != measured.at.size() || !std::is_sorted(here.at.begin(), here.at.end())) {
        Q_EMIT failed(tr("The photos of the shot were changed while it was measured, and a path goes from each to the next. Measure again."));
        return;
    }
    session_.apply([&](const Project& p) { return smooth_walk(p, *now, here, result, movement, smoothing); }, name);
}

void SteadyController::take_one(ShotId shot, PhotoId photo, const Alignment& alignment)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    const auto& photos = session_.project().shot(*now).photos;
    const auto at = std::find_if(photos.begin(), photos.end(), [&](const ShotPhoto& p) { return p.id == photo; });
    if (at != photos.end())
        session_.apply([&](const Project& p) { return set_alignment(p, *now, PhotoIndex(at - photos.begin()), alignment); }, tr("Align a photo"));
}

void SteadyController::set_smoothing(const Smoothing& smoothing)
{
    if (running_ || !viewing_.shot())
        return;
    // With thousands of photos it takes a moment.
    run([project = session_.project(), index = viewing_.shot_index(), smoothing](
            const Job&) { return frenlo::set_smoothing(project, index, smoothing).shots[index.at()]; },
        [this, shot = current()](const ShotPtr& smoothed) {
            const auto now = session_.project().find_shot(shot->id);
            if (!now || session_.project().shots[now->at()] != shot) {
                Q_EMIT failed(tr("The shot was changed while its path was smoothed. Set the strength again."));
                return;
            }
            session_.apply(
                [&](const Project& p) {
                    Project with = p;
                    with.shots[now->at()] = smoothed;
                    return with;
                },
                tr("Smooth path"));
        });
}

void SteadyController::follow(PhotoIndex photo, const cv::Rect2d& box)
{
    if (running_ || !viewing_.shot() || !steadying_of(*viewing_.shot()) || steadying_of(*viewing_.shot())->way != SteadyWay::smooth)
        return;
    const ShotPtr shot = current();
    ToMeasure photos;
    WalkRegistration walked;
    walked.size = steadying_of(*shot)->size;
    walked.trusted = steadying_of(*shot)->trusted;
    Target target;
    target.box = box;
    const ToMeasure all = to_measure(*shot);
    for (std::size_t i = 0; i < all.at.size(); ++i)
        if (const auto& a = alignment_of(shot->photos[all.at[i].at()])) {
            if (all.at[i] == photo)
                target.photo = photos.at.size();
            photos.at.push_back(all.at[i]);
            photos.photos.push_back(all.photos[i]);
            photos.ids.push_back(all.ids[i]);
            walked.photos.push_back(*a);
        }
    run(
        [photos, walked, target](const Job& job) {
            WalkRegistration with = walked;
            follow_target(photos.photos, target, Originals(), job, with);
            return with;
        },
        [this, shot, photos](const WalkRegistration& with) { take_walk(shot->id, photos, with, steadying_of(*shot)->movement, steadying_of(*shot)->smoothing, tr("Follow a target")); });
}

void SteadyController::forget_target()
{
    session_.apply([&](const Project& p) { return frenlo::forget_target(p, viewing_.shot_index()); }, tr("Follow no target"));
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
    session_.apply([&](const Project& p) { return frenlo::set_crop_shape(p, viewing_.shot_index(), shape); }, tr("Shape of the crop"));
}

void SteadyController::as_shot()
{
    session_.apply([&](const Project& p) { return frenlo::as_shot(p, viewing_.shot_index()); }, tr("As shot"));
}

void SteadyController::set_region(const Region& region)
{
    session_.apply([&](const Project& p) { return frenlo::set_region(p, viewing_.shot_index(), region); }, tr("Where to look"));
}

void SteadyController::align(PhotoIndex photo, PhotoIndex other, Movement movement)
{
    if (running_ || !viewing_.shot() || photo == other)
        return;
    const ShotPtr shot = current();
    const ShotPhoto& to = shot->photos.at(other.at());
    if (!alignment_of(to))
        return;
    const PhotoId id = shot->photos.at(photo.at()).id;
    const SeenPhoto one = seen_photo(shot->photos.at(photo.at())), against = seen_photo(to);
    run([one, against, lies = alignment_of(to)->from_film, movement, region = steady_region(*shot)](
            const Job&) { return align_to(one, against, lies, movement, region, Originals()); },
        [this, shot, id](const Alignment& a) { take_one(shot->id, id, a); });
}

void SteadyController::align_by_points(PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs)
{
    if (running_ || !viewing_.shot() || !steadying_of(*viewing_.shot()))
        return;
    const ShotPtr shot = current();
    const ShotPhoto& to = shot->photos.at(other.at());
    if (!alignment_of(to))
        return;
    const PhotoId id = shot->photos.at(photo.at()).id;
    const SeenPhoto one = seen_photo(shot->photos.at(photo.at())), against = seen_photo(to);
    run(
        [=, lies = alignment_of(to)->from_film, size = steadying_of(*shot)->size, most = steadying_of(*shot)->movement, region = steady_region(*shot)](const Job&) {
            Alignment set;
            const Transform t = by_points(pairs, most);
            set.from_film = t * lies;
            try { // a click is good to a pixel or two; from there the photos themselves say it better, where they agree
                Alignment exact = align_to(one, against, lies, movement_by_points(pairs.size(), most), region, Originals(), t);
                constexpr double by_hand = 0.004; // of the width: how far a click may be off
                if (corner_distance(exact.from_film, set.from_film, size) < by_hand * size.width)
                    return exact;
            } catch (const Failure&) {
                return set; // that is why they were set by hand
            }
            return set;
        },
        [this, shot, id](const Alignment& a) { take_one(shot->id, id, a); });
}

void SteadyController::leave_as_shot(PhotoIndex photo)
{
    session_.apply([&](const Project& p) { return frenlo::leave_as_shot(p, viewing_.shot_index(), photo); }, tr("Leave a photo as shot"));
}

bool SteadyController::can_nudge() const
{
    const Shot* shot = viewing_.shot();
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
    session_.apply([&](const Project& p) { return nudge_photo(p, viewing_.shot_index(), photo, by_px, degrees); }, tr("Move by hand"), gesture_);
}

double moved_px(const Shot& shot, PhotoIndex photo)
{
    const ShotPhoto& p = shot.photos[photo.at()];
    if (!alignment_of(p))
        return 0;
    double most = 0;
    for (const cv::Point2d& c : corners_of(seen_size(p))) {
        const cv::Point2d d = moved(alignment_of(p)->from_film, c) - c;
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

double most_left_px(const Shot& shot)
{
    double most = 0;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& a = alignment_of(shot.photos[i]); shown[i] && a && a->doubt.empty())
            most = std::max(most, a->left_px);
    return most;
}

std::vector<PhotoIndex> doubtful_photos(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i] && alignment_of(shot.photos[i]) && !alignment_of(shot.photos[i])->doubt.empty())
            photos.emplace_back(std::int64_t(i));
    return photos;
}

}
