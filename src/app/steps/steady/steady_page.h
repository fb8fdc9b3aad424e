#pragma once
#include "app/picture/picture_step.h"
#include "app/steps/steady/movement_meter.h"
#include "app/steps/steady/steady_controller.h"
#include "app/steps/step_page.h"
#include "app/work/task.h"

namespace frenlo::app {

class SteadyBench;

/// Steady as the window sees it.
class SteadyPage : public StepPage, public PictureStep
{
    Q_OBJECT
public:
    explicit SteadyPage(const Services& services);

    [[nodiscard]] QWidget* bench() override;
    [[nodiscard]] RouteState route_state() const override;
    [[nodiscard]] RowMeter* row_meter() override { return &meter_; }
    [[nodiscard]] std::vector<StepKey> keys() override;
    [[nodiscard]] std::vector<KeyHelp> key_help() const override;
    bool end_what_goes_on() override;
    void suggest(const ShotPtr& shot, const std::function<void(const QString& question)>& question) override;
    void left() override { controller_.set_nudging(false); }

    [[nodiscard]] const PictureStep* picture_step() const override { return this; }
    [[nodiscard]] PhotoIndex compared_photo() const override;
    [[nodiscard]] QString compared_name() const override;
    [[nodiscard]] QString as_shot_text() const override;
    void paint_over_as_shot(QPainter& painter, const QRectF& where, const ShotPhoto& photo) const override;

private:
    /// An arrow key while a photo is moved by hand.
    StepKey nudge_key(const QKeySequence& keys, cv::Point2d by_px, double degrees);

    Task look_; ///< at what has come in
    PreviewStore& store_;
    Viewing& viewing_;
    PictureView& picture_;
    SteadyController controller_;
    MovementMeter meter_;
    SteadyBench* bench_;
};

}
