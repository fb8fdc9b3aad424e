// What the mouse does on the Sheet; keys: sheet_keys.cpp.
#include "app/sheet/sheet_view.h"

#include <QApplication>
#include <QMouseEvent>
#include <QScrollBar>

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <utility>

namespace frenlo::app {

QPoint SheetView::on_page(QPoint in_view) const
{
    return in_view + QPoint(0, verticalScrollBar()->value());
}

void SheetView::choose(PhotoIndex photo, Qt::KeyboardModifiers modifiers, bool go)
{
    Selection s = viewing_.selection();
    if (modifiers & Qt::ShiftModifier)
        s.extend_to(photo);
    else if (modifiers & Qt::ControlModifier)
        s.toggle(photo);
    else
        s.choose(photo);
    viewing_.set_selection(s);
    if (go)
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
        const auto at = [&](const QRect& tile, int x) {
            return p.y() >= tile.top() && p.y() <= tile.bottom() && std::abs(p.x() - x) <= reach;
        };
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
    pressed_scroll_ = verticalScrollBar()->value();
    ++gesture_;
    if (const auto bracket = in_tiles() ? bracket_at(event->pos()) : std::nullopt) {
        drag_ = bracket->first ? Drag::first : Drag::last;
        dragged_part_ = bracket->part;
        return;
    }
    if (held_ = hand_at(event->pos()); held_) {
        drag_ = Drag::hand;
        held_from_ = film_place(on_page(event->pos()));
        if (held_->cursor == Qt::OpenHandCursor)
            viewport()->setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (drag_ = handle_at(event->pos()); drag_ != Drag::none) {
        if (drag_ == Drag::hold)
            start_pulling_hold(*hold_end_at(on_page(event->pos())));
        else if (drag_ == Drag::scrub)
            scrub(event->pos());
        return;
    }
    const auto photo = photo_at(event->pos());
    if (!photo) {
        select_none();
        return;
    }
    const bool plain = !(event->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier));
    if (in_tiles() && plain && viewing_.selection().contains(*photo)) {
        drag_ = Drag::maybe_move; // a click on one of several chosen photos chooses it when the button is let go
        return;
    }
    drag_ = Drag::sweep;
    choose(*photo, event->modifiers(), in_tiles());
    if (!in_tiles())
        if (const auto frame = std::get<RowsLayout>(layout_).frame_at(on_page(event->pos())))
            viewing_.set_playhead(*frame);
}

void SheetView::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & Qt::LeftButton))
        return hover(event->pos());
    if (drag_ == Drag::maybe_move &&
        (event->pos() - pressed_at_).manhattanLength() >= QApplication::startDragDistance())
        drag_ = Drag::move;
    switch (drag_) {
    case Drag::sweep:
        return sweep(event->pos());
    case Drag::move:
        return drag_photos(event->pos());
    case Drag::first:
    case Drag::last:
        return drag_bracket(event->pos());
    case Drag::hold:
        return drag_hold(event->pos());
    case Drag::range_first:
    case Drag::range_last:
        return drag_range(event->pos());
    case Drag::scrub:
        return scrub(event->pos());
    case Drag::hand:
        if (meter_ && meter_->hands() && held_ &&
            (event->pos() - pressed_at_).manhattanLength() >= QApplication::startDragDistance() / 2) {
            constexpr double near = 6; // pixels
            meter_->hands()->carry(*held_, held_from_, film_place(on_page(event->pos())),
                                   near / std::get<RowsLayout>(layout_).column_width(), gesture_);
        }
        return;
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
        tile_actions_->move(*drop_);
    }
    if (drag_ == Drag::hand && held_ && meter_ && meter_->hands())
        meter_->hands()->let_go(*held_);
    held_.reset();
    const bool pulled = std::exchange(drag_, Drag::none) == Drag::hold;
    drop_.reset();
    if (pulled)
        relayout(); // it fits again
    viewport()->update();
    hover(event->pos());
}

