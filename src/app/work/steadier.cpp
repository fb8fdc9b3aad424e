#include "app/work/steadier.h"

#include "core/steady/by_points.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

Steadier::Steadier(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing)
{}

template <class Work, class Done>
void Steadier::run(Work work, Done done)
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

void Steadier::measure(const SteadyPlan& plan)
{
    if (running_ || !viewing_.shot())
        return;
    const ShotPtr shot = current();
    const ToMeasure photos = to_measure(*shot);
    if (plan.way == SteadyWay::smooth) {
        const WalkWishes wishes{plan.movement, shot->region, true};
        run([photos, wishes](const Job& job) { return follow_walk(photos.photos, wishes, Originals(), job); },
            [this, shot, photos, plan](const Walked& walked) {
                take_walk(shot->id, photos, walked, plan.movement, plan.smoothing, tr("Smooth path"));
            });
        return;
    }
    StillWishes wishes;
    wishes.movement = plan.movement;
    wishes.region = shot->region;
    wishes.keep_when_stopped = true;
    if (plan.reference)
        if (const auto at = std::find(photos.at.begin(), photos.at.end(), *plan.reference); at != photos.at.end())
            wishes.reference = std::size_t(at - photos.at.begin());
    run([photos, wishes](const Job& job) { return hold_still(photos.photos, wishes, Originals(), job); },
        [this, shot, photos, plan](const HeldStill& held) { take_still(shot->id, photos, held, plan.movement); });
}

std::optional<ShotIndex> Steadier::where_now(ShotId shot)
{
    const auto now = session_.project().find_shot(shot);
    if (!now)
        Q_EMIT failed(tr("The shot that was measured is no longer in the project."));
    return now;
}

void Steadier::take_still(ShotId shot, const ToMeasure& measured, const HeldStill& held, Movement movement)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    ToMeasure here;
    HeldStill result = held;
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

void Steadier::take_walk(ShotId shot, const ToMeasure& measured, const Walked& walked, Movement movement, const Smoothing& smoothing,
                         const QString& name)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    const auto there = measured.still_in(session_.project().shot(*now));
    ToMeasure here;
    Walked result = walked;
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

void Steadier::take_one(ShotId shot, PhotoId photo, const Alignment& alignment)
{
    const auto now = where_now(shot);
    if (!now)
        return;
    const auto& photos = session_.project().shot(*now).photos;
    const auto at = std::find_if(photos.begin(), photos.end(), [&](const ShotPhoto& p) { return p.id == photo; });
    if (at != photos.end())
        session_.apply([&](const Project& p) { return set_alignment(p, *now, PhotoIndex(at - photos.begin()), alignment); }, tr("Align a photo"));
}

void Steadier::set_smoothing(const Smoothing& smoothing)
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

void Steadier::follow(PhotoIndex photo, const cv::Rect2d& box)
{
    if (running_ || !viewing_.shot() || !viewing_.shot()->steady || viewing_.shot()->steady->way != SteadyWay::smooth)
        return;
    const ShotPtr shot = current();
    ToMeasure photos;
    Walked walked;
    walked.size = shot->steady->size;
    walked.trusted = shot->steady->trusted;
    Target target;
    target.box = box;
    const ToMeasure all = to_measure(*shot);
    for (std::size_t i = 0; i < all.at.size(); ++i)
        if (const auto& a = shot->photos[all.at[i].at()].alignment) {
            if (all.at[i] == photo)
                target.photo = photos.at.size();
            photos.at.push_back(all.at[i]);
            photos.photos.push_back(all.photos[i]);
            photos.ids.push_back(all.ids[i]);
            walked.photos.push_back(*a);
        }
    run(
        [photos, walked, target](const Job& job) {
            Walked with = walked;
            follow_target(photos.photos, target, Originals(), job, with);
            return with;
        },
        [this, shot, photos](const Walked& with) { take_walk(shot->id, photos, with, shot->steady->movement, shot->steady->smoothing, tr("Follow a target")); });
}

void Steadier::forget_target()
{
    session_.apply([&](const Project& p) { return frenlo::forget_target(p, viewing_.shot_index()); }, tr("Follow no target"));
}

void Steadier::set_inside_all(bool inside_all)
{
    session_.apply([&](const Project& p) { return frenlo::set_inside_all(p, viewing_.shot_index(), inside_all); },
                   inside_all ? tr("Crop to what all photos show") : tr("Keep the whole photo"));
}

void Steadier::set_edges(Edges edges)
{
    session_.apply([&](const Project& p) { return frenlo::set_edges(p, viewing_.shot_index(), edges); },
                   edges == Edges::mirrored ? tr("Mirror the edges") : tr("Let the edges go on"));
}

void Steadier::set_crop_shape(cv::Size shape)
{
    session_.apply([&](const Project& p) { return frenlo::set_crop_shape(p, viewing_.shot_index(), shape); }, tr("Shape of the crop"));
}

void Steadier::as_shot()
{
    session_.apply([&](const Project& p) { return frenlo::as_shot(p, viewing_.shot_index()); }, tr("As shot"));
}

void Steadier::set_region(const Region& region)
{
    session_.apply([&](const Project& p) { return frenlo::set_region(p, viewing_.shot_index(), region); }, tr("Where to look"));
}

void Steadier::align(PhotoIndex photo, PhotoIndex other, Movement movement)
{
    if (running_ || !viewing_.shot() || photo == other)
        return;
    const ShotPtr shot = current();
    const ShotPhoto& to = shot->photos.at(other.at());
    if (!to.alignment)
        return;
    const PhotoId id = shot->photos.at(photo.at()).id;
    const SeenPhoto one = seen_photo(shot->photos.at(photo.at())), against = seen_photo(to);
    run([one, against, lies = to.alignment->from_film, movement, region = shot->region](
            const Job&) { return align_to(one, against, lies, movement, region, Originals()); },
        [this, shot, id](const Alignment& a) { take_one(shot->id, id, a); });
}

void Steadier::align_by_points(PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs)
{
    if (running_ || !viewing_.shot() || !viewing_.shot()->steady)
        return;
    const ShotPtr shot = current();
    const ShotPhoto& to = shot->photos.at(other.at());
    if (!to.alignment)
        return;
    const PhotoId id = shot->photos.at(photo.at()).id;
    const SeenPhoto one = seen_photo(shot->photos.at(photo.at())), against = seen_photo(to);
    run(
        [=, lies = to.alignment->from_film, size = shot->steady->size, most = shot->steady->movement, region = shot->region](const Job&) {
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

void Steadier::leave_as_shot(PhotoIndex photo)
{
    session_.apply([&](const Project& p) { return frenlo::leave_as_shot(p, viewing_.shot_index(), photo); }, tr("Leave a photo as shot"));
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

void Steadier::nudge(cv::Point2d by_px, double degrees, bool new_step)
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
    if (!p.alignment)
        return 0;
    double most = 0;
    for (const cv::Point2d& c : corners_of(seen_size(p))) {
        const cv::Point2d d = moved(p.alignment->from_film, c) - c;
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
        if (const auto& a = shot.photos[i].alignment; shown[i] && a && a->doubt.empty())
            most = std::max(most, a->left_px);
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
