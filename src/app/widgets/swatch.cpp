#include "app/widgets/swatch.h"

#include <QPixmap>

namespace frenlo::app {

QColor qt_colour(const Backdrop& c)
{
    return {c[0], c[1], c[2]};
}

Backdrop own_colour(const QColor& c)
{
    return {std::uint8_t(c.red()), std::uint8_t(c.green()), std::uint8_t(c.blue())};
}

QIcon swatch(const Backdrop& colour)
{
    constexpr int side = 14;
    QPixmap p(side, side);
    p.fill(qt_colour(colour));
    return QIcon(p);
}

}