/// A sweep over the tiles selects them, as a finger runs along a line of text.
void SheetView::sweep(QPoint in_view)
{
    const QPoint inside(std::clamp(in_view.x(), 0, viewport()->width() - 1),
                        std::clamp(in_view.y(), 0, viewport()->height() - 1));
    const auto photo = photo_at(inside);
    if (!photo || *photo == viewing_.selection().current())
        return;
    choose(*photo, Qt::ShiftModifier, in_tiles());
    if (in_tiles())
        scroll_to(*photo);
    else if (const auto frame = std::get<RowsLayout>(layout_).frame_at(on_page(inside)))
        viewing_.set_playhead(*frame); // the page follows it
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
            tile_actions_->set_first(to, gesture_);
    } else {
        const PhotoIndex most = dragged_part_ + 1 < shot->parts.size() ? shot->parts[dragged_part_ + 1].begin
                                                                       : PhotoIndex(std::int64_t(shot->photos.size()));
        const PhotoIndex to = std::clamp(gap, part.begin + 1, most);
        if (to != part.end)
            tile_actions_->set_last(to - 1, gesture_);
    }
}

void SheetView::hover(QPoint in_view)
{
    if (const auto held = hand_at(in_view)) {
        viewport()->setCursor(held->cursor);
        return;
    }
    const Drag handle = handle_at(in_view);
    const bool sideways = (in_tiles() && bracket_at(in_view)) || (handle != Drag::none && handle != Drag::scrub);
    viewport()->setCursor(sideways                ? Qt::SizeHorCursor
                          : handle == Drag::scrub ? Qt::PointingHandCursor
                                                  : Qt::ArrowCursor);
}

MeterRow SheetView::meter_row(const RowsLayout& layout, int row) const
{
    const std::int64_t first = std::int64_t(row) * layout.frames_per_row();
    return {row,
            {FrameIndex(first), FrameIndex(first + layout.frames_per_row())},
            viewing_.schedule().rate(),
            layout.tiles_rect(row),
            layout.strip_rect(row),
            layout.column_width()};
}

double SheetView::film_place(QPoint page) const
{
    const auto& rows = std::get<RowsLayout>(layout_);
    const int row = std::clamp(rows.row_at(page.y()), 0, std::max(0, rows.rows() - 1));
    const double along =
        std::clamp(double(page.x() - RowsLayout::left) / rows.column_width(), 0.0, double(rows.frames_per_row()));
    return std::min(double(row) * rows.frames_per_row() + along, double(viewing_.schedule().frames()));
}

std::optional<RowHands::Held> SheetView::hand_at(QPoint in_view) const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    const Shot* shot = viewing_.shot();
    if (!rows || rows->rows() == 0 || !shot || !meter_ || !meter_->hands() || !meter_->has(*shot))
        return std::nullopt;
    const QPoint p = on_page(in_view);
    const int row = rows->row_at(p.y());
    return row >= 0 && row < rows->rows() ? meter_->hands()->at(p, meter_row(*rows, row), *this) : std::nullopt;
}

SheetView::Drag SheetView::handle_at(QPoint in_view) const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    if (!rows || rows->rows() == 0)
        return Drag::none;
    const QPoint p = on_page(in_view);
    // The tab of the frame under the player, then the brackets by their upper ends, then the ends of holds.
    const QRect frame = rows->frame_rect(viewing_.playhead());
    if (QRect(frame.center().x() - 8, frame.top() - 11, 17, 11).contains(p))
        return Drag::scrub;
    if (viewing_.on_reel()) // its photos are held as their shots say
        return rows->in_strip(p) && rows->frame_at(p) ? Drag::scrub : Drag::none;
    for (const bool first : {true, false}) {
        const QLine edge =
            rows->boundary_line(first ? viewing_.timeline().kept_begin : viewing_.timeline().kept_end, !first);
        if (std::abs(p.x() - edge.x1()) <= 8 && p.y() >= edge.y1() - 6 && p.y() <= edge.y1() + 10)
            return first ? Drag::range_first : Drag::range_last;
    }
    if (rows->in_strip(p))
        return rows->frame_at(p) ? Drag::scrub : Drag::none;
    return hold_end_at(p) ? Drag::hold : Drag::none;
}

