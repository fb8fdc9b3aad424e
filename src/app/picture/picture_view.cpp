#include "app/picture/picture_view.h"

#include "app/theme/colours.h"
#include "core/base/text.h"
#include "core/document/steady_edits.h"

#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {
constexpr int caption = 26; ///< height of the line above the photo
constexpr int air = 12;
}

PictureView::PictureView(Viewing& viewing, PhotoLoader& loader, QWidget* parent)
    : QWidget(parent), viewing_(viewing), loader_(loader)
{
    setAccessibleName(tr("Picture"));
    setToolTip(tr("Double-click for full size (Z)"));
    setMinimumSize(240, 160);
    setAttribute(Qt::WA_OpaquePaintEvent);
    for (const auto signal : {&Viewing::playhead_changed, &Viewing::selection_changed, &Viewing::shot_changed})
        connect(&viewing, signal, this, &PictureView::look);
    connect(&loader, &PhotoLoader::arrived, this, &PictureView::look);
    blink_.setInterval(450);
    connect(&blink_, &QTimer::timeout, this, [this] { show_before(!before_); });
}

void PictureView::set_blinking(bool on)
{
    if (on == blink_.isActive())
        return;
    on ? blink_.start() : blink_.stop();
    show_before(false);
    Q_EMIT resized(); // another photo is wanted beside this one, or no longer
}

void PictureView::show_before(bool on)
{
    before_ = on && photo_before().value >= 0;
    look();
}

void PictureView::show_as_shot(bool on)
{
    as_shot_ = on;
    Q_EMIT resized();
    look();
}

void PictureView::set_onion_skin(const OnionSkin& skin)
{
    if (skin == onion_)
        return;
    onion_ = skin;
    Q_EMIT onion_skin_changed();
    Q_EMIT resized();
    update();
}

void PictureView::set_timing_line(const QString& text)
{
    if (text.isEmpty() != timing_line_.isEmpty()) {
        timing_line_ = text;
        Q_EMIT resized();
        look();
        return;
    }
    timing_line_ = text;
    update(QRect(0, height() - caption, width(), caption));
}

void PictureView::set_playing(bool playing)
{
    playing_ = playing;
    update();
}

PhotoIndex PictureView::photo_before() const
{
    if (viewing_.step() == Step::sort)
        return viewing_.shown_photo() - 1;
    const Shot* shot = viewing_.shot();
    return viewing_.step() == Step::steady && shot ? reference_photo(*shot).value_or(PhotoIndex(-1)) : PhotoIndex(-1);
}

std::vector<PhotoIndex> PictureView::also_wanted() const
{
    std::vector<PhotoIndex> photos;
    if (blink_.isActive() && photo_before().value >= 0)
        photos.push_back(photo_before());
    for (const auto& [photo, away] : onion_photos())
        photos.push_back(photo);
    return photos;
}

bool PictureView::onion_shows() const
{
    return onion_.on && !playing_ && !as_shot_ && viewing_.step() != Step::sort && viewing_.schedule().frames() > 0;
}

std::vector<std::pair<PhotoIndex, int>> PictureView::onion_photos() const
{
    std::vector<std::pair<PhotoIndex, int>> photos;
    if (!onion_shows())
        return photos;
    const auto spans = viewing_.schedule().spans();
    const auto here = std::int64_t(viewing_.schedule().span_at(viewing_.playhead()));
    const auto go = [&](int step, int most) {
        std::int64_t at = here;
        for (int away = 1; away <= most; ++away) {
            do // photos that no frame shows are passed over
                at += step;
            while (at >= 0 && at < std::int64_t(spans.size()) && spans[std::size_t(at)].frames() == 0);
            if (at < 0 || at >= std::int64_t(spans.size()))
                return;
            photos.emplace_back(spans[std::size_t(at)].photo, step * away);
        }
    };
    go(-1, onion_.difference ? std::min(1, onion_.back) : onion_.back);
    go(1, onion_.difference ? int(onion_.back == 0 && onion_.ahead > 0) : onion_.ahead);
    std::stable_sort(photos.begin(), photos.end(), [](const auto& a, const auto& b) { return std::abs(a.second) > std::abs(b.second); });
    return photos;
}

PhotoIndex PictureView::photo_now() const
{
    return before_ ? photo_before() : viewing_.shown_photo();
}

QRect PictureView::room() const
{
    return rect().adjusted(air, caption, -air, timing_line_.isEmpty() ? -air : -caption);
}

cv::Size PictureView::picture_size() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || room().width() < 8 || room().height() < 8)
        return {};
    // In Sort a photo is seen in its own shape; in the film all take the film's.
    cv::Size shape = film_size(*shot);
    const PhotoIndex photo = viewing_.shown_photo();
    if ((viewing_.step() == Step::sort || as_shot_) && photo.value >= 0)
        shape = seen_size(shot->photos[photo.at()]);
    if (shape.empty())
        return {};
    const double ratio = devicePixelRatioF();
    if (full_size_)
        return shape;
    const cv::Size box(int(room().width() * ratio), int(room().height() * ratio));
    const cv::Size fit = fitted(shape, box);
    return fit.width > shape.width ? shape : fit; // a small photo is not blown up
}

