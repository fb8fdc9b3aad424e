#include "app/steps/retouch/areas_controller.h"

#include "core/steps/retouch/retouch_operations.h"

namespace frenlo::app {

AreasController::AreasController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&viewing, &Viewing::shot_changed, this, &AreasController::changed);
    connect(&task_, &Task::progress, this, &AreasController::changed);
    connect(&task_, &Task::changed, this, &AreasController::changed);
    connect(&task_, &Task::failed, this, &AreasController::failed);
}

void AreasController::apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together)
{
    if (shot())
        session_.apply(edit, name, together ? gesture_ : 0);
}

std::optional<PhotoId> AreasController::photo_here() const
{
    return shot() && here().value >= 0 ? std::optional(shot()->photos[here().at()].id) : std::nullopt;
}

std::vector<Area> AreasController::areas() const
{
    return shot() ? shot()->steps.get<Areas>().all : std::vector<Area>();
}

std::optional<Area> AreasController::area() const
{
    const Area* area = shot() && chosen_ ? find_area(*shot(), *chosen_) : nullptr;
    return area ? std::optional(*area) : std::nullopt;
}

void AreasController::choose(std::optional<AreaId> area)
{
    if (chosen_ == area)
        return;
    chosen_ = area;
    Q_EMIT changed();
}

std::vector<State> AreasController::states() const
{
    return shot() ? shot()->steps.get<States>().all : std::vector<State>();
}

std::optional<State> AreasController::state() const
{
    const State* state = shot() && chosen_state_ ? find_state(*shot(), *chosen_state_) : nullptr;
    return state ? std::optional(*state) : std::nullopt;
}

void AreasController::choose_state(std::optional<StateId> state)
{
    if (chosen_state_ == state)
        return;
    chosen_state_ = state;
    Q_EMIT changed();
}

void AreasController::add(const std::vector<cv::Point2d>& points, double brush)
{
    const auto photo = photo_here();
    if (!photo)
        return;
    Area area;
    if (!points.empty())
        area.keys = {{*photo, numbers_of(points)}};
    area.brush = brush;
    apply(
        [&](const Project& p) {
            auto [with, id] = add_area(p, viewing_.shot_index(), area);
            chosen_ = id;
            return std::move(with);
        },
        tr("Add an area"));
    Q_EMIT changed();
}

void AreasController::change(const std::function<void(Area&)>& how, const QString& name)
{
    if (const auto a = area())
        apply([&](const Project& p) { return change_area(p, viewing_.shot_index(), a->id, how); }, name, true);
}

void AreasController::place(const std::vector<cv::Point2d>& points)
{
    const auto a = area();
    const auto photo = photo_here();
    if (a && photo)
        apply(
            [&](const Project& p) {
                return place_area(p, viewing_.shot_index(), a->id, *photo, points, a->keys.size() > 1);
            },
            tr("Move an area"), true);
}

void AreasController::place_here_too()
{
    const auto a = area();
    const auto photo = photo_here();
    if (!a || !photo)
        return;
    if (const auto points = points_here(*a); !points.empty())
        apply([&](const Project& p) { return place_area(p, viewing_.shot_index(), a->id, *photo, points, true); },
              tr("Place it here too"));
}

void AreasController::remove()
{
    if (const auto a = area())
        apply([&](const Project& p) { return remove_area(p, viewing_.shot_index(), a->id); }, tr("Take an area away"));
}

void AreasController::shows(AreaShows what)
{
    begin_change();
    change(
        [&](Area& a) {
            a.shows = what;
            a.other = what == AreaShows::other ? photo_here() : std::nullopt;
        },
        tr("Change what an area shows"));
}

void AreasController::from_here()
{
    begin_change();
    change([&](Area& a) { a.first = photo_here(); }, tr("Area from this photo on"));
}

void AreasController::until_here()
{
    begin_change();
    change([&](Area& a) { a.last = photo_here(); }, tr("Area until this photo"));
}

void AreasController::in_all_photos()
{
    begin_change();
    change(
        [](Area& a) {
            a.first.reset();
            a.last.reset();
        },
        tr("Area in all photos"));
}

void AreasController::find_things()
{
    if (shot())
        task_.start({shot()->id, "retouch"}, frenlo::find_things(*shot()), session_, tr("Find what appears"));
}

void AreasController::add_state()
{
    apply(
        [&](const Project& p) {
            auto [with, id] = frenlo::add_state(p, viewing_.shot_index(), {});
            chosen_state_ = id;
            return std::move(with);
        },
        tr("Add a state"));
    Q_EMIT changed();
}

void AreasController::rename_state(StateId state, const QString& name)
{
    apply(
        [&](const Project& p) {
            return frenlo::rename_state(p, viewing_.shot_index(), state, name.trimmed().toStdString());
        },
        tr("Rename a state"));
}

void AreasController::remove_state()
{
    if (const auto s = state())
        apply([&](const Project& p) { return frenlo::remove_state(p, viewing_.shot_index(), s->id); },
              tr("Take a state away"));
}

void AreasController::switch_here(std::optional<StateId> state)
{
    if (here().value >= 0)
        apply([&](const Project& p) { return switch_state(p, viewing_.shot_index(), here(), state); },
              tr("Switch the state"));
}

void AreasController::once_more()
{
    const auto s = state();
    if (!s || !shot())
        return;
    std::vector<PhotoIndex> photos = viewing_.selection().photos();
    if (photos.size() < 2) {
        photos.clear();
        const auto shown = in_film(*shot());
        for (std::size_t i = 0; i < shown.size(); ++i)
            if (shown[i])
                photos.emplace_back(std::int64_t(i));
    }
    apply([&](const Project& p) { return frenlo::once_more(p, viewing_.shot_index(), photos, s->id); },
          tr("Photos once more"));
}

std::vector<cv::Point2d> AreasController::points_here(const Area& area) const
{
    if (!shot() || here().value < 0 || here().at() >= shot()->photos.size())
        return {};
    return points_at(area.keys, *shot(), here(), area.brush <= 0);
}

}
