#pragma once
#include "app/picture/picture_tool.h"
#include "core/picture/region.h"

#include <vector>

namespace frenlo::app {

/// A part of the photo that is drawn over, in shares of it.
struct Hatched
{
    cv::Rect2d box;
    bool dense = false; ///< nothing could be followed there; else it moved by itself
};

/// Draws on the photo where to look, where not, or what to follow; shows both, and what was not trusted.
class RegionTool : public PictureTool
{
    Q_OBJECT
public:
    enum class Use
    {
        look_at,
        leave_out,
        target,
        only_show
    };
    enum class Shape
    {
        box,
        brush
    };

    RegionTool(Use use, Shape shape);

    /// photo: to show in place of the one under the player. size: of the photos, pixels.
    void show(const Region& region, const std::vector<Hatched>& hatched, std::optional<PhotoIndex> photo,
              cv::Size size);
    [[nodiscard]] std::optional<PhotoIndex> photo() const override { return photo_; }
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void press(QPointF at) override;
    void drag(QPointF at) override;
    void release(QPointF at) override;

Q_SIGNALS:
    /// Boxes in shares of the photo, 0 to 1.
    void drawn(const std::vector<cv::Rect2d>& boxes);

private:
    [[nodiscard]] cv::Rect2d box() const;
    void brush(QPointF from, QPointF to);

    Use use_;
    Shape shape_;
    Region region_;
    std::vector<Hatched> hatched_;
    std::optional<PhotoIndex> photo_;
    bool drawing_ = false;
    QPointF from_, to_;
    std::vector<bool> cells_; ///< that the brush has touched
    double ratio_ = 1.5;      ///< of the photo's width to its height
};

}
