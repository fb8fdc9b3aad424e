#pragma once
#include "app/picture/picture_tool.h"
#include "core/base/transform.h"

#include <vector>

namespace frenlo::app {

/// Points set by hand, by turns on another photo and on the one that is to be aligned.
class PointsTool : public PictureTool
{
    Q_OBJECT
public:
    /// Sizes as seen, pixels.
    PointsTool(PhotoIndex photo, cv::Size size, PhotoIndex other, cv::Size other_size);

    [[nodiscard]] std::optional<PhotoIndex> photo() const override { return on_other() ? other_ : photo_; }
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void release(QPointF at) override;

    /// Whole pairs: of a point of the other photo and of this one, pixels.
    [[nodiscard]] std::vector<PointPair> pairs() const;

private:
    [[nodiscard]] bool on_other() const { return on_other_.size() == on_photo_.size(); }

    PhotoIndex photo_, other_;
    cv::Size size_, other_size_;
    std::vector<QPointF> on_other_, on_photo_; ///< in shares
};

}
