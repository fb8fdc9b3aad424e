// How the live picture looks. What is shown is decided in live_view.cpp.
#include "app/picture/onion_skin.h"
#include "app/steps/shoot/live_view.h"
#include "app/theme/colours.h"
#include "core/steps/shoot/path_marks.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

/// The largest rectangle of an image's shape in the middle of another.
QRectF fitted_in(const QRectF& where, const QSizeF& shape)
{
    const QSizeF size = shape.scaled(where.size(), Qt::KeepAspectRatio);
    return {where.center() - QPointF(size.width() / 2, size.height() / 2), size};
}

}

void LiveView::mix_onion()
{
    const QImage& live = desk_.live().image;
    if (!onion_.isNull() && onion_.size() == live.size())
        return;
    onion_ = QImage(live.size(), QImage::Format_ARGB32_Premultiplied);
    onion_.fill(Qt::transparent);
    QPainter painter(&onion_);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF all(QPointF(0, 0), QSizeF(live.size()));
    const OnionSkin skin{.strength = look_.strength};
    for (int i = std::min(look_.photos, int(photos_.size())) - 1; i >= 0; --i) { // the oldest first
        const QImage& photo = photos_[std::size_t(i)];
        if (photo.isNull())
            continue;
        painter.setOpacity(onion_opacity(skin, i + 1));
        painter.drawImage(fitted_in(all, photo.size()), photo);
    }
}

void LiveView::paint_picture(QPainter& painter, const QRectF& where)
{
    using Over = LiveLook::Over;
    const QImage& live = desk_.live().image;
    const std::size_t now = played_now();
    if (playing() && now < played_.size()) {
        painter.drawImage(fitted_in(where, played_[now].image.size()), played_[now].image);
        return;
    }
    const QImage last = photos_.empty() ? QImage() : photos_.front();
    if (!last.isNull() && (look_.over == Over::last_photo || (look_.over == Over::blink && blinked_))) {
        painter.drawImage(fitted_in(where, last.size()), last);
        return;
    }
    if (live.isNull())
        return;
    if (look_.over == Over::difference && !last.isNull()) {
        const QImage& difference = desk_.live().difference;
        painter.drawImage(where, difference.isNull() ? live : difference);
        return;
    }
    painter.drawImage(where, live);
    if (look_.over == Over::seen_through && !photos_.empty() && !playing()) {
        mix_onion();
        painter.drawImage(where, onion_);
    }
    paint_reference(painter, where);
    if (look_.clipped)
        painter.drawImage(where, desk_.live().clipped);
}

void LiveView::paint_reference(QPainter& painter, const QRectF& where) const
{
    if (reference_.isNull() || playing())
        return;
    const QRectF place = fitted_in(where, reference_.size());
    painter.save();
    if (look_.reference_over) {
        painter.setOpacity(look_.reference_strength);
        painter.drawImage(place, reference_);
    } else { // the live picture lies over it, and is seen through as far
        painter.drawImage(place, reference_);
        painter.setOpacity(1 - look_.reference_strength);
        painter.drawImage(where, desk_.live().image);
    }
    painter.restore();
}

void LiveView::paint_guides(QPainter& painter, const QRectF& where) const
{
    painter.setRenderHint(QPainter::Antialiasing, false);
    if (look_.mask > Fraction(0)) {
        const QSizeF shape(look_.mask.approx(), 1);
        const QRectF inside = fitted_in(where, shape);
        QPainterPath outside;
        outside.addRect(where);
        outside.addRect(inside);
        painter.fillPath(outside, QColor(0, 0, 0, 150));
        painter.setPen(QPen(QColor(255, 255, 255, 150), 1));
        painter.drawRect(inside.adjusted(0, 0, -1, -1));
    }
    if (look_.grid) {
        constexpr int parts = 6;
        for (int i = 1; i < parts; ++i) {
            const double x = where.left() + where.width() * i / parts, y = where.top() + where.height() * i / parts;
            for (const auto& [colour, off] : {std::pair{QColor(0, 0, 0, 90), 1.0}, {QColor(255, 255, 255, 130), 0.0}}) {
                painter.setPen(QPen(colour, 1, i * 2 == parts ? Qt::SolidLine : Qt::DotLine));
                painter.drawLine(QPointF(x + off, where.top()), QPointF(x + off, where.bottom()));
                painter.drawLine(QPointF(where.left(), y + off), QPointF(where.right(), y + off));
            }
        }
    }
    painter.setRenderHint(QPainter::Antialiasing);
    if (look_.rulers)
        paint_rulers(painter, where);
}

