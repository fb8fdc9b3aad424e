#include "app/steps/flicker/light_meter.h"

#include "app/sheet/paint_tools.h"
#include "app/theme/colours.h"
#include "core/steps/flicker/flicker_edits.h"

#include <QPainter>
#include <QWidget>

#include <algorithm>

namespace frenlo::app {

bool LightMeter::has(const Shot& shot) const
{
    return deflicker_of(shot) != nullptr;
}

void LightMeter::prepare(const Shot& shot, const Schedule& schedule, std::int64_t frames_per_row)
{
    rows_ = light_rows(shot, schedule, int(frames_per_row));
    all_ = rows_.empty() ? LightRange() : rows_.front();
    for (const LightRange& row : rows_)
        all_ = {std::min(all_.darkest, row.darkest), std::max(all_.brightest, row.brightest)};
}

void LightMeter::paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const
{
    const QRect& tile = cell.tile;
    const Colours c = Colours::of(on.palette());
    const auto& light = light_of(cell.shot.photos[cell.span.photo.at()]);
    if (!light)
        return;
    const auto row = std::size_t(cell.row);
    if (row >= rows_.size())
        return;
    if (to_look_at(cell.shot.photos[cell.span.photo.at()])) {
        paint_triangle(painter, QPointF(tile.left() + 7, tile.bottom() + 9), 11, c.amber);
        return;
    }
    constexpr double deep = 15;
    const LightRange& range = range_of(row);
    const auto y = [&](double stops) {
        return tile.bottom() + 8 +
               deep * std::clamp((range.brightest - stops) / (range.brightest - range.darkest), 0.0, 1.0);
    };
    const double now = *light_now(cell.shot, cell.span.photo);
    painter.fillRect(QRectF(QPointF(tile.left(), y(light->change.stops)), QPointF(tile.right(), y(now))),
                     c.line); // what was taken out
    painter.setPen(QPen(c.second_ink, 1));
    painter.drawLine(QPointF(tile.left(), y(light->change.stops)), QPointF(tile.right(), y(light->change.stops)));
    painter.setPen(QPen(cell.selected ? c.clay : c.spruce, 2.5,
                        light->remedy == LightRemedy::mixed ? Qt::DotLine : Qt::SolidLine));
    painter.drawLine(QPointF(tile.left(), y(now)), QPointF(tile.right(), y(now)));
}

void LightMeter::paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    const auto number = std::size_t(row.number);
    if (number >= rows_.size())
        return;
    if (number > 0 && !own_)
        return; // all have the scale of the first
    const LightRange& range = range_of(number);
    paint_scale(painter, on, row.strip, QObject::tr("%1 stop").arg(range.brightest - range.darkest, 0, 'f', 2));
}

}
