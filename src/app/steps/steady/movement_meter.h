#pragma once
#include "app/sheet/row_meter.h"

namespace frenlo::app {

/// How far each photo had moved, and what is left of it: bars from one base line, with their scale, and in pixels where
/// there is room.
class MovementMeter : public RowMeter
{
public:
    [[nodiscard]] bool has(const Shot& shot) const override;
    void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) override;
    void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const override;
    [[nodiscard]] int height() const override;
    void paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const override;

private:
    double most_moved_ = 0; ///< px, of the shot
};

}
