#include "app/steps/layers/layers_controller.h"

#include "core/cards/card_edits.h"
#include "core/picture/picture.h"
#include "core/steps/layers/bring_picture_in.h"
#include "core/steps/layers/layer_movement.h"
#include "core/steps/layers/layer_pictures.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>

namespace frenlo::app {

LayersController::LayersController(Background& background, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), reading_(background, Rank::measure)
{
    connect(&reading_, &Task::failed, this, &LayersController::failed);
    connect(&viewing, &Viewing::shot_changed, this, &LayersController::changed);
}

LayerHome LayersController::home() const
{
    if (viewing_.on_reel() || !viewing_.shot())
        return {};
    return {viewing_.shot()->id};
}

const Layer* LayersController::layer() const
{
    const auto all = layers();
    for (const Layer& l : all)
        if (l.id == chosen_)
            return &l;
    return all.empty() ? nullptr : &all.back();
}

void LayersController::choose(LayerId layer)
{
    if (chosen_ == layer)
        return;
    chosen_ = layer;
    Q_EMIT changed();
}

void LayersController::apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together)
{
    if (viewing_.shot())
        session_.apply(edit, name, together ? gesture_ : 0);
}

void LayersController::take(const std::function<WithLayer(const Project&)>& add, const QString& name)
{
    apply(
        [&](const Project& p) {
            WithLayer with = add(p);
            chosen_ = with.layer;
            return std::move(with.project);
        },
        name);
    Q_EMIT changed();
}

void LayersController::add_picture(const std::filesystem::path& file)
{
    reading_.start(
        {}, [file](const Job&) { return picture_shot(file); },
        [this, home = home()](Shot shot) {
            take([&](const Project& p) { return add_picture_layer(p, home, std::move(shot)); }, tr("Add a picture"));
        });
}

void LayersController::add_text(const QString& text)
{
    take([&](const Project& p) { return add_text_layer(p, home(), text.toStdString()); }, tr("Add text"));
}

void LayersController::add_film(ShotId film)
{
    take([&](const Project& p) { return add_film_layer(p, home(), film); }, tr("Add a shot as a layer"));
}

void LayersController::add_drawing()
{
    take([&](const Project& p) { return add_drawing_layer(p, home(), tr("Drawing").toStdString()); },
         tr("Add a drawing"));
}

void LayersController::change(const std::function<void(Layer&)>& how, const QString& name)
{
    if (const Layer* l = layer())
        apply([&](const Project& p) { return change_layer(p, home(), l->id, how); }, name, true);
}

void LayersController::move(int up)
{
    if (const Layer* l = layer())
        apply([&](const Project& p) { return move_layer(p, home(), l->id, up); }, tr("Move the layer"));
}

void LayersController::remove()
{
    if (const Layer* l = layer())
        apply([&](const Project& p) { return remove_layer(p, home(), l->id); }, tr("Take the layer away"));
}

Seconds LayersController::here() const
{
    const DisplayTimeline& page = viewing_.timeline();
    const std::int64_t last = std::max<std::int64_t>(0, page.kept_end - page.kept_begin - 1);
    return length_of(std::clamp<std::int64_t>(viewing_.playhead() - page.kept_begin, 0, last),
                     session_.project().delivered_at);
}

LayerKey LayersController::place(const Layer& layer) const
{
    return LayerMovement(layer).at(here().value.approx());
}

void LayersController::change_place(const std::function<void(LayerKey&)>& how, const QString& name)
{
    const Layer* l = layer();
    if (!l)
        return;
    const bool moves = l->keys.size() > 1 || keyed_.contains(l->id);
    const Seconds at = moves ? here() : l->keys.empty() ? l->begin : l->keys.front().at;
    apply([&](const Project& p) { return change_key(p, home(), l->id, at, how); }, name, true);
}

void LayersController::new_key_here()
{
    const Layer* l = layer();
    if (!l)
        return;
    keyed_.insert(l->id);
    begin_change();
    apply(
        [&](const Project& p) {
            Project with = p;
            if (l->keys.empty()) // where it was until now, from its first frame on
                with = change_key(with, home(), l->id, l->begin, [](LayerKey&) {});
            return change_key(with, home(), l->id, here(), [](LayerKey&) {});
        },
        tr("Set a key"));
}

void LayersController::remove_key_here()
{
    if (const Layer* l = layer())
        apply([&](const Project& p) { return remove_key(p, home(), l->id, here()); }, tr("Remove the key"));
}

void LayersController::go_to_key(int by)
{
    const Layer* l = layer();
    if (!l)
        return;
    const Rate rate = session_.project().delivered_at;
    const FrameIndex now = viewing_.playhead();
    std::optional<FrameIndex> to;
    for (const LayerKey& k : l->keys) {
        const FrameIndex at(viewing_.timeline().kept_begin.value + (k.at.value * rate.value()).rounded());
        if (by > 0 ? at > now && (!to || at < *to) : at < now && (!to || at > *to))
            to = at;
    }
    if (to)
        viewing_.set_playhead(*to);
}

