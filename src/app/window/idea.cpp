#include "app/window/idea.h"

#include "app/theme/colours.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <vector>

namespace frenlo::app {

namespace {

constexpr int left = 40, columns = 12, row_pitch = 62, tile_height = 36;

/// A little bay with a boat, further along in each tile.
void paint_bay(QPainter& painter, const QRectF& r, double along, const Colours& c)
{
    QPainterPath clip;
    clip.addRoundedRect(r, 3, 3);
    painter.save();
    painter.setClipPath(clip);
    painter.fillRect(r, c.spruce_wash);
    QColor sea = c.spruce;
    sea.setAlphaF(0.55F);
    painter.fillRect(QRectF(r.left(), r.top() + r.height() * 0.62, r.width(), r.height()), sea);
    const double x = r.left() + 4 + along * (r.width() - 12);
    const double y = r.top() + r.height() * 0.66;
    QPainterPath boat;
    boat.moveTo(x - 5, y);
    boat.lineTo(x + 7, y);
    boat.lineTo(x + 4, y + 5);
    boat.lineTo(x - 3, y + 5);
    boat.closeSubpath();
    boat.moveTo(x, y - 2);
    boat.lineTo(x, y - 15);
    boat.lineTo(x + 6, y - 2);
    boat.closeSubpath();
    painter.fillPath(boat, c.raised);
    painter.restore();
}

}

IdeaDrawing::IdeaDrawing(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("Drawing: each row is one second; a photo that is held longer is wider"));
}

void IdeaDrawing::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    const std::vector<std::vector<int>> rows{{2, 2, 2, 2, 2, 2}, {2, 6, 2, 2}, {3, 3, 3, 3}};
    const double column = double(width() - left - 4) / columns;
    double travelled = 0;
    for (std::size_t row = 0; row < rows.size(); ++row) {
        const double y = 16 + double(row) * row_pitch;
        painter.setPen(c.second_ink);
        painter.drawText(QRectF(0, y, left - 10, tile_height), Qt::AlignRight | Qt::AlignVCenter,
                         QStringLiteral("0:0%1").arg(row));
        double x = left;
        for (const int hold : rows[row]) {
            const QRectF cell(x, y, hold * column - 2, tile_height);
            const double tile = std::min(cell.width(), tile_height * 1.5);
            paint_bay(painter, QRectF(cell.topLeft(), QSizeF(tile, tile_height)), travelled, c);
            travelled += 1.0 / 14;
            if (cell.width() > tile + 4) {
                QColor tail = c.line;
                tail.setAlphaF(0.55F);
                painter.fillRect(cell.adjusted(tile, 0, 0, 0), tail);
            }
            painter.fillRect(QRectF(x, y + tile_height + 3, hold * column - 2, 2), c.line);
            painter.setPen(c.second_ink);
            painter.drawText(QRectF(x, y + tile_height + 5, hold * column - 2, 14), Qt::AlignCenter,
                             QString::number(hold));
            x += hold * column;
        }
    }
    painter.setPen(c.second_ink);
    painter.drawText(QRectF(left, 16 + 3 * row_pitch + 6, width() - left, 32), Qt::AlignLeft | Qt::TextWordWrap,
                     tr("At 12 fps a row has twelve columns: six photos on twos, or one held for six."));
}

}