std::optional<std::size_t> SheetView::hold_end_at(QPoint page) const
{
    const auto& rows = std::get<RowsLayout>(layout_);
    if (page.y() < RowsLayout::top_gap || rows.in_strip(page))
        return std::nullopt;
    constexpr int inside = 6, outside = 2;
    const int row = rows.row_at(page.y());
    for (const Cell& c : cells_in_row(viewing_.schedule(), row, rows.frames_per_row())) {
        const QRect r = rows.cell_rect(row, c);
        const int reach = std::min(inside, r.width() / 3); // a narrow tile can still be clicked
        if (!c.goes_on && page.x() > r.right() - reach && page.x() <= r.right() + outside)
            return c.span;
    }
    return std::nullopt;
}

void SheetView::start_pulling_hold(std::size_t span)
{
    const DisplayTimeline& page = viewing_.timeline();
    const FrameSpan& s = page.schedule.spans()[span];
    const Pacing& pacing = viewing_.shot()->pacing;
    pulls_first_ = pacing.first_hold && s.begin == page.kept_begin;
    pulls_last_ = pacing.last_hold && s.end == page.kept_end;
    pulled_from_ = s.frames();
    pulled_ = viewing_.selection().contains(s.photo) ? viewing_.selection().photos() : std::vector{s.photo};
    if (pulled_.size() == 1)
        choose(s.photo, {}, false);
    viewing_.set_playhead(s.begin);
}

/// The end of a hold follows the mouse from frame to frame; what comes after closes up.
void SheetView::drag_hold(QPoint in_view)
{
    const double by =
        std::get<RowsLayout>(layout_).columns_between(pressed_at_ + QPoint(0, pressed_scroll_), on_page(in_view));
    const std::int64_t frames = std::max<std::int64_t>(1, pulled_from_ + std::lround(by));
    const Hold alone = length_of(frames, viewing_.schedule().rate());
    if (pulls_last_)
        row_actions_->set_last_hold(alone, gesture_);
    else if (pulls_first_)
        row_actions_->set_first_hold(alone, gesture_);
    else
        row_actions_->pull_hold(pulled_, frames, gesture_);
}

void SheetView::drag_range(QPoint in_view)
{
    const Schedule& schedule = viewing_.schedule();
    const FrameIndex boundary = std::get<RowsLayout>(layout_).boundary_at(on_page(in_view));
    const std::int64_t last = schedule.frames() - 1;
    // The middle of a photo decides on which side of it the bracket stands.
    const FrameIndex touched(
        std::clamp<std::int64_t>(drag_ == Drag::range_first ? boundary.value : boundary.value - 1, 0, last));
    const FrameSpan& span = schedule.spans()[schedule.span_at(touched)];
    if (drag_ == Drag::range_first)
        row_actions_->keep_from(span.photo, gesture_);
    else
        row_actions_->keep_to(span.photo, gesture_);
}

void SheetView::scrub(QPoint in_view)
{
    const auto& rows = std::get<RowsLayout>(layout_);
    const QPoint p = on_page(in_view);
    const std::int64_t column = std::clamp<std::int64_t>(
        std::int64_t(std::floor(double(p.x() - RowsLayout::left) / rows.column_width())), 0, rows.frames_per_row() - 1);
    const std::int64_t row = std::clamp(rows.row_at(p.y()), 0, std::max(0, rows.rows() - 1));
    viewing_.set_playhead(FrameIndex(row * rows.frames_per_row() + column));
}

}