cv::Size LayersController::frame_of(const Layer& layer) const
{
    if (layer.on_scene && !viewing_.on_reel() && viewing_.shot())
        return undressed_size(*viewing_.shot());
    return viewing_.film() ? viewing_.film()->size() : cv::Size();
}

cv::Size LayersController::picture_size(const Layer& layer) const
{
    if (!layer.shot)
        return frame_of(layer);
    const auto shot = session_.project().find_shot(*layer.shot);
    return shot ? film_size(session_.project().shot(*shot)) : cv::Size();
}

cv::Rect2d LayersController::ink_of(const Layer& layer) const
{
    const cv::Rect2d all(0, 0, 1, 1);
    const auto place = layer.shot ? session_.project().find_shot(*layer.shot) : std::nullopt;
    if (!place || session_.project().shot(*place).photos.size() != 1)
        return all;
    const PhotoPtr& photo = session_.project().shot(*place).photos.front().photo;
    if (is_on_disk(*photo)) // only what is drawn here is looked at: that takes no time
        return all;
    if (photo != inked_) {
        constexpr int small = 320;
        const auto pixels = Originals().pixels(*photo, fitted(photo->size, {small, small}), Damage::accept);
        ink_ = all;
        if (pixels && pixels->channels() == 4) {
            cv::Mat alpha;
            cv::extractChannel(*pixels, alpha, 3);
            if (const cv::Rect ink = cv::boundingRect(alpha); !ink.empty())
                ink_ = cv::Rect2d(double(ink.x) / alpha.cols, double(ink.y) / alpha.rows,
                                  double(ink.width) / alpha.cols, double(ink.height) / alpha.rows);
        }
        inked_ = photo;
    }
    return ink_;
}

std::optional<PhotoId> LayersController::photo_here() const
{
    const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
    const PhotoIndex photo = viewing_.shown_photo();
    if (!shot || photo.value < 0 || photo.at() >= shot->photos.size())
        return std::nullopt;
    return shot->photos[photo.at()].id;
}

const Drawing* LayersController::drawing_here(const Layer& layer) const
{
    const auto photo = photo_here();
    for (const Drawing& d : layer.drawings)
        if (photo && d.photo == *photo)
            return &d;
    return nullptr;
}

void LayersController::add_stroke(const Stroke& stroke)
{
    const Layer* l = layer();
    const auto photo = photo_here();
    if (l && photo)
        apply([&](const Project& p) { return frenlo::add_stroke(p, home(), l->id, *photo, stroke); }, tr("Draw"));
}

void LayersController::remove_last_stroke()
{
    const Layer* l = layer();
    const auto photo = photo_here();
    if (l && photo)
        apply([&](const Project& p) { return frenlo::remove_last_stroke(p, home(), l->id, *photo); },
              tr("Take the last stroke away"));
}

void LayersController::hold_drawing(int photos)
{
    const Layer* l = layer();
    const auto photo = photo_here();
    if (l && photo)
        apply([&](const Project& p) { return frenlo::hold_drawing(p, home(), l->id, *photo, photos); },
              tr("Hold the drawing"), true);
}

std::optional<ShotId> LayersController::colour_home() const
{
    const Layer* l = layer();
    if (l)
        return l->shot;
    return home().shot;
}

std::optional<ColourOut> LayersController::colour_out() const
{
    const auto of = colour_home();
    const auto shot = of ? session_.project().find_shot(*of) : std::nullopt;
    const auto* out = shot ? session_.project().shot(*shot).steps.find<ColourOut>() : nullptr;
    return out ? std::optional(*out) : std::nullopt;
}

void LayersController::set_colour_out(const std::optional<ColourOut>& out, const QString& name)
{
    if (const auto of = colour_home())
        apply([&](const Project& p) { return frenlo::set_colour_out(p, *of, out); }, name, true);
}

std::optional<QString> LayersController::text() const
{
    const Layer* l = layer();
    const auto shot = l && l->shot ? session_.project().find_shot(*l->shot) : std::nullopt;
    const TextCard* card = shot ? text_card_of(session_.project().shot(*shot)) : nullptr;
    return card ? std::optional(QString::fromStdString(card->text)) : std::nullopt;
}

void LayersController::set_text(const QString& text)
{
    const Layer* l = layer();
    if (!l || !l->shot)
        return;
    apply(
        [&](const Project& p) {
            const auto shot = p.find_shot(*l->shot);
            return shot ? change_card(p, *shot, [&](TextCard& c) { c.text = text.toStdString(); }) : p;
        },
        tr("Change the text"), true);
}

QString LayersController::kind_text(const Layer& layer) const
{
    if (!layer.shot)
        return tr("drawing");
    const auto shot = session_.project().find_shot(*layer.shot);
    if (!shot)
        return tr("gone");
    const Shot& s = session_.project().shot(*shot);
    return text_card_of(s) ? tr("text") : s.photos.size() == 1 ? tr("picture") : tr("shot");
}

}
