// How the large picture looks. What is shown is decided in picture_view.cpp.
#include "app/picture/picture_view.h"
#include "app/theme/colours.h"
#include "core/base/text.h"
#include "core/steps/steady/steady_edits.h"

#include <QPainter>

#include <cmath>

namespace frenlo::app {

namespace {
constexpr int caption = PictureView::caption_height, air = PictureView::air;
}

/// In the middle above the picture: what is seen, where it is not simply the photo.
QString PictureView::state_text() const
{
    if (tool_)
        return tool_->caption();
    if (as_shot_)
        return viewing_.step() == Step::steady && viewing_.shot() && steadying_of(*viewing_.shot()) ? tr("as shot, with the crop") : tr("as shot");
    const bool there = compared_photo().value >= 0;
    const QString other = viewing_.step() == Step::sort || (viewing_.shot() && !reference_photo(*viewing_.shot())) ? tr("the one before") : tr("the reference photo");
    if ((compare_ == Compare::blink && there) || before_)
        return before_ ? other : tr("this one");
    if (compared()) {
        const QString with = viewing_.step() == Step::light ? tr("as shot") : other;
        switch (compare_) {
        case Compare::split:
            return tr("left: %1").arg(with);
        case Compare::through:
            return tr("with %1").arg(with);
        default:
            return tr("what differs from %1").arg(with);
        }
    }
    return onion_shows() ? onion_text() : QString();
}

void PictureView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Colours c = Colours::of(palette());
    painter.fillRect(rect(), c.surround);
    const Shot* shot = viewing_.shot();
    const PhotoIndex index = photo_now();
    painter.setPen(c.on_surround);
    if (!shot || index.value < 0) {
        painter.drawText(rect(), Qt::AlignCenter, tr("No photo to show"));
        return;
    }
    const ShotPhoto& photo = shot->photos[index.at()];
    const auto problem = loader_.unreadable().find(photo.photo);
    if (problem != loader_.unreadable().end() || (!photo.flaw.empty() && !photo.what_there_is)) {
        const QString text = problem != loader_.unreadable().end() ? QString::fromStdString(problem->second.text())
                                                                   : QString::fromStdString(photo.flaw);
        painter.drawText(room(), Qt::AlignCenter | Qt::TextWordWrap, QStringLiteral("▲ ") + text);
    }
    if (!shown_.isNull() && (problem == loader_.unreadable().end())) {
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.save();
        painter.setClipRect(room());
        painter.drawImage(place(), shown_);
        if (onion_shows())
            paint_onion(painter, place());
        if (const auto other = tool_ ? std::nullopt : compared())
            paint_compared(painter, place(), shown_, loader_.best(*other), compare_, split_);
        if (tool_)
            tool_->paint(painter, place(), palette());
        else if (as_shot_ && viewing_.step() == Step::steady && steadying_of(*shot) && alignment_of(photo))
            paint_crop(painter, place(), photo);
        painter.restore();
    }
    const QRect line(air, 0, width() - 2 * air, caption);
    const QString size = photo.photo->size.empty()
                             ? QString()
                             : QStringLiteral(" · %1 × %2").arg(seen_size(photo).width).arg(seen_size(photo).height);
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromStdString(shown_path(photo.photo->file.filename())) + size);
    painter.drawText(line, Qt::AlignCenter, state_text());
    if (!timing_line_.isEmpty())
        painter.drawText(QRect(air, height() - caption, width() - 2 * air, caption), Qt::AlignLeft | Qt::AlignVCenter, timing_line_);
    const QString number = tr("photo %1 of %2").arg(index.value + 1).arg(shot->photos.size());
    painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, photo.aside ? tr("set aside · %1").arg(number) : number);
    if (current_)
        Q_EMIT painted();
}

/// What of the photo is in the film: the crop's corners as this photo sees them.
void PictureView::paint_crop(QPainter& painter, const QRectF& where, const ShotPhoto& photo) const
{
    const cv::Rect& crop = steadying_of(*viewing_.shot())->crop;
    const cv::Size size = seen_size(photo);
    const cv::Point2d tl(crop.x - 0.5, crop.y - 0.5), br(crop.br().x - 0.5, crop.br().y - 0.5);
    QPolygonF outline;
    for (const cv::Point2d& corner : {tl, cv::Point2d(br.x, tl.y), br, cv::Point2d(tl.x, br.y)}) {
        const cv::Point2d p = moved(alignment_of(photo)->from_film, corner);
        outline << QPointF(where.left() + (p.x + 0.5) / size.width * where.width(), where.top() + (p.y + 0.5) / size.height * where.height());
    }
    painter.setBrush(Qt::NoBrush);
    for (const auto& [colour, width] : {std::pair(QColor(Qt::black), 3.0), std::pair(QColor(Qt::white), 1.2)}) {
        painter.setPen(QPen(colour, width));
        painter.drawPolygon(outline);
    }
}

void PictureView::paint_onion(QPainter& painter, const QRectF& where) const
{
    for (const auto& [photo, away] : onion_photos()) {
        const QImage other = loader_.best(request_of(photo));
        if (other.isNull())
            continue;
        if (onion_.difference) {
            constexpr double strongest = 8;
            const QImage difference = difference_of(shown_, other, 1 + onion_.strength * strongest);
            if (!difference.isNull())
                painter.drawImage(where, difference);
            continue;
        }
        painter.setOpacity(onion_opacity(onion_, std::abs(away)) * 0.7);
        painter.drawImage(where, other);
    }
    painter.setOpacity(1);
}

QString PictureView::onion_text() const
{
    int back = 0, ahead = 0;
    for (const auto& [photo, away] : onion_photos())
        ++(away < 0 ? back : ahead);
    if (back + ahead == 0)
        return tr("onion skin: no photo there");
    if (onion_.difference)
        return back > 0 ? tr("what differs from the photo before") : tr("what differs from the next photo");
    if (ahead == 0)
        return tr("onion skin: %1 back").arg(back);
    return back == 0 ? tr("onion skin: %1 on").arg(ahead) : tr("onion skin: %1 back, %2 on").arg(back).arg(ahead);
}

}
