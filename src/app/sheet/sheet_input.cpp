// What mouse and keys do on the Sheet.
#include "app/sheet/sheet_view.h"

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QScrollBar>

#include <algorithm>
#include <cstdlib>

namespace frenlo::app {

void SheetView::choose(PhotoIndex photo, Qt::KeyboardModifiers modifiers)
{
    Selection s = viewing_.selection();
    if (modifiers & Qt::ShiftModifier)
        s.extend_to(photo);
    else if (modifiers & Qt::ControlModifier)
        s.toggle(photo);
    else
        s.choose(photo);
    viewing_.set_selection(s);
    viewing_.go_to_photo(photo);
    viewport()->update();
    Q_EMIT looked_elsewhere();
}

std::optional<SheetView::Bracket> SheetView::bracket_at(QPoint in_view) const
{
    const auto* grid = std::get_if<GridLayout>(&layout_);
    const Shot* shot = viewing_.shot();
    if (!grid || !shot)
        return std::nullopt;
    constexpr int reach = 6;
    const QPoint p = in_view + QPoint(0, verticalScrollBar()->value());
    for (std::size_t i = 0; i < shot->parts.size(); ++i) {
        const QRect first = grid->tile_rect(shot->parts[i].begin), last = grid->tile_rect(shot->parts[i].end - 1);
        const auto at = [&](const QRect& tile, int x) { return p.y() >= tile.top() && p.y() <= tile.bottom() && std::abs(p.x() - x) <= reach; };
        if (at(first, first.left() - 2))
            return Bracket{i, true};
        if (at(last, last.right() + 2))
            return Bracket{i, false};
    }
    return std::nullopt;
}

void SheetView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    pressed_at_ = event->pos();
    ++gesture_;
    if (const auto bracket = in_sort() ? bracket_at(event->pos()) : std::nullopt) {
        drag_ = bracket->first ? Drag::first : Drag::last;
        dragged_part_ = bracket->part;
        return;
    }
    const auto photo = photo_at(event->pos());
    if (!photo) {
        Selection none = viewing_.selection();
        none.clear();
        viewing_.set_selection(none);
        return;
    }
    const bool plain = !(event->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier));
    if (in_sort() && plain && viewing_.selection().contains(*photo)) {
        drag_ = Drag::maybe_move; // a click on one of several chosen photos chooses it when the button is let go
        return;
    }
    drag_ = Drag::sweep;
    choose(*photo, event->modifiers());
    if (!in_sort() && plain) {
        const auto frame =
            std::get<RowsLayout>(layout_).frame_at(event->pos() + QPoint(0, verticalScrollBar()->value()));
        if (frame)
            viewing_.set_playhead(*frame);
    }
}

void SheetView::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & Qt::LeftButton))
        return hover(event->pos());
    if (drag_ == Drag::maybe_move && (event->pos() - pressed_at_).manhattanLength() >= QApplication::startDragDistance())
        drag_ = Drag::move;
    switch (drag_) {
    case Drag::sweep:
        return sweep(event->pos());
    case Drag::move:
        return drag_photos(event->pos());
    case Drag::first:
    case Drag::last:
        return drag_bracket(event->pos());
    case Drag::none:
    case Drag::maybe_move:
        return;
    }
}

void SheetView::mouseReleaseEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    if (drag_ == Drag::maybe_move) {
        if (const auto photo = photo_at(event->pos()))
            choose(*photo, {});
    } else if (drag_ == Drag::move && drop_) {
        sorting_.move(*drop_);
    }
    drag_ = Drag::none;
    drop_.reset();
    viewport()->update();
    hover(event->pos());
}

/// A sweep over the tiles selects them, as a finger runs along a line of text.
void SheetView::sweep(QPoint in_view)
{
    const QPoint inside(std::clamp(in_view.x(), 0, viewport()->width() - 1), std::clamp(in_view.y(), 0, viewport()->height() - 1));
    const auto photo = photo_at(inside);
    if (photo && *photo != viewing_.selection().current()) {
        choose(*photo, Qt::ShiftModifier);
        scroll_to(*photo);
    }
}

void SheetView::drag_photos(QPoint in_view)
{
    drop_ = std::get<GridLayout>(layout_).gap_at(in_view + QPoint(0, verticalScrollBar()->value()));
    constexpr int edge = 24, step = 20; // carried to the edge, the page moves along
    if (in_view.y() < edge)
        verticalScrollBar()->setValue(verticalScrollBar()->value() - step);
    else if (in_view.y() > viewport()->height() - edge)
        verticalScrollBar()->setValue(verticalScrollBar()->value() + step);
    viewport()->update();
}

