#include "app/steps/steady/points_tool.h"

#include <QPainter>

namespace frenlo::app {

PointsTool::PointsTool(PhotoIndex photo, cv::Size size, PhotoIndex other, cv::Size other_size)
    : photo_(photo), other_(other), size_(size), other_size_(other_size)
{
}

QString PointsTool::caption() const
{
    const int pair = int(on_photo_.size()) + 1;
    return on_other() ? tr("point %1: click it on the other photo · Esc ends").arg(pair)
                      : tr("point %1: now the same on this photo").arg(pair);
}

void PointsTool::paint(QPainter& painter, const QRectF& where, const QPalette&) const
{
    const auto& points = on_other() ? on_other_ : on_photo_;
    const auto cross = [&](QPointF share, int number, bool open) {
        const QPointF at(where.left() + share.x() * where.width(), where.top() + share.y() * where.height());
        for (const auto& [colour, width] : {std::pair(QColor(Qt::black), 3.0), std::pair(QColor(Qt::white), 1.2)}) {
            painter.setPen(QPen(colour, width, open ? Qt::DotLine : Qt::SolidLine));
            for (const QPointF arm : {QPointF(9, 0), QPointF(-9, 0), QPointF(0, 9), QPointF(0, -9)})
                painter.drawLine(at + arm * 0.3, at + arm);
        }
        const QRectF label(at + QPointF(6, -20), QSizeF(18, 14));
        painter.fillRect(label, QColor(0, 0, 0, 160));
        painter.setPen(Qt::white);
        painter.drawText(label, Qt::AlignCenter, QString::number(number));
    };
    for (std::size_t i = 0; i < points.size(); ++i)
        cross(points[i], int(i) + 1, false);
    if (!on_other()) // where it was on the other photo: not far from there
        cross(on_other_.back(), int(on_other_.size()), true);
}

void PointsTool::release(QPointF at)
{
    if (at.x() < 0 || at.y() < 0 || at.x() > 1 || at.y() > 1)
        return;
    (on_other() ? on_other_ : on_photo_).push_back(at);
    Q_EMIT changed();
}

std::vector<PointPair> PointsTool::pairs() const
{
    const auto pixel = [](QPointF share, cv::Size size) {
        return cv::Point2d(share.x() * size.width - 0.5, share.y() * size.height - 0.5);
    };
    std::vector<PointPair> pairs;
    for (std::size_t i = 0; i < on_photo_.size(); ++i)
        pairs.push_back({pixel(on_other_[i], other_size_), pixel(on_photo_[i], size_)});
    return pairs;
}

}
