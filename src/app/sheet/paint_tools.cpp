#include "app/sheet/paint_tools.h"

#include "app/theme/colours.h"

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

void paint_scale(QPainter& painter, const QWidget& on, const QRect& strip, const QString& reach)
{
    constexpr int air = 8, two_lines = 30;
    painter.setFont(small_font(&on));
    painter.setPen(Colours::of(on.palette()).second_ink);
    painter.drawText(QRect(0, strip.top() + air, strip.left() - air, two_lines),
                     Qt::AlignRight | Qt::AlignTop | Qt::TextWordWrap, reach);
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
