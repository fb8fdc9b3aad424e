#pragma once
#include "app/work/viewing.h"
#include "core/picture/picture.h"

#include <QString>

#include <optional>

class QImage;
class QPainter;
class QRectF;

namespace frenlo::app {

/// What a step brings to the large picture: what a photo is compared with, and what lies over it as shot.
class PictureStep
{
public:
    virtual ~PictureStep() = default;

    /// The photo that the one under the player is compared with; -1 where there is none.
    [[nodiscard]] virtual PhotoIndex compared_photo() const { return PhotoIndex(-1); }
    /// What is compared with, where it is no other photo: at this size; nothing where there is nothing.
    [[nodiscard]] virtual std::optional<FrameRequest> compared_picture(cv::Size) const { return std::nullopt; }
    /// What it is compared with: "the reference photo".
    [[nodiscard]] virtual QString compared_name() const { return {}; }
    /// A photo of the film to be seen beside the one that is shown; none: that one alone.
    [[nodiscard]] virtual std::optional<PhotoIndex> beside() const { return std::nullopt; }
    /// What is said below each of the two.
    [[nodiscard]] virtual QString beside_text(PhotoIndex) const { return {}; }
    /// Over the picture as it is in the film.
    virtual void paint_over(QPainter&, const QRectF&, const QImage&) const {}
    /// What is said above a photo that is shown as shot; empty: just that.
    [[nodiscard]] virtual QString as_shot_text() const { return {}; }
    /// Over a photo that is shown as shot, which lies there.
    virtual void paint_over_as_shot(QPainter&, const QRectF&, const ShotPhoto&) const {}
};

}
