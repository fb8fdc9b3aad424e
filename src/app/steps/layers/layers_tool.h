#pragma once
#include "app/picture/picture_tool.h"
#include "app/steps/layers/layers_controller.h"

#include <QPolygonF>

#include <vector>

class QPainterPath;

namespace frenlo::app {

/// What a hand does on the picture in Layers.
enum class LayerHand
{
    place, ///< moves, sizes and turns the layer
    free,  ///< draws
    straight,
    filled,
    erase,
    pick, ///< takes the colour that is to be taken out
};

/// The layer in hand on the frame of the film: its outline with handles and its way, or a pen on its drawing.
class LayersTool : public PictureTool
{
    Q_OBJECT
public:
    LayersTool(Viewing& viewing, LayersController& controller);

    void set_hand(LayerHand hand);
    [[nodiscard]] LayerHand hand() const { return hand_; }
    void set_pen(const Backdrop& colour, double width);
    /// Strokes of the drawings before and after show through.
    void set_onion(bool on);
    /// By so many pixels of the film.
    void nudge(int x, int y);

    [[nodiscard]] cv::Size shape(const Shot& shot) const override;
    [[nodiscard]] std::optional<FrameRequest> picture(const Shot& shot, PhotoIndex photo, cv::Size size) const override;
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void pressure(double pressure) override { pressure_ = pressure; }
    void press(QPointF at) override;
    void drag(QPointF at) override;
    void release(QPointF at) override;

Q_SIGNALS:
    void picked(QPointF at); ///< a place of the frame, shares
    void key_pressed(FrameIndex frame);

private:
    enum class Hold
    {
        none,
        all,
        corner,
        turn,
        key ///< one of the path's
    };
    [[nodiscard]] bool draws() const { return hand_ != LayerHand::place && hand_ != LayerHand::pick; }
    /// Of pixels of what the layer's places count in to pixels of the film's frame.
    [[nodiscard]] Transform into_film(const Layer& layer) const;
    /// Pixels of the film; empty where it is not to be seen.
    [[nodiscard]] std::vector<cv::Point2d> corners(const Layer& layer, const LayerKey& key) const;
    [[nodiscard]] bool holds(const Layer& layer, cv::Point2d at) const;
    [[nodiscard]] cv::Point2d in_film(QPointF share) const;
    /// Where this lies in what the layer's places count in, pixels.
    [[nodiscard]] cv::Point2d in_layer_frame(const Layer& layer, QPointF share) const;
    void paint_place(QPainter& painter, const QRectF& where, const QPalette& palette) const;
    void paint_drawing(QPainter& painter, const QRectF& where) const;
    void paint_strokes(QPainter& painter, const QRectF& where, const Layer& layer, const std::vector<Stroke>& strokes,
                       double opacity) const;
    void add_point(QPointF at);

    Viewing& viewing_;
    LayersController& controller_;
    LayerHand hand_ = LayerHand::place;
    Backdrop colour_{34, 38, 42};
    double width_ = 0.01;
    bool onion_ = true;
    double pressure_ = 1;
    Hold held_ = Hold::none;
    QPointF from_;
    LayerKey pressed_;
    Seconds pressed_key_{};
    Stroke stroke_; ///< under the pen
};

}
