#pragma once
#include "app/sheet/row_meter.h"

#include <Qt>

#include <cstdint>
#include <optional>

class QPointF;
class QWidget;

namespace frenlo::app {

/// What of a row can be taken by the mouse and carried along the film, where the Sheet has nothing of its own to take.
class RowHands
{
public:
    /// Something that was taken.
    struct Held
    {
        int kind = 0;         ///< as who carries it knows it
        std::uint64_t of = 0; ///< which one
        Qt::CursorShape cursor = Qt::SizeHorCursor;
    };

    virtual ~RowHands() = default;
    /// What lies under this place of the page, in this row; nothing where nothing can be taken. on: for its font.
    [[nodiscard]] virtual std::optional<Held> at(QPointF place, const MeterRow& row, const QWidget& on) const = 0;
    /// It was taken at one place of the film and is at another now, frames. reach: how near something must lie to be
    /// snapped to, frames. gesture: see History::push.
    virtual void carry(const Held& held, double from, double to, double reach, std::uint64_t gesture) = 0;
    virtual void let_go(const Held& held) = 0;
    /// The boundary between frames at which what is carried would fall; nothing where it falls nowhere else.
    [[nodiscard]] virtual std::optional<std::int64_t> drop() const { return std::nullopt; }
};

}
