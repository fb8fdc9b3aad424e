#pragma once
#include "app/sheet/row_meter.h"
#include "app/steps/flicker/light_rows.h"

#include <vector>

namespace frenlo::app {

/// Brightness below the photos, scaled so that the row's own range is seen: a thin line as shot, a thick one as it is
/// now.
class LightMeter : public RowMeter
{
public:
    [[nodiscard]] bool has(const Shot& shot) const override;
    void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) override;
    void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const override;
    void paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const override;

private:
    std::vector<LightRange> rows_;
};

}
