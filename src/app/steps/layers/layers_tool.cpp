#include "app/steps/layers/layers_tool.h"

#include "app/theme/colours.h"
#include "app/widgets/swatch.h"
#include "core/picture/placing.h"
#include "core/steps/layers/layer_movement.h"
#include "core/steps/layers/layer_pictures.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace frenlo::app {

namespace {

constexpr double handle = 4.5, reach = 12; ///< pixels of the screen

QPointF in_widget(cv::Point2d film, cv::Size size, const QRectF& where)
{
    return {where.left() + film.x / size.width * where.width(), where.top() + film.y / size.height * where.height()};
}

double distance(cv::Point2d a, cv::Point2d b)
{
    return std::hypot(a.x - b.x, a.y - b.y);
}

bool seen_at(const Layer& layer, Seconds at)
{
    return layer.on && !(at.value < layer.begin.value) && (!layer.end || at.value < layer.end->value);
}

}

LayersTool::LayersTool(Viewing& viewing, LayersController& controller) : viewing_(viewing), controller_(controller)
{
    connect(&controller, &LayersController::changed, this, &PictureTool::changed);
}

void LayersTool::set_hand(LayerHand hand)
{
    if (hand == hand_)
        return;
    hand_ = hand;
    Q_EMIT changed();
}

void LayersTool::set_pen(const Backdrop& colour, double width)
{
    colour_ = colour;
    width_ = width;
}

void LayersTool::set_onion(bool on)
{
    if (on == onion_)
        return;
    onion_ = on;
    Q_EMIT changed();
}

cv::Size LayersTool::shape(const Shot&) const
{
    return viewing_.film() ? viewing_.film()->size() : cv::Size();
}

std::optional<FrameRequest> LayersTool::picture(const Shot&, PhotoIndex, cv::Size size) const
{
    if (!viewing_.film() || viewing_.film()->frames() == 0)
        return std::nullopt;
    return viewing_.film()->frame(viewing_.playhead(), {.size = size});
}

QString LayersTool::caption() const
{
    switch (hand_) {
    case LayerHand::pick:
        return tr("click on the colour that is to go");
    case LayerHand::free:
        return tr("draw on the photo");
    case LayerHand::straight:
        return tr("drag a straight line");
    case LayerHand::filled:
        return tr("draw round what is to be filled");
    case LayerHand::erase:
        return tr("rub out what was drawn");
    case LayerHand::place:
        break;
    }
    const Layer* layer = controller_.layer();
    return layer && layer->shot ? tr("drag the layer, its corners or its knob") : QString();
}

Transform LayersTool::into_film(const Layer& layer) const
{
    const Timeline* film = viewing_.film();
    if (!layer.on_scene || !film || film->frames() == 0)
        return Transform::eye();
    const cv::Size scene = controller_.frame_of(layer), size = film->size();
    const FrameRequest request = film->frame(viewing_.playhead(), {.size = size});
    for (const FramePart& part : request.parts)
        if (const auto* photo = std::get_if<PlacedPhoto>(&part.what); photo && photo->view) {
            const cv::Size2d box = box_size(*photo->view, scene);
            return into_frame(placing(box, size, photo->view->whole_frame ? Fit::fill : Fit::inside), box) *
                   out_of_box(*photo->view, scene).inv();
        }
    return into_frame(placing(scene, size, Fit::inside), scene);
}

std::vector<cv::Point2d> LayersTool::corners(const Layer& layer, const LayerKey& key) const
{
    const cv::Size picture = controller_.picture_size(layer), frame = controller_.frame_of(layer);
    std::vector<cv::Point2d> all;
    if (picture.empty() || frame.empty())
        return all;
    const Transform to_film = into_film(layer) * layer_transform(layer, key, picture, frame);
    const cv::Rect2d ink = controller_.ink_of(layer);
    for (const auto& [x, y] : {std::pair(ink.x, ink.y), std::pair(ink.br().x, ink.y), std::pair(ink.br().x, ink.br().y),
                               std::pair(ink.x, ink.br().y)})
        all.push_back(moved(to_film, {x * picture.width, y * picture.height}));
    return all;
}

