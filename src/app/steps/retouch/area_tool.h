#pragma once
#include "app/picture/picture_tool.h"
#include "app/steps/retouch/areas_controller.h"

#include <vector>

class QPainterPath;

namespace frenlo::app {

/// Areas are drawn, taken in hand and moved on the picture of the film's plane.
class AreaTool : public PictureTool
{
    Q_OBJECT
public:
    enum class Hand
    {
        takes,    ///< what lies under it
        outlines, ///< draws round something
        brushes
    };

    explicit AreaTool(AreasController& controller);
    void set_hand(Hand hand, double brush);

    [[nodiscard]] cv::Size shape(const Shot& shot) const override;
    [[nodiscard]] std::optional<FrameRequest> picture(const Shot& shot, PhotoIndex photo, cv::Size size) const override;
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void press(QPointF at) override;
    void drag(QPointF at) override;
    void release(QPointF at) override;

Q_SIGNALS:
    void drawn(); ///< the hand takes again

private:
    [[nodiscard]] cv::Point2d on_plane(QPointF at) const;
    [[nodiscard]] QPainterPath outline_of(const Area& area, const QRectF& where) const;

    AreasController& controller_;
    Hand hand_ = Hand::takes;
    double brush_ = 0.03;
    bool drawing_ = false, moving_ = false;
    QPointF pressed_at_;
    std::vector<QPointF> way_;                ///< shares of the picture
    std::vector<cv::Point2d> pressed_points_; ///< of the area that is moved
};

}
