// How the large picture looks. What is shown is decided in picture_view.cpp.
#include "app/picture/picture_view.h"
#include "app/theme/colours.h"
#include "core/base/text.h"

#include <QPainter>

#include <cmath>

namespace frenlo::app {

namespace {

/// What its sidecar says.
QString rated(const PhotoFile& photo)
{
    QString text;
    if (photo.rating < 0)
        text = PictureView::tr(" · rejected");
    else if (photo.rating > 0)
        text = PictureView::tr(" · rated %1 of 5").arg(photo.rating);
    if (!photo.label.empty())
        text += PictureView::tr(" · “%1”").arg(QString::fromStdString(photo.label));
    return text;
}
}

/// In the middle above the picture: what is seen, where it is not simply the photo.
QString PictureView::state_text() const
{
    if (tool_)
        return tool_->caption();
    if (as_shot_)
        return step_ && !step_->as_shot_text().isEmpty() ? step_->as_shot_text() : tr("as shot");
    const bool there = compared_photo().value >= 0;
    const QString other = step_ ? step_->compared_name() : QString();
    if ((compare_ == Compare::blink && there) || before_)
        return before_ ? other : tr("this one");
    if (compared()) {
        switch (compare_) {
        case Compare::split:
            return tr("left: %1").arg(other);
        case Compare::through:
            return tr("with %1").arg(other);
        default:
            return tr("what differs from %1").arg(other);
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
        if (step_ && !whole_photo())
            step_->paint_over(painter, place(), shown_);
        if (tool_)
            tool_->paint(painter, place(), palette());
        else if (as_shot_ && step_)
            step_->paint_over_as_shot(painter, place(), photo);
        painter.restore();
        paint_beside(painter, c.on_surround);
    }
    const QRect line(air, 0, width() - 2 * air, caption_height);
    const QString size = photo.photo->size.empty()
                             ? QString()
                             : QStringLiteral(" · %1 × %2").arg(seen_size(photo).width).arg(seen_size(photo).height);
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromStdString(shown_name(*photo.photo)) + size + rated(*photo.photo));
    painter.drawText(line, Qt::AlignCenter, state_text());
    if (!timing_line_.isEmpty())
        painter.drawText(QRect(air, height() - caption_height, width() - 2 * air, caption_height),
                         Qt::AlignLeft | Qt::AlignVCenter, timing_line_);
    const QString number = tr("photo %1 of %2").arg(index.value + 1).arg(shot->photos.size());
    painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, photo.aside ? tr("set aside · %1").arg(number) : number);
    if (current_)
        Q_EMIT painted();
}

void PictureView::paint_beside(QPainter& painter, const QColor& ink) const
{
    const auto other = beside();
    if (!other || picture_size().empty())
        return;
    painter.setPen(ink);
    const auto text_below = [&](const QRectF& photo, PhotoIndex index) {
        painter.drawText(QRectF(photo.left(), photo.bottom() + 2, photo.width(), caption_height),
                         Qt::AlignLeft | Qt::AlignVCenter, step_->beside_text(index));
    };
    text_below(place(), viewing_.shown_photo());
    const cv::Size size = picture_size();
    const QRectF where = place_in(room_beside(), QSizeF(size.width, size.height) / devicePixelRatioF());
    const QImage image = loader_.best(request_beside());
    painter.setClipRect(room_beside());
    if (!image.isNull())
        painter.drawImage(where, image);
    step_->paint_over(painter, where, image);
    painter.setClipping(false);
    text_below(where, *other);
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
