#pragma once
#include "app/sheet/row_meter.h"
#include "core/steps/tone/tone_values.h"

#include <QString>

#include <vector>

namespace frenlo::app {

/// A value that changes over a shot, and between what.
struct ToneCourse
{
    ToneValue value;
    double least, most;
};
std::vector<ToneCourse> courses_of(const std::vector<Tone>& tones);
/// How the lines of a shot's values are drawn: "—— Exposure, – – Contrast"; empty where none changes.
QString legend_of(const Shot& shot);

/// Below the Sheet's rows: the course of each value of tone that changes over the shot, and the anchor photos.
class ToneMeter : public RowMeter
{
public:
    [[nodiscard]] bool has(const Shot& shot) const override;
    void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) override;
    void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const override;

private:
    std::vector<Tone> tones_;
    std::vector<ToneCourse> courses_;
};

}
