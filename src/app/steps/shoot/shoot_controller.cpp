#include "app/steps/shoot/shoot_controller.h"

#include "app/steps/shoot/live_look.h"
#include "app/work/photo_loader.h"
#include "core/project/with_shot.h"
#include "core/source/inspect.h"
#include "core/steps/shoot/path_marks.h"

#include <opencv2/imgproc.hpp>
#include <QDate>
#include <QDir>
#include <QStandardPaths>

#include <algorithm>

namespace frenlo::app {

ShootController::ShootController(Background& background, Session& session, Viewing& viewing, CameraDesk& desk,
                                 RecentPhotos& recent, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing), desk_(desk), recent_(recent)
{
    connect(&viewing, &Viewing::shot_changed, this, &ShootController::follow);
    connect(&session, &Session::started, this, [this] {
        followed_.reset();
        last_.reset();
        waiting_paths_.clear();
        waiting_film_.clear();
        plan_.where = ShootPlan::Where::end;
        follow();
    });
    connect(&desk, &CameraDesk::taken, this, &ShootController::took);
    connect(&desk, &CameraDesk::ended, this, [this](const QString& why) {
        awake_.reset();
        if (!why.isEmpty())
            Q_EMIT told(why);
        Q_EMIT changed();
    });
    follow();
}

/// Another shot is looked at: photos go on into one that was taken here, else into a new one.
void ShootController::follow()
{
    const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
    const std::optional<ShotId> now = shot ? std::optional(shot->id) : std::nullopt;
    if (now != followed_) {
        followed_ = now;
        plan_.new_shot = !shot || !shot->parts.empty() || !last_taken(*shot);
        if (shot && last_taken(*shot))
            plan_.folder.clear();
    }
    if (viewing_.is_step("shoot"))
        Q_EMIT changed();
}

QString ShootController::usual_folder() const
{
    const NextPhoto n = next();
    if (n.shot)
        for (std::size_t i = n.shot->photos.size(); i-- > 0;) // beside those that were taken before
            if (n.shot->photos[i].steps.find<TakenHere>())
                return to_qt(n.shot->photos[i].photo->file.parent_path());
    const QString name = QString::fromStdString(stem_of(plan_.name.toStdString()));
    if (!session_.file().empty())
        return to_qt(session_.file().parent_path() / "taken" / name.toStdString());
    return QStandardPaths::writableLocation(QStandardPaths::PicturesLocation) + QStringLiteral("/Frenlo/") +
           QDate::currentDate().toString(Qt::ISODate) + QLatin1Char('/') + name;
}

void ShootController::set_plan(const ShootPlan& plan)
{
    if (plan == plan_)
        return;
    plan_ = plan;
    Q_EMIT changed();
}

std::optional<PhotoId> ShootController::photo_in_hand() const
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return std::nullopt;
    PhotoIndex at = viewing_.selection().size() == 1 ? viewing_.selection().photos().front() : viewing_.shown_photo();
    return at.value >= 0 && at.at() < shot->photos.size() ? std::optional(shot->photos[at.at()].id) : std::nullopt;
}

NextPhoto ShootController::next() const
{
    NextPhoto n;
    n.place.hold = plan_.hold;
    if (plan_.new_shot || viewing_.on_reel() || !viewing_.shot())
        return n;
    n.shot = viewing_.shot_ptr();
    n.place.shot = n.shot->id;
    if (plan_.where != ShootPlan::Where::end)
        n.place.behind = photo_in_hand();
    n.place.in_place_of = plan_.where == ShootPlan::Where::in_place && n.place.behind;
    const Rate rate = pacing_rate(session_.project(), *n.shot);
    for (const ShotPhoto& p : n.shot->photos) {
        const bool here = n.place.behind && p.id == *n.place.behind;
        if (here && n.place.in_place_of)
            break;
        if (!p.aside) {
            n.before.push_back(p.photo);
            n.holds.push_back(p.hold);
            n.seconds += length_of(p.hold, rate).value.approx();
            ++n.number;
        }
        if (here)
            break;
    }
    const auto few = std::ptrdiff_t(std::min(n.before.size(), std::max<std::size_t>(played_, LiveLook::most_photos)));
    n.before = {n.before.rbegin(), n.before.rbegin() + few};
    n.holds = {n.holds.rbegin(), n.holds.rbegin() + few};
    return n;
}

