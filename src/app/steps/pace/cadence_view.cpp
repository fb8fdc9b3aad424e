#include "app/steps/pace/cadence_view.h"

#include "app/theme/colours.h"

#include <QPainter>
#include <QPainterPath>

namespace frenlo::app {

QString cadence_words(const Cadence& c)
{
    if (c.paced == c.delivered)
        return QObject::tr("each frame as it is");
    if (c.even())
        return QObject::tr("every frame %n time(s)", nullptr, int(c.delivered / c.paced));
    if (c.delivered < c.paced)
        return QObject::tr("%n frame(s) in %1 left out", nullptr, int(c.paced - c.delivered)).arg(c.paced);
    if (c.delivered / c.paced == 1)
        return QObject::tr("%n frame(s) in %1 repeated", nullptr, int(c.delivered % c.paced)).arg(c.paced);
    return QObject::tr("%n frame(s) in %1 once more", nullptr, int(c.delivered % c.paced)).arg(c.paced);
}

CadenceView::CadenceView(QWidget* parent) : QWidget(parent)
{
    setFixedHeight(18);
    setAccessibleName(tr("Cadence"));
}

void CadenceView::show_cadence(const Cadence& cadence)
{
    cadence_ = cadence;
    setAccessibleDescription(cadence_words(cadence));
    setToolTip(
        tr("One box is one frame of the film; joined boxes show the same frame of the pacing rate, a wedge stands "
           "where one is left out"));
    update();
}

void CadenceView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    constexpr int box = 12, apart = 3, wedge = 9;
    // The pattern again and again, as far as there is room.
    int x = 0;
    bool dark = true;
    for (std::size_t i = 0; !cadence_.pattern.empty(); ++i) {
        const bool whole_pattern = std::int64_t(cadence_.pattern.size()) == cadence_.paced;
        if (i >= cadence_.pattern.size() && !whole_pattern)
            break;
        const int frames = cadence_.pattern[i % cadence_.pattern.size()];
        const int width = frames == 0 ? wedge : frames * box;
        if (x + width > this->width() - 14)
            break;
        if (frames == 0) {
            QPainterPath path;
            path.moveTo(x + 1, 4);
            path.lineTo(x + wedge - 2, 4);
            path.lineTo(x + wedge / 2.0 - 0.5, 12);
            path.closeSubpath();
            painter.fillPath(path, c.amber);
        } else {
            painter.setPen(QPen(c.spruce, 1));
            painter.setBrush(dark ? c.spruce : c.spruce_wash);
            painter.drawRoundedRect(QRectF(x + 0.5, 2.5, width - 1, 13), 2, 2);
            painter.setPen(QPen(dark ? c.on_spruce : c.spruce, 1));
            for (int n = 1; n < frames; ++n)
                painter.drawLine(QPointF(x + n * box, 5), QPointF(x + n * box, 13));
        }
        dark = !dark;
        x += width + apart;
    }
    painter.setPen(c.second_ink);
    painter.drawText(QRect(x, 0, 14, 16), Qt::AlignLeft | Qt::AlignVCenter, QStringLiteral("…"));
}

}
