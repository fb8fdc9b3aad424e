#include "app/steps/retouch/outline_paint.h"

#include <QPainter>

namespace frenlo::app {

QPainterPath brushed(const std::vector<QPointF>& way, double radius)
{
    if (way.size() == 1) {
        QPainterPath dot;
        dot.addEllipse(way.front(), radius, radius);
        return dot;
    }
    QPainterPath line(way.front());
    for (std::size_t i = 1; i < way.size(); ++i)
        line.lineTo(way[i]);
    QPainterPathStroker stroker;
    stroker.setWidth(2 * radius);
    stroker.setCapStyle(Qt::RoundCap);
    stroker.setJoinStyle(Qt::RoundJoin);
    return stroker.createStroke(line).simplified();
}

void paint_outline(QPainter& painter, const QPainterPath& outline, bool strong, bool on)
{
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(0, 0, 0, strong ? 220 : 130), strong ? 3.5 : 2.4));
    painter.drawPath(outline);
    painter.setPen(QPen(Qt::white, strong ? 1.8 : 1.1, on ? Qt::SolidLine : Qt::DotLine));
    painter.drawPath(outline);
}

}
