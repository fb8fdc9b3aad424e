#include "app/steps/retouch/retouch_controller.h"

#include "core/base/folders.h"

#include <algorithm>
#include <array>
#include <utility>

namespace frenlo::app {

RetouchController::RetouchController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&viewing, &Viewing::shot_changed, this, &RetouchController::changed);
    connect(&task_, &Task::progress, this, &RetouchController::changed);
    connect(&task_, &Task::failed, this, &RetouchController::failed);
    connect(&task_, &Task::changed, this, [this] {
        if (!task_.running() && !waiting_.empty() && shot())
            run(find_sources(*shot(), std::exchange(waiting_, {})), tr("Heal a spot"));
        Q_EMIT changed();
    });
}

void RetouchController::apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together)
{
    if (shot())
        session_.apply(edit, name, together ? gesture_ : 0);
}

void RetouchController::run(Operation operation, const QString& name)
{
    if (shot())
        task_.start({shot()->id, "retouch"}, std::move(operation), session_, name);
}

std::vector<Spot> RetouchController::spots() const
{
    return shot() ? retouch_of(*shot()).spots : std::vector<Spot>();
}

std::optional<Spot> RetouchController::spot() const
{
    for (Spot& s : spots())
        if (chosen_ == s.id)
            return std::move(s);
    return std::nullopt;
}

void RetouchController::choose(std::optional<SpotId> spot)
{
    if (chosen_ == spot)
        return;
    chosen_ = spot;
    Q_EMIT changed();
}

void RetouchController::brush(const std::vector<cv::Point2d>& points, double radius, HealFrom from)
{
    const PhotoIndex photo = here();
    if (!shot() || photo.value < 0 || points.empty())
        return;
    Spot spot;
    spot.keys = {{shot()->photos[photo.at()].id, numbers_of(points)}};
    spot.radius = radius;
    spot.from = from;
    begin_change();
    apply(
        [&](const Project& p) {
            WithSpot with = add_spot(p, viewing_.shot_index(), spot);
            chosen_ = with.spot;
            return std::move(with.project);
        },
        from == HealFrom::plate ? tr("Take a support out") : tr("Brush over a spot"));
    if (from == HealFrom::around)
        find_sources_again();
    Q_EMIT changed();
}

void RetouchController::find_sources_again()
{
    const auto s = spot();
    if (!s || s->from != HealFrom::around)
        return;
    if (task_.running())
        waiting_.push_back(s->id);
    else
        run(find_sources(*shot(), {s->id}), tr("Heal a spot"));
}

void RetouchController::change(const std::function<void(Spot&)>& how, const QString& name)
{
    if (const auto s = spot())
        apply([&](const Project& p) { return change_spot(p, viewing_.shot_index(), s->id, how); }, name, true);
}

void RetouchController::place(const std::vector<cv::Point2d>& points)
{
    const auto s = spot();
    if (!s || here().value < 0)
        return;
    apply(
        [&](const Project& p) {
            return place_spot(p, viewing_.shot_index(), s->id, shot()->photos[here().at()].id, points,
                              s->keys.size() > 1);
        },
        tr("Move a spot"), true);
}

void RetouchController::place_here_too()
{
    const auto s = spot();
    if (!s || here().value < 0)
        return;
    const auto points = points_here(*s);
    if (!points.empty())
        apply(
            [&](const Project& p) {
                return place_spot(p, viewing_.shot_index(), s->id, shot()->photos[here().at()].id, points, true);
            },
            tr("Place it here too"));
}

void RetouchController::remove()
{
    if (const auto s = spot())
        apply([&](const Project& p) { return remove_spots(p, viewing_.shot_index(), std::array{s->id}); },
              tr("Take a spot away"));
}

void RetouchController::only_here()
{
    const auto s = spot();
    if (!s || here().value < 0)
        return;
    const auto chosen = viewing_.selection().photos();
    const PhotoIndex first = chosen.empty() ? here() : chosen.front(), last = chosen.empty() ? here() : chosen.back();
    begin_change();
    change(
        [&](Spot& spot) {
            spot.first = shot()->photos[first.at()].id;
            spot.last = shot()->photos[last.at()].id;
        },
        tr("Limit a spot to photos"));
}

void RetouchController::make_plate()
{
    if (!shot())
        return;
    const std::filesystem::path folder =
        session_.file().empty() ? data_folder() / "plates" : session_.file().parent_path();
    run(frenlo::make_plate(*shot(), folder), tr("Make the clean plate"));
}

void RetouchController::use_as_plate()
{
    if (shot() && here().value >= 0)
        apply([&](const Project& p) { return set_plate(p, viewing_.shot_index(), shot()->photos[here().at()].id); },
              tr("Use this photo as the clean plate"));
}

void RetouchController::no_plate()
{
    apply([&](const Project& p) { return set_plate(p, viewing_.shot_index(), std::nullopt); }, tr("No clean plate"));
}

void RetouchController::find_dust()
{
    if (shot())
        run(frenlo::find_dust(*shot()), tr("Heal dust"));
}

void RetouchController::follow()
{
    if (const auto s = spot())
        run(follow_spot(*shot(), s->id), tr("Follow what is under a spot"));
}

QString RetouchController::progress_text() const
{
    const auto left = task_.left_seconds();
    return left ? tr("%1 · %n s left", nullptr, *left).arg(task_.what()) : task_.what();
}

std::vector<cv::Point2d> RetouchController::points_here(const Spot& spot) const
{
    const PhotoIndex photo = here();
    if (!shot() || photo.value < 0 || photo.at() >= shot()->photos.size())
        return {};
    Spot seen = spot;
    seen.on = true; // where it would be
    return points_at(seen, *shot(), photo);
}

}
