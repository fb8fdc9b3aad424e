#pragma once
#include "app/sheet/row_meter.h"
#include "app/steps/flicker/light_rows.h"

#include <vector>

namespace frenlo::app {

/// Brightness below the photos: a thin line as shot, a thick one as it is now. One scale for all rows, so that they can
/// be compared, or each row its own, so that flicker is seen in a shot that goes from day to night.
class LightMeter : public RowMeter
{
public:
    [[nodiscard]] bool has(const Shot& shot) const override;
    void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) override;
    void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const override;
    void paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const override;

    void set_each_its_own(bool own)
    {
        own_ = own;
        repaint();
    }

private:
    [[nodiscard]] const LightRange& range_of(std::size_t row) const { return own_ ? rows_[row] : all_; }

    bool own_ = false;
    LightRange all_;
    std::vector<LightRange> rows_;
};

}