PictureRequest PictureView::request() const
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = photo_now();
    const cv::Size size = picture_size();
    if (!shot || photo.value < 0 || size.empty())
        return {};
    if (before_ && viewing_.step() != Step::sort)
        return request_for_shares(*shot, std::array{Share{photo}}, size);
    return viewing_.step() == Step::sort || as_shot_ ? request_for_photo(*shot, photo, size)
                                         : frame_request(*shot, viewing_.schedule(), viewing_.playhead(), size);
}

bool PictureView::shows_what_it_should() const
{
    return current_;
}

void PictureView::look()
{
    const PictureRequest wanted = request();
    setAccessibleDescription(wanted.photo ? QString::fromStdString(shown_path(wanted.photo->file.filename())) : QString());
    if (!wanted.photo || loader_.unreadable().contains(wanted.photo)) {
        shown_ = {};
        current_ = false;
    } else if (const QImage image = loader_.best(wanted); !image.isNull()) {
        shown_ = image;
        current_ = true;
    } else {
        current_ = false;
    }
    update();
}

void PictureView::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    Q_EMIT resized();
    look();
}

QRectF PictureView::place() const
{
    const double ratio = devicePixelRatioF();
    const QRectF r = room();
    QSizeF size = QSizeF(shown_.size()) / ratio;
    if (const cv::Size wanted = picture_size(); full_size_) // what is there may still be smaller
        size = QSizeF(wanted.width, wanted.height) / ratio;
    else if (size.width() > r.width() || size.height() > r.height()) // of a moment before, while it resizes
        size.scale(r.size(), Qt::KeepAspectRatio);
    const auto start = [](double from, double space, double length, double middle) {
        // Larger than its space it covers it; else it lies in the middle of it.
        return length <= space ? from + (space - length) / 2
                               : std::clamp(from + space / 2 - middle * length, from + space - length, from);
    };
    const QPointF at(start(r.left(), r.width(), size.width(), middle_.x()), start(r.top(), r.height(), size.height(), middle_.y()));
    return {QPointF(std::round(at.x() * ratio) / ratio, std::round(at.y() * ratio) / ratio), size};
}

void PictureView::look_at_middle(QPointF middle)
{
    middle_ = {std::clamp(middle.x(), 0.0, 1.0), std::clamp(middle.y(), 0.0, 1.0)};
    update();
}

void PictureView::set_full_size(bool on)
{
    if (on == full_size_)
        return;
    full_size_ = on;
    setCursor(on ? Qt::OpenHandCursor : Qt::ArrowCursor);
    Q_EMIT resized();
    look();
}

void PictureView::mouseDoubleClickEvent(QMouseEvent* event)
{
    const QRectF p = place();
    if (!full_size_ && p.width() > 0 && p.height() > 0)
        look_at_middle({(event->position().x() - p.left()) / p.width(), (event->position().y() - p.top()) / p.height()});
    set_full_size(!full_size_);
}

void PictureView::mousePressEvent(QMouseEvent* event)
{
    dragged_from_ = event->pos();
}

void PictureView::mouseMoveEvent(QMouseEvent* event)
{
    if (!full_size_ || !(event->buttons() & Qt::LeftButton))
        return;
    const QRectF p = place();
    const QPointF by = event->pos() - dragged_from_;
    dragged_from_ = event->pos();
    look_at_middle(middle_ - QPointF(by.x() / p.width(), by.y() / p.height()));
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
        painter.restore();
    }
    const QRect line(air, 0, width() - 2 * air, caption);
    const QString size = photo.photo->size.empty()
                             ? QString()
                             : QStringLiteral(" · %1 × %2").arg(seen_size(photo).width).arg(seen_size(photo).height);
    painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromStdString(shown_path(photo.photo->file.filename())) + size);
    if (before_ || blink_.isActive())
        painter.drawText(line, Qt::AlignCenter, !before_ ? tr("this one") : viewing_.step() == Step::sort ? tr("the one before") : tr("the reference photo"));
    if (as_shot_)
        painter.drawText(line, Qt::AlignCenter, tr("as shot"));
    else if (onion_shows())
        painter.drawText(line, Qt::AlignCenter, onion_text());
    if (!timing_line_.isEmpty())
        painter.drawText(QRect(air, height() - caption, width() - 2 * air, caption), Qt::AlignLeft | Qt::AlignVCenter, timing_line_);
    const QString number = tr("photo %1 of %2").arg(index.value + 1).arg(shot->photos.size());
    painter.drawText(line, Qt::AlignRight | Qt::AlignVCenter, photo.aside ? tr("set aside · %1").arg(number) : number);
    if (current_)
        Q_EMIT painted();
}

void PictureView::paint_onion(QPainter& painter, const QRectF& where) const
{
    const Shot& shot = *viewing_.shot();
    for (const auto& [photo, away] : onion_photos()) {
        const QImage other = loader_.best(request_for_shares(shot, std::array{Share{photo}}, picture_size()));
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