bool LayersTool::holds(const Layer& layer, cv::Point2d at) const
{
    QPolygonF outline;
    for (const cv::Point2d& p : corners(layer, controller_.place(layer)))
        outline << QPointF(p.x, p.y);
    return layer.shot && outline.containsPoint({at.x, at.y}, Qt::OddEvenFill);
}

cv::Point2d LayersTool::in_film(QPointF share) const
{
    const cv::Size size = viewing_.film() ? viewing_.film()->size() : cv::Size();
    return {share.x() * size.width, share.y() * size.height};
}

cv::Point2d LayersTool::in_layer_frame(const Layer& layer, QPointF share) const
{
    return moved(into_film(layer).inv(), in_film(share));
}

void LayersTool::paint(QPainter& painter, const QRectF& where, const QPalette& palette) const
{
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (draws())
        paint_drawing(painter, where);
    else
        paint_place(painter, where, palette);
    painter.restore();
}

void LayersTool::paint_place(QPainter& painter, const QRectF& where, const QPalette& palette) const
{
    const Colours c = Colours::of(palette);
    const Layer* layer = controller_.layer();
    if (!layer || !layer->shot || !viewing_.film())
        return;
    const cv::Size size = viewing_.film()->size(), frame = controller_.frame_of(*layer);
    if (layer->keys.size() > 1) { // its way, with a mark a frame and a dot a key
        const LayerMovement way(*layer);
        const Transform to_film = into_film(*layer);
        const auto at = [&](double seconds) {
            const LayerKey k = way.at(seconds);
            return in_widget(moved(to_film, {k.x * frame.width, k.y * frame.height}), size, where);
        };
        const double first = layer->keys.front().at.value.approx(), last = layer->keys.back().at.value.approx();
        const double rate = viewing_.film()->rate().value().approx();
        QPainterPath path;
        constexpr int steps = 160;
        for (int i = 0; i <= steps; ++i)
            i == 0 ? path.moveTo(at(first)) : path.lineTo(at(first + (last - first) * i / steps));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 160), 3));
        painter.drawPath(path);
        painter.setPen(QPen(Qt::white, 1.4));
        painter.drawPath(path);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::white);
        for (std::int64_t f = std::llround(first * rate); double(f) <= last * rate + 0.5; ++f)
            painter.drawEllipse(at(double(f) / rate), 1.6, 1.6);
        painter.setPen(QPen(c.ink, 1));
        for (const LayerKey& k : layer->keys)
            painter.drawEllipse(at(k.at.value.approx()), handle, handle);
    }
    if (!seen_at(*layer, controller_.here()))
        return;
    QPolygonF outline;
    for (const cv::Point2d& p : corners(*layer, controller_.place(*layer)))
        outline << in_widget(p, size, where);
    if (outline.size() != 4)
        return;
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, 200), 3.5));
    painter.drawPolygon(outline);
    painter.setPen(QPen(Qt::white, 1.6, layer->locked ? Qt::DotLine : Qt::SolidLine));
    painter.drawPolygon(outline);
    if (layer->locked)
        return;
    const QPointF top = (outline[0] + outline[1]) / 2, middle = (outline[0] + outline[2]) / 2;
    const double away = std::max(1.0, std::hypot((top - middle).x(), (top - middle).y()));
    const QPointF knob = top + (top - middle) / away * 18;
    painter.drawLine(top, knob);
    painter.setPen(QPen(c.ink, 1));
    painter.setBrush(Qt::white);
    for (const QPointF& k : outline)
        painter.drawRect(QRectF(k - QPointF(handle, handle), QSizeF(2 * handle, 2 * handle)));
    painter.drawEllipse(knob, handle, handle);
}

