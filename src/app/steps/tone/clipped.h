#pragma once
class QImage;
class QPainter;
class QRectF;

namespace frenlo::app {

struct Colours;

/// Marks what has no detail left: stripes over pixels of which a channel is white, dots over those of which one is
/// black.
void paint_clipped(QPainter& painter, const QRectF& where, const QImage& picture, const Colours& colours);

}