void ShootController::set_played(std::size_t photos)
{
    played_ = std::clamp<std::size_t>(photos, 1, most_played);
    constexpr std::size_t besides = 4;
    recent_.set_most(std::max<std::size_t>(played_, LiveLook::most_photos) + besides);
    Q_EMIT played_changed();
}

DeskOrder ShootController::order_for(const SeriesOrder& series, const PhotoPtr& before) const
{
    DeskOrder order;
    order.series = series;
    order.folder = from_qt(plan_.folder.isEmpty() ? usual_folder() : plan_.folder);
    const NextPhoto n = next();
    order.stem = stem_of(n.shot ? n.shot->name : plan_.name.toStdString());
    order.before = before;
    return order;
}

void ShootController::take_so(const TakenPlace& place, const SeriesOrder& order, const PhotoPtr& before)
{
    if (!desk_.is_open() || desk_.taking())
        return;
    place_ = place;
    taking_name_ = plan_.name;
    desk_.take(order_for(order, before));
}

void ShootController::take()
{
    const NextPhoto n = next();
    take_so(n.place, {.count = 1, .take = plan_.take}, n.before.empty() ? nullptr : n.before.front());
    if (plan_.where == ShootPlan::Where::in_place && desk_.taking()) {
        plan_.where = ShootPlan::Where::end;
        Q_EMIT changed();
    }
}

void ShootController::retake()
{
    const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
    if (!shot)
        return;
    auto which = viewing_.selection().size() == 1 ? photo_in_hand() : last_taken(*shot);
    if (!which)
        return;
    PhotoPtr before;
    for (const ShotPhoto& p : shot->photos) {
        if (p.id == *which)
            break;
        if (!p.aside)
            before = p.photo;
    }
    TakeOrder order = plan_.take;
    order.trial = false;
    take_so({shot->id, which, true, plan_.hold}, {.count = 1, .take = order}, before);
}

void ShootController::start_series(double every, std::int64_t count, double delay)
{
    const NextPhoto n = next();
    SeriesOrder order{.count = count, .every = every, .delay = delay, .take = plan_.take};
    if (count == 1 && delay <= 0)
        order.delay = 0.001; // it is a series all the same
    awake_ = std::make_unique<StayAwake>(tr("Photos are being taken"));
    take_so(n.place, order, n.before.empty() ? nullptr : n.before.front());
    if (!desk_.taking())
        awake_.reset();
}

void ShootController::took(const std::shared_ptr<const TakenPhoto>& photo)
{
    ++taken_;
    last_ = photo;
    const Shot* before = nullptr;
    if (place_.shot)
        if (const auto at = session_.project().find_shot(*place_.shot))
            before = &session_.project().shot(*at);
    last_news_ = photo->how.moved && photo->photo
                     ? news_of(*photo->how.moved, before ? movements_of(*before) : std::vector<SetMovement>(),
                               photo->photo->size.width)
                     : MovementNews::as_before;
    if (!photo->pixels.empty())
        recent_.put(photo->photo, to_image(photo->pixels));

    ShotId shot{};
    const std::string name = taking_name_.isEmpty() ? tr("Shot").toStdString() : taking_name_.toStdString();
    const bool first = !place_.shot;
    session_.apply(
        [&](const Project& p) {
            Project result = add_taken(p, *photo, place_, name, shot);
            for (const MarkPath& path : first ? waiting_paths_ : std::vector<MarkPath>())
                result = frenlo::add_path(result, *result.find_shot(shot), path);
            return first && !waiting_film_.empty() ? frenlo::follow_film(result, *result.find_shot(shot), waiting_film_)
                                                   : result;
        },
        tr("Take a photo"));
    waiting_paths_.clear();
    if (first)
        waiting_film_.clear();
    const auto at = session_.project().find_shot(shot);
    if (!at)
        return;
    // The next of a series goes behind it.
    const Shot& now = session_.project().shot(*at);
    for (std::size_t i = 0; i < now.photos.size(); ++i)
        if (now.photos[i].photo == photo->photo) {
            if (place_.behind)
                place_.behind = now.photos[i].id;
            place_.shot = shot;
            place_.in_place_of = false;
            Q_EMIT show_photo(*at, PhotoIndex(std::int64_t(i)));
            break;
        }
    Q_EMIT photo_taken();
    Q_EMIT changed();
}

