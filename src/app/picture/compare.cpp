#include "app/picture/compare.h"

#include "app/picture/onion_skin.h"

#include <QPainter>

namespace frenlo::app {

void paint_compared(QPainter& painter, const QRectF& where, const QImage& shown, const QImage& other, Compare how,
                    double split)
{
    if (other.isNull())
        return;
    switch (how) {
    case Compare::off:
    case Compare::blink: // is another picture altogether
        return;
    case Compare::split: {
        const QRectF left(where.topLeft(), QSizeF(where.width() * split, where.height()));
        painter.save();
        painter.setClipRect(left, Qt::IntersectClip);
        painter.drawImage(where, other);
        painter.restore();
        painter.setPen(QPen(Qt::black, 3));
        painter.drawLine(left.topRight(), left.bottomRight());
        painter.setPen(QPen(Qt::white, 1));
        painter.drawLine(left.topRight(), left.bottomRight());
        return;
    }
    case Compare::through:
        painter.setOpacity(0.5);
        painter.drawImage(where, other);
        painter.setOpacity(1);
        return;
    case Compare::difference: {
        constexpr double times = 5;
        if (const QImage difference = difference_of(shown, other, times); !difference.isNull())
            painter.drawImage(where, difference);
        return;
    }
    }
}

}
