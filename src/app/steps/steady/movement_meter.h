#pragma once
#include "app/sheet/row_meter.h"

namespace frenlo::app {

/// How far each photo had moved, and what is left of it: drawn, and in pixels.
class MovementMeter : public RowMeter
{
public:
    [[nodiscard]] bool has(const Shot& shot) const override;
    void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) override;
    void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const override;

private:
    double most_moved_ = 0; ///< px, of the shot
};

}
