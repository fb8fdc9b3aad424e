#pragma once
#include "app/picture/picture_tool.h"
#include "app/steps/retouch/retouch_controller.h"

#include <vector>

namespace frenlo::app {

/// A brush for what should not be there, and the spots that are, on the picture of the film's plane.
class RetouchTool : public PictureTool
{
    Q_OBJECT
public:
    RetouchTool(Viewing& viewing, RetouchController& controller);

    void set_brush(double radius, HealFrom from);
    void set_outlines_shown(bool shown);
    /// In place of the photo under the player, as it is; none: that one.
    void show_photo(std::optional<PhotoIndex> photo);

    [[nodiscard]] std::optional<PhotoIndex> photo() const override { return shown_; }
    [[nodiscard]] cv::Size shape(const Shot& shot) const override;
    [[nodiscard]] std::optional<FrameRequest> picture(const Shot& shot, PhotoIndex photo, cv::Size size) const override;
    [[nodiscard]] QString caption() const override;
    void paint(QPainter& painter, const QRectF& where, const QPalette& palette) const override;
    void press(QPointF at) override;
    void drag(QPointF at) override;
    void release(QPointF at) override;

private:
    /// Of shares of the picture to shares of the plane, or of the photo for a speck on the sensor, and back.
    [[nodiscard]] Transform to_plane() const;
    [[nodiscard]] Transform to_photo() const; ///< without what its lens did
    /// Between a spot's places, on the scene or on the photo as taken, and shares of what is shown.
    [[nodiscard]] cv::Point2d shown_at(cv::Point2d place, bool on_photo) const;
    [[nodiscard]] cv::Point2d place_at(QPointF shown, bool on_photo) const;
    [[nodiscard]] std::vector<QPointF> in_widget(const Spot& spot, const QRectF& where) const;
    [[nodiscard]] double radius_in_widget(double radius, bool on_photo, const QRectF& where) const;

    Viewing& viewing_;
    RetouchController& controller_;
    double radius_ = 0.01;
    HealFrom from_around_or_plate_ = HealFrom::around;
    bool outlines_ = true;
    std::optional<PhotoIndex> shown_;
    bool brushing_ = false, moving_ = false;
    QPointF pressed_at_;
    std::vector<cv::Point2d> pressed_points_; ///< of the spot that is moved
    std::vector<QPointF> stroke_;             ///< shares of the picture
};

}
