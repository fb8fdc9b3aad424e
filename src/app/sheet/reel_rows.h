#pragma once
#include "app/sheet/row_hands.h"
#include "app/sheet/row_meter.h"
#include "app/work/viewing.h"
#include "app/work/waveforms.h"

#include <QRectF>

namespace frenlo::app {

/// The Reel on the Sheet: the name of each film where it begins, joins where they lie, and below the photos what is
/// heard: waveform, beats, words and chapters.
class ReelRows : public RowMeter
{
public:
    ReelRows(const Session& session, const Viewing& viewing, Waveforms& waveforms)
        : session_(session), viewing_(viewing), waveforms_(waveforms)
    {
    }

    [[nodiscard]] bool has(const Shot&) const override { return viewing_.on_reel(); }
    void prepare(const Shot&, const Schedule&, std::int64_t) override {}
    void paint(QPainter&, const QWidget&, const MeterCell&) const override {}
    [[nodiscard]] int height() const override;
    [[nodiscard]] RowHands* hands() override { return hands_; }
    void set_hands(RowHands* hands) { hands_ = hands; }
    /// Where the name of a film stands in the row that it begins in.
    [[nodiscard]] static QRectF name_tag(const ReelPart& part, const MeterRow& row, const QWidget& on);
    /// The height within which a row's sounds are drawn.
    [[nodiscard]] static QRectF sound_band(const MeterRow& row);
    void paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const override;

private:
    void paint_films(QPainter& painter, const QWidget& on, const MeterRow& row) const;
    void paint_join(QPainter& painter, const QWidget& on, const MeterRow& row, const ReelPart& part) const;
    void paint_sound(QPainter& painter, const QWidget& on, const MeterRow& row) const;
    void paint_marks(QPainter& painter, const QWidget& on, const MeterRow& row) const;
    [[nodiscard]] double x_of(Seconds time, const MeterRow& row) const;

    const Session& session_;
    const Viewing& viewing_;
    Waveforms& waveforms_;
    RowHands* hands_ = nullptr;
};

}
