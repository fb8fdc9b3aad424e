#include "app/sheet/sheet_view.h"

#include "app/sheet/sheet_accessible.h"
#include "app/theme/colours.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPointer>
#include <QScrollBar>

#include <algorithm>
#include <set>

namespace frenlo::app {

namespace {

double shape_of(const Shot* shot)
{
    const cv::Size s = shot ? undressed_size(*shot) : cv::Size(); // tiles are photos, not frames
    return s.empty() ? 1.5 : double(s.width) / s.height;
}

}

SheetView::SheetView(Viewing& viewing, PhotoLoader& loader, MovingParts& moving, QWidget* parent)
    : QAbstractScrollArea(parent), viewing_(viewing), loader_(loader), moving_(moving),
      layout_(GridLayout(0, 100, 100, 1.5))
{
    install_sheet_accessibility();
    setFrameShape(QFrame::NoFrame);
    setFocusPolicy(Qt::StrongFocus);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
    setAccessibleName(tr("Sheet"));
    setAccessibleDescription(tr("The photos of the shot. Arrow keys move, Shift extends, Ctrl+A selects all."));
    viewport()->setBackgroundRole(QPalette::Base);
    viewport()->setMouseTracking(true);
    connect(&viewing, &Viewing::shot_changed, this, &SheetView::relayout);
    connect(&viewing, &Viewing::step_changed, this, &SheetView::relayout);
    connect(&viewing, &Viewing::selection_changed, viewport(), qOverload<>(&QWidget::update));
    connect(&viewing, &Viewing::selection_changed, this, &SheetView::tell_current_photo);
    connect(&viewing, &Viewing::playhead_changed, this, &SheetView::follow_playhead);
    connect(&moving, &MovingParts::changed, viewport(), qOverload<>(&QWidget::update));
    connect(&loader, &PhotoLoader::arrived, viewport(), qOverload<>(&QWidget::update));
    relayout();
}

void SheetView::set_actions(TileActions& tiles, RowActions& rows)
{
    tile_actions_ = &tiles;
    row_actions_ = &rows;
}

void SheetView::set_meter(RowMeter* meter)
{
    const int before = more_below();
    meter_ = meter;
    if (meter_)
        meter_->repaint = [sheet = QPointer<SheetView>(this)] {
            if (sheet)
                sheet->viewport()->update();
        };
    if (more_below() != before)
        return relayout();
    prepare_meter();
    viewport()->update();
}

void SheetView::prepare_meter()
{
    const Shot* shot = viewing_.shot();
    if (meter_ && shot && !wants_tiles() && meter_->has(*shot))
        meter_->prepare(*shot, viewing_.schedule(), frames_per_row(viewing_.schedule().rate(), row_look_.length));
}

void SheetView::relayout()
{
    const Shot* shot = viewing_.shot();
    // As if the scroll bar were always there: the page must not change its shape when it comes and goes.
    const int width = this->width() - verticalScrollBar()->sizeHint().width();
    choose_look({width, height()}, shape_of(shot));
    if (wants_tiles() != in_tiles())
        drag_ = Drag::none; // what was pulled is no longer there
    if (wants_tiles())
        layout_ = GridLayout(shot ? std::int64_t(shot->photos.size()) : 0, width, tile_width_, shape_of(shot));
    else
        layout_ = RowsLayout(viewing_.schedule(), row_look_, width, shape_of(shot));
    prepare_meter();
    const int page = page_height();
    verticalScrollBar()->setRange(0, std::max(0, page - viewport()->height()));
    verticalScrollBar()->setPageStep(viewport()->height());
    verticalScrollBar()->setSingleStep(24);
    viewport()->update();
    Q_EMIT looked_elsewhere();
}

int SheetView::page_height() const
{
    return std::visit([](const auto& l) { return l.height(); }, layout_);
}

cv::Size SheetView::tile_box() const
{
    const double ratio = devicePixelRatioF();
    QSize box;
    if (const auto* grid = std::get_if<GridLayout>(&layout_))
        box = grid->tile();
    else
        box = QSize(4000, std::get<RowsLayout>(layout_).tile_height());
    return {static_cast<int>(box.width() * ratio), static_cast<int>(box.height() * ratio)};
}

std::vector<PhotoIndex> SheetView::photos_between(int top, int bottom) const
{
    std::vector<PhotoIndex> photos;
    if (const auto* grid = std::get_if<GridLayout>(&layout_)) {
        const auto [first, last] = grid->photos_between(top, bottom);
        for (PhotoIndex p = first; p < last; ++p)
            photos.push_back(p);
        return photos;
    }
    const auto& rows = std::get<RowsLayout>(layout_);
    for (int row = rows.row_at(top); row <= std::min(rows.row_at(bottom), rows.rows() - 1); ++row)
        for (const Cell& c : cells_in_row(viewing_.schedule(), row, rows.frames_per_row()))
            if (!c.continues)
                photos.push_back(viewing_.schedule().spans()[c.span].photo);
    return photos;
}

void SheetView::describe(ViewState& s) const
{
    const int top = verticalScrollBar()->value();
    const int height = viewport()->height();
    s.visible = photos_between(top, top + height);
    s.near = photos_between(top + height, top + 2 * height);
    const auto above = photos_between(std::max(0, top - height), top);
    s.near.insert(s.near.end(), above.rbegin(), above.rend());
    s.tile_size = tile_box();
}

QRect SheetView::page_rect_of(PhotoIndex photo) const
{
    if (const auto* grid = std::get_if<GridLayout>(&layout_))
        return grid->tile_rect(photo);
    const auto& rows = std::get<RowsLayout>(layout_);
    const auto span = viewing_.schedule().span_of(photo);
    if (!span)
        return {};
    const FrameSpan& s = viewing_.schedule().spans()[*span];
    const int row = int(s.begin.value / rows.frames_per_row());
    for (const Cell& c : cells_in_row(viewing_.schedule(), row, rows.frames_per_row()))
        if (c.span == *span)
            return rows.cell_rect(row, c);
    return {};
}

QRect SheetView::tile_in_view(PhotoIndex photo) const
{
    const QRect r = page_rect_of(photo);
    return r.isNull() ? r : r.translated(0, -verticalScrollBar()->value());
}

void SheetView::scroll_to(PhotoIndex photo)
{
    const QRect r = page_rect_of(photo);
    if (r.isNull())
        return;
    const int top = verticalScrollBar()->value();
    constexpr int air = 30;
    if (r.top() - air < top)
        verticalScrollBar()->setValue(r.top() - air);
    else if (r.bottom() + air > top + viewport()->height())
        verticalScrollBar()->setValue(r.bottom() + air - viewport()->height());
}

QPoint SheetView::hold_edge_in_view(PhotoIndex photo) const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    const auto span = viewing_.schedule().span_of(photo);
    if (!rows || !span)
        return {};
    const QLine edge = rows->boundary_line(viewing_.schedule().spans()[*span].end, true);
    return {edge.x1() - 2, edge.center().y() - verticalScrollBar()->value()};
}

