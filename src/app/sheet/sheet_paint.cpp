// How the Sheet looks. What is where comes from layout.h, what is selected from Viewing.
#include "app/sheet/paint_tools.h"
#include "app/sheet/sheet_view.h"
#include "app/theme/colours.h"
#include "core/base/text.h"
#include "core/time/timecode.h"

#include <QPainter>
#include <QPainterPath>
#include <QScrollBar>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr double corner = 3;

}

int SheetView::paint_photo(QPainter& painter, const QRect& room, PhotoIndex photo) const
{
    const Shot& shot = *viewing_.shot();
    const ShotPhoto& p = shot.photos[photo.at()];
    const Colours c = Colours::of(palette());
    const QImage image = p.photo->size.empty() ? QImage() : loader_.best(tile_request(shot, photo, tile_box()));
    const cv::Size size = seen_size(p);
    const double shape = size.empty() ? 1.5 : double(size.width) / size.height;
    const int whole = static_cast<int>(std::lround(room.height() * shape));
    const QRect place(room.topLeft(), QSize(std::min(whole, room.width()), room.height()));
    QPainterPath clip;
    clip.addRoundedRect(place, corner, corner);
    painter.save();
    painter.setClipPath(clip, Qt::IntersectClip);
    if (image.isNull()) {
        painter.fillRect(place, c.panel);
        if (!p.flaw.empty() || loader_.unreadable().contains(p.photo)) {
            painter.setPen(QPen(c.line, 1));
            painter.drawLine(place.topLeft(), place.bottomRight());
            painter.drawLine(place.topRight(), place.bottomLeft());
        }
    } else { // where it does not fit, the part where things move
        const double scale = double(image.height()) / room.height();
        const double width = std::min(double(image.width()), place.width() * scale);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(QRectF(place), image,
                          QRectF(moving_.left_edge(width / image.width()) * image.width(), 0, width, image.height()));
    }
    painter.restore();
    return place.width();
}

void SheetView::paint_selection(QPainter& painter, const QRect& around, bool current) const
{
    const Colours c = Colours::of(palette());
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(c.spruce, 2));
    painter.drawRoundedRect(QRectF(around).adjusted(-0.5, -0.5, 0.5, 0.5), corner + 1, corner + 1);
    if (current && hasFocus()) { // where the keys are: a second, finer line
        painter.setPen(QPen(c.raised, 1));
        painter.drawRoundedRect(QRectF(around).adjusted(1.5, 1.5, -1.5, -1.5), corner - 1, corner - 1);
    }
}

void SheetView::paint_rows(QPainter& painter, const RowsLayout& layout, const QRect& part) const
{
    if (layout.rows() == 0) {
        painter.setPen(Colours::of(palette()).second_ink);
        painter.drawText(QRect(RowsLayout::left, 24, viewport()->width() - 96, 60), Qt::AlignLeft | Qt::TextWordWrap,
                         tr("No photo of this shot is in the film. In Sort, X brings set-aside photos back."));
        return;
    }
    const int top = verticalScrollBar()->value();
    const int last = std::min(layout.rows() - 1, layout.row_at(top + part.bottom()));
    for (int row = layout.row_at(top + part.top()); row <= last; ++row)
        paint_row(painter, layout, row);
    paint_range(painter, layout);
    paint_playhead(painter, layout);
}

void SheetView::paint_row(QPainter& painter, const RowsLayout& layout, int row) const
{
    const Colours c = Colours::of(palette());
    const std::int64_t first_frame = std::int64_t(row) * layout.frames_per_row();
    const Rate rate = viewing_.schedule().rate();
    // Rows are short of room: minutes and seconds, and frames where a row does not start on a second.
    std::string label = clock_text(first_frame, rate);
    const auto frames = label.rfind(':');
    label = first_frame % rate.nominal() == 0 ? label.substr(0, frames) : label.substr(frames);
    if (viewing_.counting() == Counting::frames)
        label = std::to_string(first_frame);
    painter.setFont(small_font(this));
    painter.setPen(c.second_ink);
    painter.drawText(QRect(0, layout.row_top(row), RowsLayout::left - 8, layout.tile_height()),
                     Qt::AlignRight | Qt::AlignVCenter, QString::fromStdString(label));
    for (const Cell& cell : cells_in_row(viewing_.schedule(), row, layout.frames_per_row()))
        paint_cell(painter, layout, row, cell);
    if (meter_ && meter_->has(*viewing_.shot()))
        meter_->paint_row(painter, *this, meter_row(layout, row));
}

