#pragma once
#include <QFont>
#include <QPointF>

class QColor;
class QPainter;
class QRect;
class QString;
class QWidget;

namespace frenlo::app {

/// Of what stands below the photos.
QFont small_font(const QWidget* widget, bool bold = false);

/// What a row's meter reaches to, in the margin left of it, with its unit: "25 px".
void paint_scale(QPainter& painter, const QWidget& on, const QRect& strip, const QString& reach);

/// A filled triangle: "look at this", by shape before colour.
void paint_triangle(QPainter& painter, QPointF top, double size, const QColor& colour);

}
