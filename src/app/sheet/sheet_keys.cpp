// What keys do on the Sheet.
#include "app/sheet/sheet_view.h"

#include <QKeyEvent>

#include <algorithm>
#include <cstdlib>

namespace frenlo::app {

/// In Sort: the photo that a key goes to.
std::optional<PhotoIndex> SheetView::neighbour(int key) const
{
    const Shot* shot = viewing_.shot();
    const auto* grid = std::get_if<GridLayout>(&layout_);
    if (!grid || !shot || shot->photos.empty())
        return std::nullopt;
    const std::int64_t at = viewing_.selection().current().value;
    const std::int64_t last = std::int64_t(shot->photos.size()) - 1;
    const std::int64_t page = std::int64_t(std::max(1, viewport()->height() / grid->pitch())) * grid->columns();
    const auto to = [&](std::int64_t photo) { return PhotoIndex(std::clamp<std::int64_t>(photo, 0, last)); };
    const auto within = [&](std::int64_t photo) {
        return photo < 0 || photo > last ? PhotoIndex(at) : PhotoIndex(photo);
    };
    switch (key) {
    case Qt::Key_Left:
        return to(at - 1);
    case Qt::Key_Right:
        return to(at + 1);
    case Qt::Key_Up:
        return within(at - grid->columns());
    case Qt::Key_Down:
        return within(at + grid->columns());
    case Qt::Key_PageUp:
        return to(at - page);
    case Qt::Key_PageDown:
        return to(at + page);
    case Qt::Key_Home:
        return to(0);
    case Qt::Key_End:
        return to(last);
    default:
        return std::nullopt;
    }
}

/// In the rows: moves along the page as it plays, whatever the photos' order. Whether the key was one for this.
bool SheetView::move_along(const QKeyEvent& event)
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    if (!rows || rows->rows() == 0)
        return false;
    const FrameIndex before = viewing_.playhead();
    const std::int64_t row = rows->frames_per_row();
    const std::int64_t page = row * std::max(1, viewport()->height() / rows->pitch());
    const auto go = [&](std::int64_t by) {
        const FrameIndex to = before + by;
        if (std::abs(by) != row || (to.value >= 0 && to.value < viewing_.schedule().frames()))
            viewing_.set_playhead(to);
    };
    switch (event.key()) {
    case Qt::Key_Left:
        viewing_.step_photos(-1);
        break;
    case Qt::Key_Right:
        viewing_.step_photos(1);
        break;
    case Qt::Key_Up:
        go(-row);
        break;
    case Qt::Key_Down:
        go(row);
        break;
    case Qt::Key_PageUp:
        go(-page);
        break;
    case Qt::Key_PageDown:
        go(page);
        break;
    case Qt::Key_Home:
        viewing_.set_playhead(FrameIndex(0));
        break;
    case Qt::Key_End:
        viewing_.set_playhead(FrameIndex(viewing_.schedule().frames() - 1));
        break;
    default:
        return false;
    }
    choose(viewing_.shown_photo(), event.modifiers() & Qt::ShiftModifier, false);
    return true;
}

void SheetView::select_none()
{
    Selection s = viewing_.selection();
    s.clear();
    viewing_.set_selection(s);
}

void SheetView::keyPressEvent(QKeyEvent* event)
{
    if (event->matches(QKeySequence::SelectAll) && viewing_.shot()) {
        Selection s = viewing_.selection();
        s.choose_all(std::int64_t(viewing_.shot()->photos.size()));
        viewing_.set_selection(s);
        return;
    }
    const bool sideways = event->key() == Qt::Key_Left || event->key() == Qt::Key_Right;
    if (sideways && event->modifiers() & Qt::AltModifier) {
        const int by = event->key() == Qt::Key_Left ? -1 : 1;
        if (in_tiles()) {
            tile_actions_->nudge(by);
        } else {
            if (!event->isAutoRepeat()) // a key held down is one step
                ++gesture_;
            row_actions_->slide(event->modifiers() & Qt::ShiftModifier ? 10 * by : by, gesture_);
        }
        return;
    }
    if (move_along(*event))
        return;
    if (const auto photo = neighbour(event->key())) {
        choose(*photo, event->modifiers() & Qt::ShiftModifier);
        scroll_to(*photo);
        return;
    }
    QAbstractScrollArea::keyPressEvent(event);
}

}