void SheetView::paint_cell(QPainter& painter, const RowsLayout& layout, int row, const Cell& cell) const
{
    const Colours c = Colours::of(palette());
    const FrameSpan& span = viewing_.schedule().spans()[cell.span];
    const QRect r = layout.cell_rect(row, cell);
    const bool selected = viewing_.selection().contains(span.photo);
    const bool kept = is_kept(span.begin);
    painter.setOpacity(kept ? 1 : 0.35);
    int drawn = 0;
    if (!cell.continues)
        drawn = paint_photo(painter, r, span.photo);
    if (drawn < r.width()) { // the tail of a hold: plain, with a thread through it
        QRect tail = r.adjusted(drawn, 0, 0, 0);
        QPainterPath path;
        path.addRoundedRect(tail, corner, corner);
        QColor ground = c.line;
        ground.setAlphaF(0.55F);
        painter.fillPath(path, ground);
        if (tail.width() > 12) {
            painter.setPen(QPen(c.second_ink.lighter(120), 1.5, Qt::SolidLine, Qt::RoundCap));
            painter.drawLine(tail.left() + 5, tail.center().y(), tail.right() - 4, tail.center().y());
        }
    }
    painter.setOpacity(1);
    paint_made(painter, layout, row, cell);
    if (!cell.continues && viewing_.shot()->photos[span.photo.at()].marked) { // a pennant
        QPainterPath flag;
        flag.moveTo(r.left() + 4, r.top() + 3);
        flag.lineTo(r.left() + 15, r.top() + 7);
        flag.lineTo(r.left() + 4, r.top() + 11);
        flag.closeSubpath();
        painter.setPen(QPen(c.raised, 1));
        painter.setBrush(c.ink);
        painter.drawPath(flag);
        painter.setPen(QPen(c.ink, 1.5));
        painter.drawLine(r.left() + 4, r.top() + 3, r.left() + 4, r.top() + 19);
    }
    if (selected)
        paint_selection(painter, r, span.photo == viewing_.selection().current());
    paint_meter(painter, r, span, selected, kept);
    if (meter_ && meter_->has(*viewing_.shot()) && !cell.continues) {
        meter_->paint(painter, *this, {*viewing_.shot(), span, r, row, selected});
        return;
    }
    if (viewing_.on_reel())
        return;
    painter.setPen(selected ? c.spruce : c.second_ink);
    painter.setFont(small_font(this, selected));
    const QString figure = cell.continues ? QStringLiteral("↳") : QString::number(span.frames());
    if (painter.fontMetrics().horizontalAdvance(figure) <= r.width() + 1)
        painter.drawText(QRect(r.left(), r.bottom() + 6, r.width(), 15), Qt::AlignHCenter | Qt::AlignTop, figure);
}