void LayersTool::paint_strokes(QPainter& painter, const QRectF& where, const Layer& layer,
                               const std::vector<Stroke>& strokes, double opacity) const
{
    const cv::Size size = viewing_.film()->size(), frame = controller_.frame_of(layer);
    const Transform to_film = into_film(layer);
    const double on_screen = where.height() / size.height * std::hypot(to_film(0, 0), to_film(1, 0));
    for (const Stroke& s : strokes) {
        const bool erase = s.kind == StrokeKind::erase;
        QColor colour = erase ? QColor(255, 255, 255, 150) : qt_colour(s.colour);
        colour.setAlphaF(colour.alphaF() * opacity);
        QPolygonF line;
        double pressed = 0;
        for (std::size_t i = 0; i + 2 < s.points.size(); i += 3) {
            line << in_widget(moved(to_film, {s.points[i] * frame.width, s.points[i + 1] * frame.height}), size, where);
            pressed += s.points[i + 2];
        }
        if (line.isEmpty())
            continue;
        const double mean = pressed / double(line.size());
        if (s.kind == StrokeKind::filled) {
            painter.setPen(QPen(colour, 1));
            painter.setBrush(colour);
            painter.drawPolygon(line);
            continue;
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colour, std::max(1.0, s.width * frame.height * on_screen * mean), Qt::SolidLine,
                            Qt::RoundCap, Qt::RoundJoin));
        line.size() == 1 ? painter.drawPoint(line.front()) : painter.drawPolyline(line);
    }
}

void LayersTool::paint_drawing(QPainter& painter, const QRectF& where) const
{
    const Layer* layer = controller_.layer();
    const auto here = controller_.photo_here();
    if (!layer || layer->shot || !viewing_.film() || !here)
        return;
    if (onion_) { // the nearest before and after, as far as three photos away
        constexpr std::int64_t far = 3;
        const Shot& shot = *viewing_.shot();
        std::optional<std::pair<std::int64_t, const Drawing*>> before, after;
        const std::int64_t now = viewing_.shown_photo().value;
        for (std::size_t i = 0; i < shot.photos.size(); ++i) {
            const std::int64_t away = std::int64_t(i) - now;
            if (away == 0 || std::abs(away) > far)
                continue;
            for (const Drawing& d : layer->drawings)
                if (d.photo == shot.photos[i].id) {
                    auto& side = away < 0 ? before : after;
                    if (!side || std::abs(away) < std::abs(side->first))
                        side = std::pair(away, &d);
                }
        }
        for (const auto& side : {before, after})
            if (side)
                paint_strokes(painter, where, *layer, side->second->strokes, 0.3);
    }
    paint_strokes(painter, where, *layer, {stroke_}, 1);
}

void LayersTool::add_point(QPointF at)
{
    const Layer* layer = controller_.layer();
    if (!layer)
        return;
    const cv::Size frame = controller_.frame_of(*layer);
    if (frame.empty())
        return;
    const cv::Point2d p = in_layer_frame(*layer, at);
    const double x = p.x / frame.width, y = p.y / frame.height;
    auto& points = stroke_.points;
    if (hand_ == LayerHand::straight && points.size() >= 6)
        points.resize(3);
    constexpr double same = 0.0003; // shares: less is the hand's noise
    if (points.size() >= 3 && std::abs(points[points.size() - 3] - x) < same &&
        std::abs(points[points.size() - 2] - y) < same)
        return;
    points.insert(points.end(), {x, y, hand_ == LayerHand::straight ? 1 : pressure_});
}

