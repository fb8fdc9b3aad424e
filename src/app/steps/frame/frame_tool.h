#pragma once
#include "app/picture/picture_tool.h"
#include "app/steps/frame/frame_controller.h"

namespace frenlo::app {

/// The boxes of a shot on its undressed picture: what is kept of it, or its views with the way through them; moved and
/// sized by hand.
class FrameTool : public PictureTool
{
    Q_OBJECT
public:
    explicit FrameTool(Viewing& viewing, FrameController& frame_controller);

    [[nodiscard]] cv::Size shape(const Shot& shot) const override;
    [[nodiscard]] std::optional<FrameRequest> picture(const Shot& shot, PhotoIndex photo, cv::Size size) const override;
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void press(QPointF at) override;
    void drag(QPointF at) override;
    void release(QPointF at) override;
    /// Draws a line that is to be level or upright, once.
    void begin_level_line();

Q_SIGNALS:
    void levelled(double straighten);

private:
    struct Box
    {
        cv::Rect2d box;
        double turn = 0;
        PhotoIndex photo{-1}; ///< of a view; -1: what is kept
    };
    enum class Hold
    {
        none,
        all, ///< moves it
        corner
    };
    [[nodiscard]] std::vector<Box> boxes() const;
    [[nodiscard]] std::optional<std::size_t> in_hand(const std::vector<Box>& boxes) const;
    void set(const Box& box);
    /// In the box's own coordinates, its middle at 0, sides of 1: what was pressed.
    [[nodiscard]] QPointF in_box(const Box& box, QPointF at) const;

    Viewing& viewing_;
    FrameController& frame_controller_;
    Hold held_ = Hold::none;
    Box pressed_;
    QPointF from_;
    int corner_x_ = 0, corner_y_ = 0; ///< -1 or 1
    bool level_ = false, drawing_ = false;
    QPointF to_;
};

}