/// Frames that are made of two photos or more: a stroke across the foot of each one's column.
void SheetView::paint_made(QPainter& painter, const RowsLayout& layout, int row, const Cell& cell) const
{
    constexpr double narrowest = 4;
    if (viewing_.on_reel() || viewing_.shot()->pacing.between == Between::repeat || layout.column_width() < narrowest)
        return;
    if (meter_ && meter_->has(*viewing_.shot())) // which is about the photos themselves
        return;
    const Colours c = Colours::of(palette());
    const QRect r = layout.cell_rect(row, cell);
    const std::int64_t first = std::int64_t(row) * layout.frames_per_row() + cell.column;
    for (int column = 0; column < cell.columns; ++column) {
        const auto shares = viewing_.schedule().shares_at(FrameIndex(first + column));
        if (shares.size() < 2 || viewing_.shot()->photos[shares.front().photo.at()].to_next == Between::repeat)
            continue;
        const double middle = r.left() + (column + 0.5) * layout.column_width();
        const double half = std::min(4.0, layout.column_width() / 2 - 1);
        const QLineF stroke(middle - half, r.bottom() - 2, middle + half, r.bottom() - 2 - 2 * half);
        painter.setPen(QPen(c.raised, 3.5, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(stroke);
        painter.setPen(QPen(c.ink, 1.5, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(stroke);
    }
}

bool SheetView::is_kept(FrameIndex frame) const
{
    return frame >= viewing_.timeline().kept_begin && frame < viewing_.timeline().kept_end;
}

/// A line as long as the hold: whole where the player's picture is ready, dotted where it is not yet.
void SheetView::paint_meter(QPainter& painter, const QRect& cell, const FrameSpan& span, bool selected, bool kept) const
{
    const Colours c = Colours::of(palette());
    const auto is_there = [&](const FrameRequest& r) {
        return loader_.has(r, Quality::preview) || loader_.has(r, Quality::exact);
    };
    const bool ready = !player_size_.empty() && is_there(viewing_.film()->frame(span.begin, {.size = player_size_}));
    QPen pen(selected ? c.spruce
             : kept   ? c.second_ink
                      : c.line,
             2, ready ? Qt::SolidLine : Qt::CustomDashLine, Qt::FlatCap);
    if (!ready)
        pen.setDashPattern({1, 1.5});
    painter.setPen(pen);
    painter.drawLine(cell.left(), cell.bottom() + 5, cell.right() + 1, cell.bottom() + 5);
}

/// Two ink brackets around what is kept.
void SheetView::paint_range(QPainter& painter, const RowsLayout& layout) const
{
    constexpr int arm = 6, over = 4;
    const DisplayTimeline& page = viewing_.timeline();
    if (page.kept_begin == page.kept_end || viewing_.on_reel())
        return;
    painter.setPen(QPen(Colours::of(palette()).ink, 3, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
    painter.setBrush(Qt::NoBrush);
    for (const bool first : {true, false}) {
        const QLine edge = layout.boundary_line(first ? page.kept_begin : page.kept_end, !first);
        const double x = edge.x1() + (first ? -1.5 : 2.5), towards = first ? arm : -arm;
        const QPointF corners[] = {{x + towards, double(edge.y1() - over)},
                                   {x, double(edge.y1() - over)},
                                   {x, double(edge.y2() + over)},
                                   {x + towards, double(edge.y2() + over)}};
        painter.drawPolyline(corners, 4);
    }
}

void SheetView::paint_playhead(QPainter& painter, const RowsLayout& layout) const
{
    const Colours c = Colours::of(palette());
    const QRect r = layout.frame_rect(viewing_.playhead());
    QPainterPath tab; // a small filled tab on top of the frame's column
    const QRectF t(r.center().x() - 6, r.top() - 10, 13, 8);
    tab.moveTo(t.topLeft());
    tab.lineTo(t.topRight());
    tab.lineTo(t.right(), t.center().y());
    tab.lineTo(t.center().x(), t.bottom() + 2);
    tab.lineTo(t.left(), t.center().y());
    tab.closeSubpath();
    painter.fillPath(tab, c.clay);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(c.clay, 2));
    painter.drawRect(QRectF(r).adjusted(0.5, 0, 0.5, 0));
}

void SheetView::paint_grid(QPainter& painter, const GridLayout& layout) const
{
    const int top = verticalScrollBar()->value();
    const auto [first, last] = layout.photos_between(top, top + viewport()->height());
    for (PhotoIndex p = first; p < last; ++p)
        paint_tile(painter, layout, p);
    paint_brackets(painter, layout);
    paint_drop(painter, layout);
}

void SheetView::paint_tile(QPainter& painter, const GridLayout& layout, PhotoIndex photo) const
{
    const Colours c = Colours::of(palette());
    const Shot& shot = *viewing_.shot();
    const ShotPhoto& p = shot.photos[photo.at()];
    const QRect r = layout.tile_rect(photo);
    const bool selected = viewing_.selection().contains(photo);
    const bool out = p.aside || (!shot.parts.empty() && !part_of(shot, photo));
    painter.save();
    if (out)
        painter.setOpacity(0.35);
    const int drawn = paint_photo(painter, r, photo);
    painter.restore();
    if (drawn < r.width() && !selected) {
        painter.setPen(QPen(c.line, 1));
        painter.drawRoundedRect(QRectF(r).adjusted(0.5, 0.5, -0.5, -0.5), corner, corner);
    }
    if (selected)
        paint_selection(painter, r, photo == viewing_.selection().current());
    paint_caption(painter, r, photo);
}

void SheetView::paint_caption(QPainter& painter, const QRect& tile, PhotoIndex photo) const
{
    const Colours c = Colours::of(palette());
    const Shot& shot = *viewing_.shot();
    const ShotPhoto& p = shot.photos[photo.at()];
    const bool selected = viewing_.selection().contains(photo);
    const auto part = part_of(shot, photo);
    const bool broken = (!p.flaw.empty() && !p.what_there_is) || loader_.unreadable().contains(p.photo);
    const QString file = QString::fromStdString(shown_stem(*p.photo));
    int left = tile.left();
    const auto write = [&](const QString& text, const QColor& colour, bool bold) {
        painter.setFont(small_font(this, bold));
        painter.setPen(colour);
        const QRect room(left, tile.bottom() + 3, std::max(0, tile.right() - left), 16);
        const QString shown = painter.fontMetrics().elidedText(text, Qt::ElideMiddle, room.width());
        painter.drawText(room, Qt::AlignLeft | Qt::AlignVCenter, shown);
        left += painter.fontMetrics().horizontalAdvance(shown) + 5;
    };
    if (broken) {
        paint_triangle(painter, QPointF(left + 5, tile.bottom() + 6), 10, c.amber);
        left += 14;
        return write(tr("unreadable"), c.amber, selected);
    }
    if (part && shot.parts[*part].begin == photo)
        write(QString::fromStdString(shot.parts[*part].name), selected ? c.spruce : c.ink, true);
    if (p.marker_card && !part)
        write(tr("marker card"), selected ? c.spruce : c.second_ink, selected);
    else if (p.aside || (!shot.parts.empty() && !part))
        write(tr("aside %1").arg(file), selected ? c.spruce : c.second_ink, selected);
    else
        write(file, selected ? c.spruce : c.second_ink, selected);
}

/// Two ink brackets around each shot that was found.
void SheetView::paint_brackets(QPainter& painter, const GridLayout& layout) const
{
    constexpr int arm = 7, over = 3;
    const Shot& shot = *viewing_.shot();
    painter.setPen(QPen(Colours::of(palette()).ink, 3, Qt::SolidLine, Qt::FlatCap, Qt::MiterJoin));
    painter.setBrush(Qt::NoBrush);
    const int top = verticalScrollBar()->value(), bottom = top + viewport()->height();
    for (const Part& part : shot.parts) {
        const auto bracket = [&](const QRect& tile, int x, int towards) {
            if (tile.bottom() < top || tile.top() > bottom)
                return;
            const QPointF corners[] = {{double(x + towards * arm), double(tile.top() - over)},
                                       {double(x), double(tile.top() - over)},
                                       {double(x), double(tile.bottom() + over)},
                                       {double(x + towards * arm), double(tile.bottom() + over)}};
            painter.drawPolyline(corners, 4);
        };
        const QRect first = layout.tile_rect(part.begin), last = layout.tile_rect(part.end - 1);
        bracket(first, first.left() - 2, 1);
        bracket(last, last.right() + 3, -1);
    }
}

/// Where carried photos would go.
void SheetView::paint_drop(QPainter& painter, const GridLayout& layout) const
{
    if (!drop_)
        return;
    painter.setPen(QPen(Colours::of(palette()).spruce, 4, Qt::SolidLine, Qt::RoundCap));
    painter.drawLine(layout.gap_line(*drop_));
}

}
