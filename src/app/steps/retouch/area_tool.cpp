#include "app/steps/retouch/area_tool.h"

#include "app/steps/retouch/outline_paint.h"
#include "app/steps/retouch/shown_plane.h"
#include "core/picture/picture.h"

#include <QLineF>
#include <QPainter>
#include <QPainterPath>

#include <array>

namespace frenlo::app {

namespace {

constexpr double slipped = 0.002; ///< of the picture: less is no movement

QPainterPath path_of(const std::vector<QPointF>& points, bool closed)
{
    QPainterPath path(points.front());
    for (std::size_t i = 1; i < points.size(); ++i)
        path.lineTo(points[i]);
    if (closed)
        path.closeSubpath();
    return path;
}

QPointF placed(QPointF share, const QRectF& where)
{
    return {where.left() + share.x() * where.width(), where.top() + share.y() * where.height()};
}

}

AreaTool::AreaTool(AreasController& controller) : controller_(controller)
{
    connect(&controller, &AreasController::changed, this, &PictureTool::changed);
}

void AreaTool::set_hand(Hand hand, double brush)
{
    brush_ = brush;
    if (hand == hand_)
        return;
    hand_ = hand;
    Q_EMIT changed();
}

cv::Size AreaTool::shape(const Shot& shot) const
{
    return undressed_size(shot);
}

std::optional<FrameRequest> AreaTool::picture(const Shot& shot, PhotoIndex photo, cv::Size size) const
{
    return request_for_shares(shot, std::array{Share{photo}}, size);
}

QString AreaTool::caption() const
{
    if (hand_ == Hand::outlines)
        return tr("draw round the area");
    if (hand_ == Hand::brushes)
        return tr("brush over the area");
    return tr("drag an area to move it");
}

cv::Point2d AreaTool::on_plane(QPointF at) const
{
    return moved(shown_to_plane(controller_.shot(), controller_.here()), {at.x(), at.y()});
}

QPainterPath AreaTool::outline_of(const Area& area, const QRectF& where) const
{
    const Transform back = shown_to_plane(controller_.shot(), controller_.here()).inv();
    std::vector<QPointF> points;
    for (const cv::Point2d& p : controller_.points_here(area)) {
        const cv::Point2d at = moved(back, p);
        points.push_back(placed({at.x, at.y}, where));
    }
    if (points.empty())
        return {};
    return area.brush > 0 ? brushed(points, area.brush * back(0, 0) * where.width()) : path_of(points, true);
}

void AreaTool::paint(QPainter& painter, const QRectF& where, const QPalette&) const
{
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const auto hand = controller_.area();
    for (const Area& area : controller_.areas())
        paint_outline(painter, outline_of(area, where), hand && hand->id == area.id, area.on);
    if (drawing_) {
        std::vector<QPointF> way;
        for (const QPointF& p : way_)
            way.push_back(placed(p, where));
        const double across = shown_to_plane(controller_.shot(), controller_.here()).inv()(0, 0) * where.width();
        paint_outline(painter, hand_ == Hand::brushes ? brushed(way, brush_ * across) : path_of(way, false), true,
                      true);
    }
    painter.restore();
}

void AreaTool::press(QPointF at)
{
    pressed_at_ = at;
    drawing_ = moving_ = false;
    if (hand_ != Hand::takes) {
        drawing_ = true;
        way_ = {at};
        Q_EMIT repaint();
        return;
    }
    // The uppermost one under the pointer; where none is, that in hand stays.
    const cv::Size size = controller_.shot() ? undressed_size(*controller_.shot()) : cv::Size();
    const QRectF where(0, 0, size.width, size.height);
    const auto areas = controller_.areas();
    for (auto area = areas.rbegin(); area != areas.rend() && !moving_; ++area)
        if (outline_of(*area, where).contains(placed(at, where))) {
            controller_.choose(area->id);
            controller_.begin_change();
            pressed_points_ = controller_.points_here(*area);
            moving_ = true;
        }
}

void AreaTool::drag(QPointF at)
{
    if (drawing_) {
        if (QLineF(way_.back(), at).length() > slipped)
            way_.push_back(at);
        Q_EMIT repaint();
        return;
    }
    if (!moving_ || QLineF(pressed_at_, at).length() < slipped)
        return;
    const cv::Point2d by = on_plane(at) - on_plane(pressed_at_);
    auto points = pressed_points_;
    for (cv::Point2d& p : points)
        p += by;
    controller_.place(points);
}

void AreaTool::release(QPointF at)
{
    drag(at);
    moving_ = false;
    if (!drawing_)
        return;
    drawing_ = false;
    std::vector<cv::Point2d> points;
    for (const QPointF& p : way_)
        points.push_back(on_plane(p));
    const bool brush = hand_ == Hand::brushes;
    if (brush || points.size() >= 3) {
        controller_.add(points, brush ? brush_ : 0);
        Q_EMIT drawn();
    } else {
        Q_EMIT repaint();
    }
}

}
