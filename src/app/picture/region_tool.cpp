#include "app/picture/region_tool.h"

#include "app/theme/colours.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr int columns = 96;           ///< of the brush's grid
constexpr double brush_radius = 0.02; ///< of the photo's width

QRectF in_widget(const cv::Rect2d& share, const QRectF& where)
{
    return {where.left() + share.x * where.width(), where.top() + share.y * where.height(), share.width * where.width(),
            share.height * where.height()};
}

}

RegionTool::RegionTool(Use use, Shape shape) : use_(use), shape_(shape) {}

void RegionTool::show(const Region& region, const std::vector<Hatched>& hatched, std::optional<PhotoIndex> photo,
                      cv::Size size)
{
    ratio_ = size.empty() ? ratio_ : double(size.width) / size.height;
    region_ = region;
    hatched_ = hatched;
    photo_ = photo;
    Q_EMIT changed();
}

QString RegionTool::caption() const
{
    switch (use_) {
    case Use::look_at:
        return shape_ == Shape::box ? tr("drag a box to look at · Esc ends") : tr("brush what to look at · Esc ends");
    case Use::leave_out:
        return shape_ == Shape::box ? tr("drag a box to leave out · Esc ends")
                                    : tr("brush what to leave out · Esc ends");
    case Use::target:
        return tr("drag a box around what is to stay where it is · Esc ends");
    case Use::only_show:
        return tr("hatched: not trusted · Esc ends");
    }
    return {};
}

void RegionTool::paint(QPainter& painter, const QRectF& where, const QPalette& palette) const
{
    const Colours c = Colours::of(palette);
    const auto outlined = [&](const QRectF& r, Qt::PenStyle style) { // seen on light and on dark
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(Qt::black, 3, style));
        painter.drawRect(r);
        painter.setPen(QPen(Qt::white, 1.5, style));
        painter.drawRect(r);
    };
    const auto hatched = [&](const QRectF& r, Qt::BrushStyle style, int strength) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(QBrush(QColor(0, 0, 0, strength), style));
        painter.drawRect(r);
        painter.setBrush(QBrush(QColor(255, 255, 255, strength), style));
        painter.drawRect(r.translated(1, 1));
    };
    if (use_ == Use::only_show)
        for (const Hatched& h : hatched_)
            hatched(in_widget(h.box, where), h.dense ? Qt::Dense6Pattern : Qt::BDiagPattern, h.dense ? 110 : 190);
    for (const cv::Rect2d& r : region_.look_at)
        outlined(in_widget(r, where), Qt::SolidLine);
    for (const cv::Rect2d& r : region_.leave_out) {
        hatched(in_widget(r, where), Qt::DiagCrossPattern, 200);
        if (r.width * r.height > 0.002) // brushed strips have no outlines
            outlined(in_widget(r, where), Qt::DashLine);
    }
    if (!drawing_)
        return;
    if (shape_ == Shape::box) {
        const QRectF r = in_widget(box(), where);
        if (use_ == Use::leave_out)
            hatched(r, Qt::DiagCrossPattern, 200);
        outlined(r, use_ == Use::leave_out ? Qt::DashLine : Qt::SolidLine);
    } else {
        for (const cv::Rect2d& r : boxes_of(cells_, columns)) {
            painter.setPen(Qt::NoPen);
            painter.setBrush(QColor(c.spruce.red(), c.spruce.green(), c.spruce.blue(), 150));
            painter.drawRect(in_widget(r, where));
        }
    }
}

cv::Rect2d RegionTool::box() const
{
    const auto [left, right] = std::minmax({std::clamp(from_.x(), 0.0, 1.0), std::clamp(to_.x(), 0.0, 1.0)});
    const auto [top, bottom] = std::minmax({std::clamp(from_.y(), 0.0, 1.0), std::clamp(to_.y(), 0.0, 1.0)});
    return {left, top, right - left, bottom - top};
}

void RegionTool::brush(QPointF from, QPointF to)
{
    const int rows = int(cells_.size()) / columns;
    const double step = 0.25 / columns, length = std::hypot(to.x() - from.x(), to.y() - from.y());
    for (double done = 0;; done += step) {
        const QPointF at = length > 0 ? from + (to - from) * std::min(1.0, done / length) : from;
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column) {
                const double dx = (column + 0.5) / columns - at.x(), dy = ((row + 0.5) / rows - at.y()) / ratio_;
                if (dx * dx + dy * dy <= brush_radius * brush_radius)
                    cells_[std::size_t(row) * columns + std::size_t(column)] = true;
            }
        if (done >= length)
            return;
    }
}

void RegionTool::press(QPointF at)
{
    if (use_ == Use::only_show)
        return;
    drawing_ = true;
    from_ = to_ = at;
    cells_.assign(std::size_t(columns) * std::size_t(std::max(1.0, std::round(columns / ratio_))), false);
    if (shape_ == Shape::brush)
        brush(at, at);
    Q_EMIT changed();
}

void RegionTool::drag(QPointF at)
{
    if (!drawing_)
        return;
    if (shape_ == Shape::brush)
        brush(to_, at);
    to_ = at;
    Q_EMIT changed();
}

void RegionTool::release(QPointF at)
{
    if (!drawing_)
        return;
    drag(at);
    drawing_ = false;
    constexpr double least = 0.01; // a click is no box
    if (shape_ == Shape::brush)
        Q_EMIT drawn(boxes_of(cells_, columns));
    else if (const cv::Rect2d b = box(); b.width >= least && b.height >= least)
        Q_EMIT drawn({b});
    Q_EMIT changed();
}

}
