#include "app/picture/clipped.h"

#include <algorithm>

namespace frenlo::app {

QImage clipped_marks(const QImage& picture, const Colours& colours)
{
    const QImage seen = picture.convertToFormat(QImage::Format_RGB32);
    QImage marks(seen.size(), QImage::Format_ARGB32_Premultiplied);
    marks.fill(Qt::transparent);
    const QRgb white = colours.clay.rgba(), black = colours.spruce_wash.rgba();
    for (int y = 0; y < seen.height(); ++y) {
        const auto* from = reinterpret_cast<const QRgb*>(seen.constScanLine(y));
        auto* to = reinterpret_cast<QRgb*>(marks.scanLine(y));
        for (int x = 0; x < seen.width(); ++x) {
            const QRgb p = from[x];
            const int most = std::max({qRed(p), qGreen(p), qBlue(p)}), least = std::min({qRed(p), qGreen(p), qBlue(p)});
            if (most == 255 && (x + y) % 8 < 4)
                to[x] = white;
            else if (least == 0 && x % 4 < 2 && y % 4 < 2)
                to[x] = black;
        }
    }
    return marks;
}

}
