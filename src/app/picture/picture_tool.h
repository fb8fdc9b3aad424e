#pragma once
#include "core/picture/frame_request.h"

#include <QObject>
#include <QPointF>
#include <QRectF>

#include <optional>

class QPainter;
class QPalette;

namespace frenlo::app {

/// What is drawn or pointed at on the large picture. While it is there, the picture shows one photo whole, as shot;
/// places are in shares of its width and height, 0 to 1, also outside of it.
class PictureTool : public QObject
{
    Q_OBJECT
public:
    using QObject::QObject;
    /// The photo to show in place of the one under the player.
    [[nodiscard]] virtual std::optional<PhotoIndex> photo() const { return std::nullopt; }
    /// Where it shows something else than a photo as shot: its shape, and the picture of a photo at this size.
    [[nodiscard]] virtual cv::Size shape(const Shot&) const { return {}; }
    [[nodiscard]] virtual std::optional<FrameRequest> picture(const Shot&, PhotoIndex, cv::Size) const
    {
        return std::nullopt;
    }
    /// What to do, above the picture.
    [[nodiscard]] virtual QString caption() const = 0;
    /// where: of the photo in the widget.
    virtual void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const = 0;
    /// Of a pen on a tablet, 0 to 1, before what it presses or drags; a mouse says nothing.
    virtual void pressure(double) {}
    virtual void press(QPointF) {}
    virtual void drag(QPointF) {}
    virtual void release(QPointF) {}

Q_SIGNALS:
    void changed(); ///< it looks different, or wants another photo
    void repaint(); ///< only what it paints itself is another
};

}
