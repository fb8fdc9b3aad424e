#include "app/sheet/paint_tools.h"

#include <QColor>
#include <QPainter>
#include <QPainterPath>
#include <QWidget>

namespace frenlo::app {

QFont small_font(const QWidget* widget, bool bold)
{
    QFont f = widget->font();
    f.setPixelSize(11);
    f.setWeight(bold ? QFont::DemiBold : QFont::Normal);
    return f;
}

void paint_triangle(QPainter& painter, QPointF top, double size, const QColor& colour)
{
    QPainterPath path;
    path.moveTo(top);
    path.lineTo(top + QPointF(size / 2, size * 0.9));
    path.lineTo(top + QPointF(-size / 2, size * 0.9));
    path.closeSubpath();
    painter.fillPath(path, colour);
}

}