void LayersTool::press(QPointF at)
{
    from_ = at;
    held_ = Hold::none;
    if (hand_ == LayerHand::pick) {
        Q_EMIT picked(at);
        return;
    }
    if (draws()) {
        stroke_ = {hand_ == LayerHand::filled  ? StrokeKind::filled
                   : hand_ == LayerHand::erase ? StrokeKind::erase
                                               : StrokeKind::line,
                   colour_,
                   width_,
                   {}};
        add_point(at);
        Q_EMIT repaint();
        return;
    }
    if (!viewing_.film())
        return;
    const cv::Point2d film = in_film(at);
    const double near = reach * viewing_.film()->size().height / 400.0; // about so many pixels of the screen
    const Layer* layer = controller_.layer();
    const Seconds now = controller_.here();
    if (layer && layer->shot && !layer->locked) {
        const cv::Size frame = controller_.frame_of(*layer);
        const Transform to_film = into_film(*layer);
        if (layer->keys.size() > 1)
            for (const LayerKey& k : layer->keys)
                if (distance(moved(to_film, {k.x * frame.width, k.y * frame.height}), film) < near / 2 && k.at != now) {
                    held_ = Hold::key;
                    pressed_key_ = k.at;
                    pressed_ = k;
                    controller_.begin_change();
                    return;
                }
        const auto c = corners(*layer, controller_.place(*layer));
        if (c.size() == 4 && seen_at(*layer, now)) {
            const cv::Point2d top = (c[0] + c[1]) / 2, middle = (c[0] + c[2]) / 2;
            const double away = std::max(1.0, distance(top, middle));
            const cv::Point2d knob = top + (top - middle) / away * (near * 1.5);
            const auto nearer = [&](const cv::Point2d& p) { // than the middle: a small layer is moved by it
                return distance(p, film) < std::min(near, distance(middle, film));
            };
            if (nearer(knob))
                held_ = Hold::turn;
            else if (std::any_of(c.begin(), c.end(), nearer))
                held_ = Hold::corner;
            else if (holds(*layer, film))
                held_ = Hold::all;
        }
    }
    if (held_ == Hold::none) { // another one, the highest first
        const auto all = controller_.layers();
        for (std::size_t i = all.size(); i-- > 0;)
            if (const Layer& l = all[i]; seen_at(l, now) && holds(l, film)) {
                controller_.choose(l.id);
                layer = &l;
                held_ = l.locked ? Hold::none : Hold::all;
                break;
            }
    }
    if (held_ == Hold::none || !layer)
        return;
    pressed_ = controller_.place(*layer);
    controller_.begin_change();
}

void LayersTool::drag(QPointF at)
{
    if (draws()) {
        add_point(at);
        Q_EMIT repaint();
        return;
    }
    const Layer* layer = controller_.layer();
    if (held_ == Hold::none || !layer)
        return;
    const cv::Size frame = controller_.frame_of(*layer);
    const cv::Point2d a = in_layer_frame(*layer, from_), b = in_layer_frame(*layer, at);
    const cv::Point2d pivot(pressed_.x * frame.width, pressed_.y * frame.height);
    LayerKey to = pressed_;
    switch (held_) {
    case Hold::all:
    case Hold::key:
        to.x += (b.x - a.x) / frame.width;
        to.y += (b.y - a.y) / frame.height;
        break;
    case Hold::corner:
        to.size *= std::max(0.01, distance(b, pivot)) / std::max(1.0, distance(a, pivot));
        break;
    case Hold::turn:
        to.turn += (std::atan2(b.y - pivot.y, b.x - pivot.x) - std::atan2(a.y - pivot.y, a.x - pivot.x)) * 180 /
                   std::numbers::pi;
        break;
    case Hold::none:
        break;
    }
    const auto place = [&](LayerKey& k) {
        k.x = to.x;
        k.y = to.y;
        k.size = to.size;
        k.turn = to.turn;
    };
    if (held_ == Hold::key)
        controller_.change(
            [&](Layer& l) {
                for (LayerKey& k : l.keys)
                    if (k.at == pressed_key_)
                        place(k);
            },
            tr("Move the key"));
    else
        controller_.change_place(place, held_ == Hold::turn     ? tr("Turn the layer")
                                        : held_ == Hold::corner ? tr("Size the layer")
                                                                : tr("Move the layer"));
}

void LayersTool::release(QPointF at)
{
    if (draws()) {
        add_point(at);
        if (!stroke_.points.empty())
            controller_.add_stroke(stroke_);
        stroke_ = {};
        Q_EMIT changed();
        return;
    }
    if (held_ != Hold::none && at != from_)
        drag(at);
    held_ = Hold::none;
}

void LayersTool::nudge(int x, int y)
{
    const Layer* layer = controller_.layer();
    if (!layer || !layer->shot)
        return;
    const cv::Size frame = controller_.frame_of(*layer);
    if (frame.empty())
        return;
    controller_.begin_change();
    controller_.change_place(
        [&](LayerKey& k) {
            k.x += double(x) / frame.width;
            k.y += double(y) / frame.height;
        },
        tr("Move the layer"));
}

}
