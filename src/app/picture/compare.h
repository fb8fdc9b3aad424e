#pragma once
class QImage;
class QPainter;
class QRectF;

namespace frenlo::app {

/// How the photo is compared with what the step in view says (picture_step.h).
enum class Compare
{
    off,
    blink,      ///< by turns
    split,      ///< the other on the left of a line that can be dragged
    through,    ///< both, half each
    difference, ///< grey where they agree, what differs several times as strong
};

/// Puts the other picture on the one that is shown already, both of one size. split: where the line is, 0 to 1.
void paint_compared(QPainter& painter, const QRectF& where, const QImage& shown, const QImage& other, Compare how,
                    double split);

}
