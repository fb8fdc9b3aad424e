#include "app/steps/steady/movement_meter.h"

#include "app/sheet/paint_tools.h"
#include "app/theme/colours.h"
#include "core/steps/steady/steady_figures.h"

#include <QPainter>
#include <QWidget>

#include <algorithm>

namespace frenlo::app {

bool MovementMeter::has(const Shot& shot) const
{
    return steadying_of(shot) != nullptr;
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
    // Two bars below the line, as deep as the movement was as shot, and as what is left of it.
    constexpr double deepest = 9;
    const double px = moved_px(cell.shot, cell.span.photo), left = alignment->left_px;
    const auto depth = [&](double moved) { return most_moved_ > 0 ? deepest * std::min(1.0, moved / most_moved_) : 0; };
    const double wide = std::min(tile.width() / 2.0, 8.0);
    painter.fillRect(QRectF(tile.left(), tile.bottom() + 7, wide, depth(px)), cell.selected ? c.spruce : c.second_ink);
    painter.setPen(QPen(cell.selected ? c.spruce : c.ink, 1));
    painter.setBrush(Qt::NoBrush);
    if (depth(left) >= 1)
        painter.drawRect(QRectF(tile.left() + wide + 1.5, tile.bottom() + 7.5, wide - 3, depth(left)));
    painter.setFont(small_font(&on, cell.selected));
    painter.setPen(cell.selected ? c.spruce : c.second_ink);
    const QString before = QString::number(px, 'f', 1),
                  both = QStringLiteral("%1 → %2").arg(before, QString::number(left, 'f', 1));
    const int room = tile.width() - 18;
    for (const QString& figure : {both, before})
        if (painter.fontMetrics().horizontalAdvance(figure) <= room) {
            painter.drawText(QRect(tile.left() + 18, tile.bottom() + 6, room, 15), Qt::AlignLeft | Qt::AlignTop,
                             figure);
            return;
        }
}

}
