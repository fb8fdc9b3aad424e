#include "app/steps/tone/tone_meter.h"

#include "app/sheet/paint_tools.h"
#include "app/steps/tone/tone_words.h"
#include "app/theme/colours.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"

#include <QCoreApplication>
#include <QPainter>
#include <QStringList>
#include <QWidget>

#include <algorithm>
#include <array>
#include <tuple>

namespace frenlo::app {

namespace {
constexpr std::array pens{Qt::SolidLine, Qt::DashLine, Qt::DotLine, Qt::DashDotLine};
}

std::vector<ToneCourse> courses_of(const std::vector<Tone>& tones)
{
    std::vector<ToneCourse> courses;
    const auto add = [&](ToneValue value) {
        const auto [low, high] = std::minmax_element(tones.begin(), tones.end(),
                                                     [&](const Tone& a, const Tone& b) { return a.*value < b.*value; });
        if (low != tones.end() && (*high).*value > (*low).*value)
            courses.push_back({value, (*low).*value, (*high).*value});
    };
    Fields<Tone>::table.apply([&](const auto&... f) { (add(f.member), ...); });
    return courses;
}

QString legend_of(const Shot& shot)
{
    constexpr std::array signs{"——", "–\u00a0–", "···", "–·–"}; // as the pens
    QStringList lines;
    for (const ToneCourse& course : courses_of(tones_of(shot)))
        lines << QString::fromUtf8(signs[std::size_t(lines.size()) % signs.size()]) + QChar(QChar::Nbsp) +
                     name_of(course.value);
    return lines.join(QStringLiteral("  "));
}

bool ToneMeter::has(const Shot& shot) const
{
    return is_toned(shot);
}

void ToneMeter::prepare(const Shot& shot, const Schedule&, std::int64_t)
{
    tones_ = tones_of(shot);
    courses_ = courses_of(tones_);
}

void ToneMeter::paint(QPainter& painter, const QWidget& on, const MeterCell& cell) const
{
    const QRect& tile = cell.tile;
    const Colours c = Colours::of(on.palette());
    const auto photo = cell.span.photo.at();
    if (photo >= tones_.size())
        return;
    constexpr double deep = 14;
    const double top = tile.bottom() + 8;
    for (std::size_t i = 0; i < courses_.size(); ++i) {
        const ToneCourse& course = courses_[i];
        const double share = (tones_[photo].*course.value - course.least) / (course.most - course.least);
        const double y = top + deep * (1 - share);
        painter.setPen(QPen(i == 0 ? c.spruce : c.second_ink, i == 0 ? 2.2 : 1.2, pens[i % pens.size()]));
        painter.drawLine(QPointF(tile.left(), y), QPointF(tile.right() + 1, y));
    }
    if (!anchor_of(cell.shot.photos[photo]))
        return;
    painter.setFont(small_font(&on));
    const QString text = QCoreApplication::translate("ToneMeter", "anchor");
    const int wide = painter.fontMetrics().horizontalAdvance(text) + 8;
    const QRect tag(tile.left(), tile.top(), wide <= tile.width() ? wide : std::min(15, tile.width()), 15);
    painter.fillRect(tag, c.spruce);
    painter.setPen(c.on_spruce);
    if (wide <= tile.width()) {
        painter.drawText(tag, Qt::AlignCenter, text);
    } else { // the curve's point
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(QRectF(tag).center() + QPointF(0.5, 0.5), 3.5, 3.5);
    }
}

}
