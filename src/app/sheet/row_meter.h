#pragma once
#include "core/project/project.h"
#include "core/time/frame_range.h"

#include <QRect>

#include <cstdint>
#include <functional>

class QPainter;
class QWidget;

namespace frenlo::app {

/// A photo in a row of the Sheet, where its hold begins.
struct MeterCell
{
    const Shot& shot;
    const FrameSpan& span;
    QRect tile;
    int row = 0;
    bool selected = false;
};

/// A row of the Sheet.
struct MeterRow
{
    int number = 0; ///< from 0
    FrameRange frames;
    Rate rate;
    QRect tiles; ///< where its photos are, to where a full row would end
    QRect strip; ///< below them, as wide
    double column_width = 1;

    /// Of a place in the film, in frames.
    [[nodiscard]] double x_of(double frame) const
    {
        return tiles.left() + (frame - double(frames.begin.value)) * column_width;
    }
};

class RowHands;

/// What a step draws below the photos of the Sheet's rows, in place of their frames.
class RowMeter
{
public:
    virtual ~RowMeter() = default;
    /// Whether there is anything to draw for the shot.
    [[nodiscard]] virtual bool has(const Shot& shot) const = 0;
    /// Once for all cells: another shot, or other rows.
    virtual void prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row) = 0;
    /// on: for its font and its colours.
    virtual void paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const = 0;
    /// More room below the photos than figures need, pixels.
    [[nodiscard]] virtual int height() const { return 0; }
    /// Over all of a row, behind its photos.
    virtual void paint_row(QPainter&, const QWidget&, const MeterRow&) const {}
    /// What of its rows can be carried; null: nothing.
    [[nodiscard]] virtual RowHands* hands() { return nullptr; }
    /// To be called when what it draws has changed though the shot has not; set by the Sheet.
    std::function<void()> repaint = [] {};
};

}
