#include "app/steps/frame/frame_controller.h"

#include "core/picture/picture.h"

#include <algorithm>

namespace frenlo::app {

FrameController::FrameController(Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing)
{
    connect(&viewing, &Viewing::shot_changed, this, &FrameController::changed);
    connect(&viewing, &Viewing::playhead_changed, this, [this] {
        const ShotPtr shot = viewing_.edited_shot();
        const PhotoIndex here = viewing_.shown_photo();
        if (shot && here.value >= 0 && here.at() < shot->photos.size() && view_of(shot->photos[here.at()]))
            in_hand_ = here;
        Q_EMIT changed();
    });
}

void FrameController::apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together)
{
    if (viewing_.edited_shot())
        session_.apply(edit, name, together ? gesture_ : 0);
}

void FrameController::change(const std::function<void(Framing&)>& how, const QString& name)
{
    apply([&](const Project& p) { return change_framing(p, viewing_.shot_index(), how); }, name, true);
}

void FrameController::make_upright(const Upright& found)
{
    apply([&](const Project& p) { return frenlo::make_upright(p, viewing_.shot_index(), found); }, tr("Make upright"));
}

void FrameController::set_lens(const Lens& lens)
{
    apply([&](const Project& p) { return frenlo::set_lens(p, viewing_.shot_index(), lens); }, tr("Set the lens"), true);
}

std::optional<PhotoIndex> FrameController::view_in_hand() const
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot)
        return std::nullopt;
    const auto views = views_of(*shot);
    if (views.empty())
        return std::nullopt;
    return in_hand_ && std::find(views.begin(), views.end(), *in_hand_) != views.end() ? *in_hand_ : views.front();
}

void FrameController::take_in_hand(PhotoIndex photo)
{
    in_hand_ = photo;
    Q_EMIT changed();
}

double FrameController::box_ratio() const
{
    const ShotPtr shot = viewing_.edited_shot();
    const cv::Size undressed = shot ? undressed_size(*shot) : cv::Size();
    if (undressed.empty())
        return 0;
    const Framing f = framing_of(*shot);
    const double own = double(undressed.width) / double(undressed.height);
    if (!f.shape.as_photos())
        return f.shape.value() / own;
    if (views_of(*shot).empty())
        return 0; // a free crop
    const auto& first = view_of(shot->photos[views_of(*shot).front().at()])->box;
    return first.width / first.height;
}

void FrameController::new_view_here()
{
    const ShotPtr shot = viewing_.edited_shot();
    const PhotoIndex here = viewing_.shown_photo();
    if (!shot || here.value < 0 || undressed_size(*shot).empty())
        return;
    const auto views = views_of_frames(*shot, viewing_.schedule());
    const auto at = std::size_t(viewing_.playhead().value);
    const FrameView seen = at < views.size() ? views[at] : still_view(framing_of(*shot), undressed_size(*shot));
    DriftView view{seen.box, seen.turn};
    const bool first = views_of(*shot).empty();
    if (!first) { // the next one goes closer: a movement is seen at once
        constexpr double closer = 0.75;
        view.box.x += view.box.width * (1 - closer) / 2;
        view.box.y += view.box.height * (1 - closer) / 2;
        view.box.width *= closer;
        view.box.height *= closer;
    }
    in_hand_ = here;
    apply([&](const Project& p) { return frenlo::set_view(p, viewing_.shot_index(), here, view); }, tr("New view"));
}

void FrameController::set_view(PhotoIndex photo, const DriftView& view)
{
    in_hand_ = photo;
    apply([&](const Project& p) { return frenlo::set_view(p, viewing_.shot_index(), photo, view); }, tr("Set the view"),
          true);
}

void FrameController::drop_view(PhotoIndex photo)
{
    apply([&](const Project& p) { return frenlo::set_view(p, viewing_.shot_index(), photo, std::nullopt); },
          tr("Take the view away"));
}

void FrameController::turn_drift_round()
{
    apply([&](const Project& p) { return frenlo::turn_drift_round(p, viewing_.shot_index()); },
          tr("Drift the other way"));
}

void FrameController::drop_views()
{
    apply([&](const Project& p) { return frenlo::drop_views(p, viewing_.shot_index()); }, tr("No drift"));
}

void FrameController::copy_to_shots(const std::vector<ShotId>& shots)
{
    apply([&](const Project& p) { return copy_dress(p, viewing_.shot_index(), shots); }, tr("Dress other shots alike"));
}

void FrameController::dress_for(const FilmShape& shape)
{
    apply([&](const Project& p) { return frenlo::dress_for(p, viewing_.shot_index(), shape); },
          tr("Dress for another shape"));
}

void FrameController::drop_shape(const FilmShape& shape)
{
    apply([&](const Project& p) { return frenlo::drop_shape(p, viewing_.shot_index(), shape); },
          tr("No longer dressed for a shape"));
}

void FrameController::as_shot()
{
    apply([&](const Project& p) { return drop_dress(p, viewing_.shot_index()); }, tr("Undress the frame"));
}

}
