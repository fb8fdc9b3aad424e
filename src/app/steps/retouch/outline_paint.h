#pragma once
#include <QPainterPath>

#include <vector>

class QPainter;

namespace frenlo::app {

/// The outline of a brush of this radius that went along these points; pixels.
QPainterPath brushed(const std::vector<QPointF>& way, double radius);

/// White on black, so that it is seen on any photo. strong: in hand; on: else dotted.
void paint_outline(QPainter& painter, const QPainterPath& outline, bool strong, bool on);

}