/// Along two sides, in percent of the picture's height, from its middle: what is said of a place is true at any size.
void LiveView::paint_rulers(QPainter& painter, const QRectF& where) const
{
    painter.save();
    QFont small = font();
    small.setPixelSize(10);
    painter.setFont(small);
    const double unit = where.height() / 100;
    const auto mark = [&](double at, bool across, int percent) {
        const double length = percent % 50 == 0 ? 12 : percent % 10 == 0 ? 8 : 4;
        const QPointF a = across ? QPointF(at, where.bottom()) : QPointF(where.left(), at);
        const QPointF b = across ? QPointF(at, where.bottom() - length) : QPointF(where.left() + length, at);
        painter.setPen(QPen(QColor(0, 0, 0, 120), 3));
        painter.drawLine(a, b);
        painter.setPen(QPen(QColor(255, 255, 255, 220), 1));
        painter.drawLine(a, b);
        if (percent % 10 == 0 && percent != 0) {
            const QPointF text = across ? QPointF(at - 7, where.bottom() - 14) : QPointF(where.left() + 14, at + 4);
            painter.drawText(text, QString::number(std::abs(percent)));
        }
    };
    const int wide = int(where.width() / unit / 2);
    for (int p = -wide + wide % 5; p <= wide; p += 5)
        mark(where.center().x() + p * unit, true, p);
    for (int p = -45; p <= 45; p += 5)
        mark(where.center().y() + p * unit, false, p);
    painter.restore();
}

/// The curve, a mark for each photo, those that are done filled, and a ring where something should be on the next.
void LiveView::paint_paths(QPainter& painter) const
{
    const Colours c = Colours::of(palette());
    const auto line = [&](const std::vector<cv::Point2d>& points) {
        QPainterPath path;
        for (std::size_t i = 0; i < points.size(); ++i)
            i == 0 ? path.moveTo(at_share(points[i])) : path.lineTo(at_share(points[i]));
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(QColor(0, 0, 0, 110), 3));
        painter.drawPath(path);
        painter.setPen(QPen(c.raised, 1.2));
        painter.drawPath(path);
    };
    if (stroke_.size() > 1)
        line(stroke_);
    for (const MarkPath& path : paths_) {
        line(curve_of(path));
        const auto marks = marks_of(path);
        for (std::size_t i = 0; i < marks.size(); ++i) {
            const QPointF at = at_share(marks[i]);
            const bool past = path.first + std::int64_t(i) < next_;
            painter.setPen(QPen(QColor(0, 0, 0, 160), 1));
            painter.setBrush(past ? c.ink : c.raised);
            painter.drawEllipse(at, 2.6, 2.6);
        }
        if (const auto here = mark_at(path, next_)) {
            const QPointF at = at_share(*here);
            painter.setBrush(Qt::NoBrush);
            painter.setPen(QPen(c.raised, 5));
            painter.drawEllipse(at, 10, 10);
            painter.setPen(QPen(c.clay, 2.5));
            painter.drawEllipse(at, 10, 10);
        }
        if (drawing_)
            for (const auto& p : path.points) {
                painter.setPen(QPen(c.ink, 1));
                painter.setBrush(c.raised);
                const QPointF at = at_share(p);
                painter.drawRect(QRectF(at - QPointF(4, 4), at + QPointF(4, 4)));
            }
    }
}

void LiveView::paint_magnifier(QPainter& painter, const QRectF& where) const
{
    const LivePicture& live = desk_.live();
    if (!look_.magnifier || live.magnified.isNull())
        return;
    const Colours c = Colours::of(palette());
    QSizeF size = live.magnified.size();
    size.scale(QSizeF(where.width() * 0.42, where.height() * 0.6), Qt::KeepAspectRatio);
    const QRectF at(where.right() - size.width() - 8, where.top() + 8, size.width(), size.height());
    painter.drawImage(at, live.magnified);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(c.raised, 3));
    painter.drawRect(at);
    // How sharp it is against the sharpest since it was switched on.
    const double share = best_sharpness_ > 0 ? live.sharpness / best_sharpness_ : 0;
    const QRectF bar(at.left(), at.bottom() + 4, at.width(), 7);
    painter.fillRect(bar, QColor(0, 0, 0, 130));
    painter.fillRect(QRectF(bar.left(), bar.top(), bar.width() * std::min(1.0, share), bar.height()), c.raised);
    painter.setPen(c.raised);
    painter.drawText(QRectF(at.left(), bar.bottom() + 1, at.width(), 16), Qt::AlignLeft,
                     tr("%1 % of the sharpest seen").arg(std::lround(share * 100)));
}