void SheetView::drag_bracket(QPoint in_view)
{
    const Shot* shot = viewing_.shot();
    if (!shot || dragged_part_ >= shot->parts.size())
        return;
    const Part& part = shot->parts[dragged_part_];
    const PhotoIndex gap = std::get<GridLayout>(layout_).gap_at(in_view + QPoint(0, verticalScrollBar()->value()));
    // A bracket stays between its neighbours.
    if (drag_ == Drag::first) {
        const PhotoIndex least = dragged_part_ > 0 ? shot->parts[dragged_part_ - 1].end : PhotoIndex(0);
        const PhotoIndex to = std::clamp(gap, least, part.end - 1);
        if (to != part.begin)
            sorting_.set_first(to, gesture_);
    } else {
        const PhotoIndex most = dragged_part_ + 1 < shot->parts.size() ? shot->parts[dragged_part_ + 1].begin
                                                                      : PhotoIndex(std::int64_t(shot->photos.size()));
        const PhotoIndex to = std::clamp(gap, part.begin + 1, most);
        if (to != part.end)
            sorting_.set_last(to - 1, gesture_);
    }
}

void SheetView::hover(QPoint in_view)
{
    const bool bracket = in_sort() && bracket_at(in_view);
    viewport()->setCursor(bracket ? Qt::SizeHorCursor : Qt::ArrowCursor);
}

std::optional<PhotoIndex> SheetView::neighbour(int key) const
{
    const Shot* shot = viewing_.shot();
    if (!shot || shot->photos.empty())
        return std::nullopt;
    const PhotoIndex at = viewing_.selection().current();
    const std::int64_t last = std::int64_t(shot->photos.size()) - 1;
    const QRect here = page_rect_of(at);
    const int page = std::max(1, viewport()->height() - 60);
    const auto beside = [&](int dy) -> std::optional<PhotoIndex> {
        if (here.isNull())
            return at;
        return photo_at(QPoint(here.left() + std::min(here.width() / 2, 8), here.center().y() + dy - verticalScrollBar()->value()));
    };
    const int pitch = std::visit([](const auto& l) { return l.pitch(); }, layout_);
    const auto along = [&](int by) { // in Pace, photos that are not in the film have no tile
        std::int64_t p = at.value;
        do
            p += by;
        while (p >= 0 && p <= last && page_rect_of(PhotoIndex(p)).isNull());
        return p < 0 || p > last ? at : PhotoIndex(p);
    };
    switch (key) {
    case Qt::Key_Left:
        return along(-1);
    case Qt::Key_Right:
        return along(1);
    case Qt::Key_Up:
        return beside(-pitch);
    case Qt::Key_Down:
        return beside(pitch);
    case Qt::Key_PageUp:
        return beside(-std::max(pitch, page / pitch * pitch)).value_or(PhotoIndex(0));
    case Qt::Key_PageDown:
        return beside(std::max(pitch, page / pitch * pitch)).value_or(PhotoIndex(last));
    case Qt::Key_Home:
        return PhotoIndex(0);
    case Qt::Key_End:
        return PhotoIndex(last);
    default:
        return std::nullopt;
    }
}

void SheetView::keyPressEvent(QKeyEvent* event)
{
    if (event->matches(QKeySequence::SelectAll) && viewing_.shot()) {
        Selection s = viewing_.selection();
        s.choose_all(std::int64_t(viewing_.shot()->photos.size()));
        viewing_.set_selection(s);
        return;
    }
    if (event->key() == Qt::Key_Escape) {
        Selection s = viewing_.selection();
        s.clear();
        viewing_.set_selection(s);
        return;
    }
    const bool sideways = event->key() == Qt::Key_Left || event->key() == Qt::Key_Right;
    if (in_sort() && sideways && event->modifiers() & Qt::AltModifier) {
        sorting_.nudge(event->key() == Qt::Key_Left ? -1 : 1);
        return;
    }
    if (const auto photo = neighbour(event->key())) {
        choose(*photo, event->modifiers() & Qt::ShiftModifier);
        scroll_to(*photo);
        return;
    }
    QAbstractScrollArea::keyPressEvent(event);
}

}