QPoint SheetView::range_bracket_in_view(bool first) const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    if (!rows)
        return {};
    const QLine edge =
        rows->boundary_line(first ? viewing_.timeline().kept_begin : viewing_.timeline().kept_end, !first);
    return {edge.x1(), edge.y1() + 3 - verticalScrollBar()->value()};
}

QRect SheetView::frame_in_view(FrameIndex frame) const
{
    const auto* rows = std::get_if<RowsLayout>(&layout_);
    return rows ? rows->frame_rect(frame).translated(0, -verticalScrollBar()->value()) : QRect();
}

void SheetView::set_player_size(cv::Size size)
{
    player_size_ = size;
}

void SheetView::follow_playhead()
{
    if (const auto* rows = std::get_if<RowsLayout>(&layout_); rows && rows->rows() > 0) {
        const QRect r = rows->frame_rect(viewing_.playhead());
        const int top = verticalScrollBar()->value();
        // Only where it was and where it is: a page has many photos, and this happens at every frame that plays.
        constexpr int around = 14;
        for (const QRect& changed : {playhead_at_, r})
            viewport()->update(changed.adjusted(-around, -around, around, around).translated(0, -top));
        playhead_at_ = r;
        if (r.top() < top || r.bottom() > top + viewport()->height())
            verticalScrollBar()->setValue(r.top() - RowsLayout::top_gap);
    } else {
        viewport()->update();
    }
}

std::optional<PhotoIndex> SheetView::photo_at(QPoint in_view) const
{
    const QPoint p = in_view + QPoint(0, verticalScrollBar()->value());
    if (const auto* grid = std::get_if<GridLayout>(&layout_))
        return grid->photo_at(p);
    const auto frame = std::get<RowsLayout>(layout_).frame_at(p);
    if (!frame)
        return std::nullopt;
    return viewing_.schedule().photo_at(*frame);
}

void SheetView::resizeEvent(QResizeEvent* event)
{
    QAbstractScrollArea::resizeEvent(event);
    relayout();
}

void SheetView::scrollContentsBy(int, int)
{
    viewport()->update();
    Q_EMIT looked_elsewhere();
}

void SheetView::focusInEvent(QFocusEvent* event)
{
    QAbstractScrollArea::focusInEvent(event);
    viewport()->update();
}

void SheetView::focusOutEvent(QFocusEvent* event)
{
    QAbstractScrollArea::focusOutEvent(event);
    viewport()->update();
}

void SheetView::paintEvent(QPaintEvent* event)
{
    QPainter painter(viewport());
    painter.fillRect(viewport()->rect(), Colours::of(palette()).raised);
    if (!viewing_.shot())
        return;
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(0, -verticalScrollBar()->value());
    if (const auto* rows = std::get_if<RowsLayout>(&layout_))
        paint_rows(painter, *rows, event->rect());
    else
        paint_grid(painter, std::get<GridLayout>(layout_));
}

}
