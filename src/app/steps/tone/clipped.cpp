#include "app/steps/tone/clipped.h"

#include "app/theme/colours.h"

#include <QImage>
#include <QPainter>

#include <algorithm>

namespace frenlo::app {

void paint_clipped(QPainter& painter, const QRectF& where, const QImage& picture, const Colours& colours)
{
    if (picture.isNull())
        return;
    QImage marks(picture.size(), QImage::Format_ARGB32_Premultiplied);
    marks.fill(Qt::transparent);
    const QRgb white = colours.clay.rgba(), black = colours.spruce_wash.rgba();
    for (int y = 0; y < picture.height(); ++y) {
        auto* to = reinterpret_cast<QRgb*>(marks.scanLine(y));
        for (int x = 0; x < picture.width(); ++x) {
            const QRgb p = picture.pixel(x, y);
            const int most = std::max({qRed(p), qGreen(p), qBlue(p)}), least = std::min({qRed(p), qGreen(p), qBlue(p)});
            if (most == 255 && (x + y) % 8 < 4)
                to[x] = white;
            else if (least == 0 && x % 4 < 2 && y % 4 < 2)
                to[x] = black;
        }
    }
    painter.drawImage(where, marks);
}

}
