#include "app/steps/retouch/retouch_tool.h"

#include "app/steps/retouch/outline_paint.h"
#include "app/steps/retouch/shown_plane.h"
#include "app/theme/colours.h"
#include "core/picture/picture.h"
#include "core/picture/step_pictures.h"
#include "core/picture/straight_rows.h"

#include <QPainter>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

double distance(QPointF a, QPointF b)
{
    return std::hypot((a - b).x(), (a - b).y());
}

/// From a way made of short pieces.
double distance(const std::vector<QPointF>& way, QPointF p)
{
    double least = way.empty() ? 1e9 : distance(way.front(), p);
    for (std::size_t i = 1; i < way.size(); ++i) {
        const QPointF a = way[i - 1], d = way[i] - a;
        const double length2 = QPointF::dotProduct(d, d);
        const double t = length2 > 0 ? std::clamp(QPointF::dotProduct(p - a, d) / length2, 0.0, 1.0) : 0;
        least = std::min(least, distance(a + d * t, p));
    }
    return least;
}

}

RetouchTool::RetouchTool(Viewing& viewing, RetouchController& controller) : viewing_(viewing), controller_(controller)
{
    connect(&controller, &RetouchController::changed, this, &PictureTool::changed);
}

void RetouchTool::set_brush(double radius, HealFrom from)
{
    radius_ = radius;
    from_around_or_plate_ = from;
}

void RetouchTool::set_outlines_shown(bool shown)
{
    outlines_ = shown;
    Q_EMIT repaint();
}

void RetouchTool::show_photo(std::optional<PhotoIndex> photo)
{
    if (photo == shown_)
        return;
    shown_ = photo;
    Q_EMIT changed();
}

cv::Size RetouchTool::shape(const Shot& shot) const
{
    if (shown_)
        return seen_size(shot.photos[shown_->at()]);
    return undressed_size(shot);
}

std::optional<FrameRequest> RetouchTool::picture(const Shot& shot, PhotoIndex photo, cv::Size size) const
{
    return shown_ ? request_for_photo(shot, photo, size) : request_for_shares(shot, std::array{Share{photo}}, size);
}

QString RetouchTool::caption() const
{
    if (shown_)
        return tr("the clean plate");
    return tr("brush over what should go, or drag a spot");
}

Transform RetouchTool::to_plane() const
{
    return shown_to_plane(controller_.shot(), controller_.here());
}

Transform RetouchTool::to_photo() const
{
    const Shot* shot = controller_.shot();
    const PhotoIndex photo = controller_.here();
    if (!shot || photo.value < 0)
        return Transform::eye();
    const ShotPhoto& p = shot->photos[photo.at()];
    const auto placement = placement_of(*shot, p);
    if (!placement || p.photo->size.empty())
        return Transform::eye();
    const auto shares = [](cv::Size size) { return part_of_plane(size).to_plane; };
    return shares(seen_size(p)) * placement->from_film * shares(placement->plane).inv() * to_plane();
}

cv::Point2d RetouchTool::shown_at(cv::Point2d place, bool on_photo) const
{
    const Shot* shot = controller_.shot();
    if (!on_photo || !shot || controller_.here().value < 0)
        return moved(to_plane().inv(), place);
    const ShotPhoto& p = shot->photos[controller_.here().at()];
    return moved(to_photo().inv(), straight_share(p.lens, cv::Size2d(seen_size(p)), place));
}

cv::Point2d RetouchTool::place_at(QPointF shown, bool on_photo) const
{
    const Shot* shot = controller_.shot();
    if (!on_photo || !shot || controller_.here().value < 0)
        return moved(to_plane(), {shown.x(), shown.y()});
    const ShotPhoto& p = shot->photos[controller_.here().at()];
    return taken_share(p.lens, cv::Size2d(seen_size(p)), moved(to_photo(), {shown.x(), shown.y()}));
}

std::vector<QPointF> RetouchTool::in_widget(const Spot& spot, const QRectF& where) const
{
    std::vector<QPointF> way;
    for (const cv::Point2d& p : controller_.points_here(spot)) {
        const cv::Point2d at = shown_at(p, spot.on_photo);
        way.emplace_back(where.left() + at.x * where.width(), where.top() + at.y * where.height());
    }
    return way;
}

double RetouchTool::radius_in_widget(double radius, bool on_photo, const QRectF& where) const
{
    const Transform back = (on_photo ? to_photo() : to_plane()).inv();
    return radius * std::hypot(back(0, 0), back(1, 0)) * where.width();
}

void RetouchTool::paint(QPainter& painter, const QRectF& where, const QPalette&) const
{
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const auto hand = controller_.spot();
    if (outlines_ && !shown_)
        for (const Spot& spot : controller_.spots())
            if (const auto way = in_widget(spot, where); !way.empty())
                paint_outline(painter, brushed(way, std::max(2.0, radius_in_widget(spot.radius, spot.on_photo, where))),
                              hand && hand->id == spot.id, spot.on);
    if (brushing_) {
        std::vector<QPointF> way;
        for (const QPointF& p : stroke_)
            way.emplace_back(where.left() + p.x() * where.width(), where.top() + p.y() * where.height());
        paint_outline(painter, brushed(way, std::max(2.0, radius_in_widget(radius_, false, where))), true, true);
    }
    painter.restore();
}

void RetouchTool::press(QPointF at)
{
    pressed_at_ = at;
    brushing_ = moving_ = false;
    if (shown_)
        return;
    // A spot under the pointer is taken in hand; the nearest one.
    const cv::Size size = viewing_.shot() ? undressed_size(*viewing_.shot()) : cv::Size();
    if (size.empty())
        return;
    const QRectF where(0, 0, size.width, size.height);
    const QPointF p(at.x() * size.width, at.y() * size.height);
    std::optional<SpotId> nearest;
    double least = 1e9;
    if (outlines_)
        for (const Spot& spot : controller_.spots()) {
            const auto way = in_widget(spot, where);
            const double reach = std::max(radius_in_widget(spot.radius, spot.on_photo, where), size.width * 0.008);
            if (const double d = way.empty() ? 1e9 : distance(way, p); d < reach && d < least) {
                least = d;
                nearest = spot.id;
            }
        }
    if (nearest) {
        controller_.choose(nearest);
        controller_.begin_change();
        pressed_points_ = controller_.points_here(*controller_.spot());
        moving_ = true;
        return;
    }
    brushing_ = true;
    stroke_ = {at};
    Q_EMIT repaint();
}

void RetouchTool::drag(QPointF at)
{
    if (brushing_) {
        constexpr double same = 0.001;
        if (distance(stroke_.back(), at) > same)
            stroke_.push_back(at);
        Q_EMIT repaint();
        return;
    }
    const auto spot = controller_.spot();
    if (!moving_ || !spot || distance(at, pressed_at_) < 0.002)
        return;
    const cv::Point2d by = place_at(at, spot->on_photo) - place_at(pressed_at_, spot->on_photo);
    auto points = pressed_points_;
    for (cv::Point2d& p : points)
        p += by;
    controller_.place(points);
}

void RetouchTool::release(QPointF at)
{
    drag(at);
    if (brushing_) {
        brushing_ = false;
        std::vector<cv::Point2d> points;
        for (const QPointF& p : stroke_)
            points.push_back(place_at(p, false));
        if (points.size() == 2) // a click that slipped
            points.pop_back();
        controller_.brush(points, radius_, from_around_or_plate_);
    } else if (moving_ && distance(at, pressed_at_) >= 0.002) {
        controller_.find_sources_again();
    }
    moving_ = false;
}

}
