#include "app/steps/steady/movement_meter.h"

#include "app/sheet/paint_tools.h"
#include "app/theme/colours.h"
#include "core/steps/steady/steady_figures.h"

#include <QPainter>
#include <QWidget>

#include <algorithm>

namespace frenlo::app {

namespace {

constexpr double highest = 26, widest = 14; ///< of a bar, pixels
constexpr int label_gap = 8;                ///< below the line that says what is ready

}

bool MovementMeter::has(const Shot& shot) const
{
    return steadying_of(shot) != nullptr;
}

int MovementMeter::height() const
{
    return 14;
}

void MovementMeter::prepare(const Shot& shot, const Schedule&, std::int64_t)
{
    most_moved_ = most_moved_px(shot);
}

void MovementMeter::paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const
{
    const QRect& tile = cell.tile;
    const Colours c = Colours::of(on.palette());
    const auto& alignment = alignment_of(cell.shot.photos[cell.span.photo.at()]);
    if (!alignment)
        return;
    if (!alignment->doubt.empty()) {
        paint_triangle(painter, QPointF(tile.left() + 7, tile.bottom() + 9), 11, c.amber);
        return;
    }
    // A pale bar from the base line as high as the photo had moved, and a dark one as high as what is left of it.
    const double base = tile.bottom() + 1 + label_gap + highest, px = moved_px(cell.shot, cell.span.photo),
                 left = alignment->left_px;
    const auto high = [&](double moved) { return most_moved_ > 0 ? highest * std::min(1.0, moved / most_moved_) : 0; };
    const double wide = std::min(tile.width() - 1.0, widest);
    painter.fillRect(QRectF(tile.left(), base - high(px), wide, high(px)), cell.selected ? c.spruce : c.second_ink);
    if (high(left) >= 1)
        painter.fillRect(QRectF(tile.left(), base - high(left), wide, high(left)), c.ink);
    painter.setFont(small_font(&on, cell.selected));
    painter.setPen(cell.selected ? c.spruce : c.second_ink);
    const QString before = QString::number(px, 'f', 1),
                  both = QStringLiteral("%1 → %2").arg(before, QString::number(left, 'f', 1));
    const int at = tile.left() + int(wide) + 5, room = tile.right() - at;
    for (const QString& figure : {both, before})
        if (painter.fontMetrics().horizontalAdvance(figure) <= room) {
            painter.drawText(QRect(at, int(base) - 15, room, 16), Qt::AlignLeft | Qt::AlignBottom, figure);
            return;
        }
}

void MovementMeter::paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    const double base = row.strip.top() + label_gap + highest;
    painter.setPen(QPen(Colours::of(on.palette()).second_ink, 1));
    painter.drawLine(QPointF(row.strip.left(), base + 0.5), QPointF(row.strip.right(), base + 0.5));
    if (most_moved_ > 0)
        paint_scale(painter, on, row.strip, QStringLiteral("%1 px").arg(most_moved_, 0, 'f', most_moved_ < 10 ? 1 : 0));
}

}
