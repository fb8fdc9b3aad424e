#pragma once
#include <QFont>
#include <QPointF>

class QColor;
class QPainter;
class QWidget;

namespace frenlo::app {

/// Of what stands below the photos.
QFont small_font(const QWidget* widget, bool bold = false);

/// A filled triangle: "look at this", by shape before colour.
void paint_triangle(QPainter& painter, QPointF top, double size, const QColor& colour);

}