void ShootController::look_for_left_lying()
{
    const DeskOrder order = order_for({}, nullptr);
    background_.run(
        this, [folder = order.folder, stem = order.stem] { return photos_taken(folder, stem); },
        [this](const std::vector<std::filesystem::path>& files) {
            if (desk_.taking())
                return;
            left_lying_ = not_in(session_.project(), files);
            Q_EMIT changed();
        });
}

void ShootController::bring_left_lying_in()
{
    background_.run(
        this,
        [files = left_lying_] {
            std::vector<PhotoPtr> photos;
            for (const auto& f : files)
                if (const Inspected found = inspect(f); found.state == PhotoState::fine)
                    photos.push_back(found.photo);
            return photos;
        },
        [this](const std::vector<PhotoPtr>& photos) {
            left_lying_.clear();
            const NextPhoto n = next();
            const std::string name = plan_.name.isEmpty() ? tr("Shot").toStdString() : plan_.name.toStdString();
            ShotId shot{};
            session_.apply(
                [&](const Project& p) {
                    Project result = p;
                    TakenPlace place{.shot = n.place.shot, .hold = plan_.hold};
                    for (const PhotoPtr& photo : photos) {
                        TakenPhoto taken;
                        taken.photo = photo;
                        taken.how.trial = photo->file.stem().string().find("_trial") != std::string::npos;
                        result = add_taken(result, taken, place, name, shot);
                        place.shot = shot;
                    }
                    return result;
                },
                tr("Bring photos in"));
            if (const auto at = session_.project().find_shot(shot))
                viewing_.set_shot(*at);
        });
}

void ShootController::set_last_aside()
{
    const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
    const auto last = shot ? last_taken(*shot) : std::nullopt;
    if (!last)
        return;
    const ShotId id = shot->id;
    session_.apply(
        [&](const Project& p) {
            const ShotIndex at = *p.find_shot(id);
            for (std::size_t i = 0; i < p.shot(at).photos.size(); ++i)
                if (p.shot(at).photos[i].id == *last)
                    return set_aside(p, at, std::array{PhotoIndex(std::int64_t(i))}, true);
            return p;
        },
        tr("Set aside"));
}

std::vector<MarkPath> ShootController::paths() const
{
    const NextPhoto n = next();
    return n.shot ? n.shot->steps.get<PathMarks>().paths : waiting_paths_;
}

std::filesystem::path ShootController::followed() const
{
    const NextPhoto n = next();
    return n.shot ? followed_film(*n.shot) : waiting_film_;
}

void ShootController::follow_film(const std::filesystem::path& file)
{
    const NextPhoto n = next();
    if (!n.shot) {
        waiting_film_ = file;
        Q_EMIT changed();
        return;
    }
    session_.apply([&](const Project& p) { return frenlo::follow_film(p, *p.find_shot(n.shot->id), file); },
                   file.empty() ? tr("Follow no film") : tr("Follow a film"));
}

void ShootController::add_path(const std::vector<cv::Point2d>& drawn, std::int64_t steps, Ease ease)
{
    // What a hand draws has a point every few pixels; the curve needs those where it bends.
    std::vector<cv::Point2f> all(drawn.begin(), drawn.end()), few;
    constexpr double off = 0.012;
    cv::approxPolyDP(all, few, off, false);
    MarkPath path{{few.begin(), few.end()}, next().number, steps, ease};
    if (path.points.size() < 2 || cv::arcLength(few, false) < off)
        return;
    const NextPhoto n = next();
    if (!n.shot) {
        waiting_paths_.push_back(path);
        Q_EMIT changed();
        return;
    }
    session_.apply([&](const Project& p) { return frenlo::add_path(p, *p.find_shot(n.shot->id), path); },
                   tr("Draw a path"));
}

void ShootController::change_path(std::size_t path, const MarkPath& to)
{
    const NextPhoto n = next();
    if (!n.shot) {
        waiting_paths_.at(path) = to;
        Q_EMIT changed();
        return;
    }
    session_.apply([&](const Project& p) { return frenlo::change_path(p, *p.find_shot(n.shot->id), path, to); },
                   tr("Change a path"));
}

void ShootController::remove_path(std::size_t path)
{
    const NextPhoto n = next();
    if (!n.shot) {
        waiting_paths_.erase(waiting_paths_.begin() + std::ptrdiff_t(path));
        Q_EMIT changed();
        return;
    }
    session_.apply([&](const Project& p) { return frenlo::remove_path(p, *p.find_shot(n.shot->id), path); },
                   tr("Remove a path"));
}

}