void LiveView::paint_histogram(QPainter& painter, const QRectF& where) const
{
    const LivePicture& live = desk_.live();
    if (!look_.histogram)
        return;
    const int most = std::max(1, *std::max_element(live.histogram.begin(), live.histogram.end()));
    const Colours c = Colours::of(palette());
    const QRectF at(where.left() + 8, where.top() + 8, 132, 56);
    painter.fillRect(at, QColor(0, 0, 0, 140));
    const double column = (at.width() - 4) / double(live.histogram.size());
    for (std::size_t i = 0; i < live.histogram.size(); ++i) {
        const double high = std::sqrt(double(live.histogram[i]) / most) * (at.height() - 18);
        painter.fillRect(QRectF(at.left() + 2 + column * double(i), at.bottom() - 16 - high, column, high), c.raised);
    }
    QFont small = font();
    small.setPixelSize(11);
    painter.setFont(small);
    painter.setPen(c.raised);
    painter.drawText(QRectF(at.left() + 3, at.bottom() - 15, at.width() - 6, 14), Qt::AlignLeft,
                     tr("black %1 %").arg(live.dark_share * 100, 0, 'f', 1));
    painter.drawText(QRectF(at.left() + 3, at.bottom() - 15, at.width() - 6, 14), Qt::AlignRight,
                     tr("white %1 %").arg(live.bright_share * 100, 0, 'f', 1));
    painter.setFont(font());
}

QString LiveView::state_text() const
{
    using Over = LiveLook::Over;
    if (!flash_.isEmpty())
        return flash_;
    if (playing())
        return played_now() < played_.size() ? tr("playing photo %1 of %2").arg(played_now() + 1).arg(played_.size())
                                             : tr("live, as the next photo");
    if (drawing_)
        return tr("drag where something is to go; Esc ends it");
    if (!desk_.is_open())
        return {};
    switch (look_.over) {
    case Over::seen_through:
        return photos_.empty() ? tr("live")
                               : tr("onion skin: %1 back").arg(std::min(look_.photos, int(photos_.size())));
    case Over::difference:
        return photos_.empty() ? tr("live") : tr("what differs from the last photo");
    case Over::blink:
        return blinked_ && !photos_.empty() ? tr("the last photo") : tr("live");
    case Over::last_photo:
        return photos_.empty() ? tr("live") : tr("the last photo");
    case Over::nothing:
        break;
    }
    return tr("live");
}

void LiveView::paint_captions(QPainter& painter) const
{
    const Colours c = Colours::of(palette());
    const QRect line(air, 0, width() - 2 * air, caption_height);
    painter.setPen(c.on_surround);
    const QString state = state_text();
    const QFontMetrics metrics = painter.fontMetrics();
    const int beside = (line.width() - metrics.horizontalAdvance(state)) / 2 - 2 * air; // what is said in the middle
    QString camera = desk_.is_open() ? desk_.name() : QString();
    const auto add = [&](const QString& text) { // what there is room for
        if (metrics.horizontalAdvance(camera + text) <= beside)
            camera += text;
    };
    if (desk_.is_open() && desk_.live_rate() > 0)
        add(tr(" · %1 fps").arg(desk_.live_rate(), 0, 'f', 0));
    if (desk_.is_open() && !desk_.live().full.empty())
        add(QStringLiteral(" · %1 × %2").arg(desk_.live().full.width).arg(desk_.live().full.height));
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, metrics.elidedText(camera, Qt::ElideRight, beside));
    painter.drawText(line, Qt::AlignCenter, state);
    painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, next_text_);
}

void LiveView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const Colours c = Colours::of(palette());
    painter.fillRect(rect(), c.surround);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    const QRectF where = place();
    if (desk_.live().image.isNull() && !playing()) {
        painter.setPen(c.on_surround);
        const QString text = desk_.opening() ? tr("The camera is being opened …")
                             : desk_.is_open()
                                 ? tr("%1 gives no live pictures. Photos can be taken all the same.").arg(desk_.name())
                                 : tr("No camera is open. Choose one below, on the page Camera.");
        painter.drawText(room(), Qt::AlignCenter | Qt::TextWordWrap, text);
    }
    painter.save();
    painter.setClipRect(where);
    paint_picture(painter, where);
    if (!playing()) {
        paint_guides(painter, where);
        paint_paths(painter);
        paint_magnifier(painter, where);
        paint_histogram(painter, where);
    }
    if (!flash_.isEmpty()) { // a frame in the paper's colour: the photo is safe
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(c.raised, 8));
        painter.drawRect(where);
    }
    painter.restore();
    paint_captions(painter);
    if (!desk_.live().image.isNull())
        Q_EMIT painted();
}

}
