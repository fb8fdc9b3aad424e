// How large things are on the Sheet: as the shot fits the page, or as was chosen for it.
#include "app/sheet/fit.h"
#include "app/sheet/sheet_view.h"

#include <QScrollBar>
#include <QWheelEvent>

#include <algorithm>

namespace frenlo::app {

void SheetView::set_zoom_store(ZoomStore store)
{
    zoom_store_ = std::move(store);
}

std::optional<int> SheetView::zoom_now() const
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return std::nullopt;
    const auto key = std::pair(shot->id, wants_tiles());
    auto known = zooms_.find(key);
    if (known == zooms_.end()) {
        bool number = false;
        const int kept = zoom_store_.load ? zoom_store_.load(shot->id, wants_tiles()).toInt(&number) : 0;
        known = zooms_.emplace(key, number && kept > 0 ? std::optional(kept) : std::nullopt).first;
    }
    return known->second;
}

void SheetView::set_zoom(std::optional<int> zoom)
{
    const Shot* shot = viewing_.shot();
    if (!shot || zoom_now() == zoom)
        return;
    zooms_[std::pair(shot->id, wants_tiles())] = zoom;
    if (zoom_store_.save)
        zoom_store_.save(shot->id, wants_tiles(), zoom ? QString::number(*zoom) : QString());
    relayout();
    Q_EMIT zoomed();
}

void SheetView::set_row_length(std::optional<RowLength> length)
{
    if (!wants_tiles())
        set_zoom(length ? std::optional(int(*length)) : std::nullopt);
}

void SheetView::set_tile_width(std::optional<int> width)
{
    if (wants_tiles())
        set_zoom(width);
}

int SheetView::more_below() const
{
    return meter_ && viewing_.shot() && !wants_tiles() && meter_->has(*viewing_.shot()) ? meter_->height() : 0;
}

namespace {
constexpr int reel_tile_height = 56;
}

/// What was chosen, or what fits a page of this size.
void SheetView::choose_look(QSize page, double shape)
{
    const auto zoom = zoom_now();
    const Shot* shot = viewing_.shot();
    if (wants_tiles()) {
        tile_width_ = zoom ? *zoom : fitting_tile_width(shot ? std::int64_t(shot->photos.size()) : 0, page, shape);
        return;
    }
    if (zoom) {
        const auto known =
            std::find_if(row_lengths.begin(), row_lengths.end(), [&](RowLength l) { return int(l) == *zoom; });
        row_look_ = {known == row_lengths.end() ? RowLength::one : *known, 0, more_below()};
    } else if (drag_ != Drag::hold) { // the page keeps its shape under what is being pulled
        row_look_ = fitting_rows(viewing_.schedule(), page, shape, more_below());
        const int high =
            int(viewing_.schedule().frames()) / frames_per_row(viewing_.schedule().rate(), row_look_.length);
        if (viewing_.on_reel() && high * row_look_.tile_height > page.height()) // one is a film, not its photos
            row_look_ = {RowLength::one, reel_tile_height, more_below()};
    }
}

void SheetView::zoom(int steps, QPoint around)
{
    if (steps == 0 || !viewing_.shot())
        return;
    if (wants_tiles()) {
        const auto photo = photo_at(around);
        const int before = photo ? tile_in_view(*photo).center().y() : 0;
        set_zoom(std::clamp(int(tile_width_ * (steps > 0 ? 1.25 : 0.8)), 64, 640));
        if (photo)
            verticalScrollBar()->setValue(verticalScrollBar()->value() + tile_in_view(*photo).center().y() - before);
        return;
    }
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    const auto frame = rows->frame_at(on_page(around));
    const int before = frame ? frame_in_view(*frame).center().y() : 0;
    const auto now = std::find(row_lengths.begin(), row_lengths.end(), row_look_.length) - row_lengths.begin();
    const auto then = std::clamp<std::ptrdiff_t>(now - steps, 0, std::ptrdiff_t(row_lengths.size()) - 1);
    set_zoom(int(row_lengths[std::size_t(then)]));
    if (frame)
        verticalScrollBar()->setValue(verticalScrollBar()->value() + frame_in_view(*frame).center().y() - before);
}

void SheetView::wheelEvent(QWheelEvent* event)
{
    if (!(event->modifiers() & Qt::ControlModifier)) {
        QAbstractScrollArea::wheelEvent(event);
        return;
    }
    wheeled_ += event->angleDelta().y();
    constexpr int notch = 120;
    if (const int steps = wheeled_ / notch; steps != 0) {
        wheeled_ -= steps * notch;
        zoom(steps > 0 ? 1 : -1, event->position().toPoint());
    }
    event->accept();
}

FrameRange SheetView::frames_in_view() const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    if (!rows || rows->rows() == 0)
        return {};
    const int top = verticalScrollBar()->value(), bottom = top + viewport()->height();
    const std::int64_t first = rows->row_at(top + rows->tile_height() / 2),
                       last = std::min(rows->row_at(bottom - rows->tile_height() / 2), rows->rows() - 1);
    return {FrameIndex(first * rows->frames_per_row()),
            std::min(FrameIndex((last + 1) * rows->frames_per_row()), FrameIndex(viewing_.schedule().frames()))};
}

std::pair<PhotoIndex, PhotoIndex> SheetView::photos_in_view() const
{
    const auto* grid = std::get_if<GridLayout>(&layout_);
    if (!grid)
        return {};
    const int top = verticalScrollBar()->value(), half = grid->tile().height() / 2;
    const auto [first, end] = grid->photos_between(top + half, top + viewport()->height() - half);
    return {first, std::max(first, end - 1)};
}

}
