#include "app/steps/shoot/live_view.h"

#include "core/steps/shoot/path_marks.h"

#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

LiveView::LiveView(CameraDesk& desk, QWidget* parent) : QWidget(parent), desk_(desk)
{
    setAccessibleName(tr("Live picture"));
    setMinimumSize(240, 160);
    setAttribute(Qt::WA_OpaquePaintEvent);
    connect(&desk, &CameraDesk::live_changed, this, [this] {
        if (look_.magnifier)
            best_sharpness_ = std::max(best_sharpness_, desk_.live().sharpness);
        if (look_.over == LiveLook::Over::difference && desk_.live().image.size() != wished_for_)
            wish();
        update();
    });
    connect(&desk, &CameraDesk::state_changed, this, qOverload<>(&QWidget::update));
    blink_.setInterval(450);
    connect(&blink_, &QTimer::timeout, this, [this] {
        blinked_ = !blinked_;
        update();
    });
    play_.setTimerType(Qt::PreciseTimer);
    play_.setSingleShot(true);
    connect(&play_, &QTimer::timeout, this, [this] {
        update();
        if (!played_.empty()) { // woken when the next one begins
            double at = std::fmod(double(played_since_.nsecsElapsed()) * 1e-9, live_seconds_);
            double end = 0;
            for (const PlayedPhoto& p : played_) {
                end += p.seconds;
                if (at < end)
                    break;
            }
            if (at >= end)
                end = live_seconds_;
            play_.start(std::max(1, int(std::ceil((end - at) * 1000))));
        }
    });
    flash_ends_.setSingleShot(true);
    connect(&flash_ends_, &QTimer::timeout, this, [this] {
        flash_.clear();
        update();
    });
    wish();
}

void LiveView::wish()
{
    const double ratio = devicePixelRatioF();
    LiveWish w;
    w.size = {std::max(64, int(room().width() * ratio)), std::max(64, int(room().height() * ratio))};
    if (look_.clipped)
        w.clipped = Colours::of(palette());
    w.histogram = look_.histogram;
    w.magnifier = look_.magnifier;
    w.magnified = {magnified_.x(), magnified_.y()};
    const QSize live = desk_.live().image.size();
    if (look_.over == LiveLook::Over::difference && !photos_.empty() && !live.isEmpty()) {
        constexpr double strongest = 8;
        w.compared = photos_.front()
                         .scaled(live, Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                         .convertToFormat(QImage::Format_RGB32);
        w.gain = 1 + look_.strength * strongest;
    }
    wished_for_ = live;
    desk_.set_wish(w);
}

void LiveView::set_look(const LiveLook& look)
{
    if (look == look_)
        return;
    if (look.magnifier != look_.magnifier)
        best_sharpness_ = 0;
    look_ = look;
    onion_ = {};
    blinked_ = false;
    look_.over == LiveLook::Over::blink ? blink_.start() : blink_.stop();
    wish();
    update();
    Q_EMIT look_changed();
}

void LiveView::set_photos(std::vector<QImage> photos)
{
    photos_ = std::move(photos);
    onion_ = {};
    wish();
    update();
}

void LiveView::set_reference(const QImage& image)
{
    reference_ = image;
    update();
}

void LiveView::set_paths(std::vector<MarkPath> paths, std::int64_t next)
{
    paths_ = std::move(paths);
    next_ = next;
    update();
}

void LiveView::set_texts(const QString& next, const QString& news)
{
    next_text_ = next;
    news_ = news;
    update();
}

void LiveView::set_strip(QWidget* strip)
{
    strip_ = strip;
    strip_->setParent(this);
}

void LiveView::play(std::vector<PlayedPhoto> photos, double live_seconds)
{
    played_ = std::move(photos);
    live_seconds_ = live_seconds;
    for (const PlayedPhoto& p : played_)
        live_seconds_ += p.seconds; // of one time round
    if (played_.empty() || live_seconds_ <= 0) {
        played_.clear();
        return;
    }
    played_since_.start();
    play_.start(0);
}

void LiveView::stop_playing()
{
    played_.clear();
    play_.stop();
    update();
}

std::size_t LiveView::played_now() const
{
    if (played_.empty())
        return 0;
    const double at = std::fmod(double(played_since_.nsecsElapsed()) * 1e-9, live_seconds_);
    double end = 0;
    for (std::size_t i = 0; i < played_.size(); ++i) {
        end += played_[i].seconds;
        if (at < end)
            return i;
    }
    return played_.size();
}

void LiveView::set_drawing(bool on)
{
    drawing_ = on;
    stroke_.clear();
    pulled_point_.reset();
    setCursor(on ? Qt::CrossCursor : Qt::ArrowCursor);
    update();
}

void LiveView::flash(const QString& text)
{
    constexpr int shown = 700;
    flash_ = text;
    flash_ends_.start(shown);
    update();
}

QRect LiveView::room() const
{
    const int below = strip_ && strip_->isVisibleTo(this) ? strip_->height() + 6 : air;
    return rect().adjusted(air, caption_height, -air, -below);
}

QRectF LiveView::place() const
{
    const QRect r = room();
    QSizeF size = desk_.live().image.size();
    if (size.isEmpty())
        size = QSizeF(16, 9);
    size.scale(r.size(), Qt::KeepAspectRatio);
    return {QPointF(r.left() + std::round((r.width() - size.width()) / 2),
                    r.top() + std::round((r.height() - size.height()) / 2)),
            size};
}

QPointF LiveView::share_of(QPointF at) const
{
    const QRectF p = place();
    return {(at.x() - p.left()) / p.width(), (at.y() - p.top()) / p.height()};
}

QPointF LiveView::at_share(cv::Point2d share) const
{
    const QRectF p = place();
    return {p.left() + share.x * p.width(), p.top() + share.y * p.height()};
}

void LiveView::resizeEvent(QResizeEvent* event)
{
    QWidget::resizeEvent(event);
    lay_out();
}

void LiveView::lay_out()
{
    if (strip_)
        strip_->setGeometry(air, height() - strip_->height() - 2, width() - 2 * air, strip_->height());
    onion_ = {};
    wish();
    update();
}

void LiveView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    const QPointF at = share_of(event->position());
    if (!drawing_) {
        pulling_ = true;
        pulled_from_ = at;
        desk_.pull(at, at);
        return;
    }
    constexpr double near = 9;
    for (std::size_t i = 0; i < paths_.size(); ++i)
        for (std::size_t k = 0; k < paths_[i].points.size(); ++k)
            if (QLineF(at_share(paths_[i].points[k]), event->position()).length() < near) {
                pulled_point_ = {i, k};
                return;
            }
    stroke_ = {{at.x(), at.y()}};
}

/// The magnifier goes there; where it is not, it comes.
void LiveView::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (drawing_)
        return mousePressEvent(event);
    magnified_ = share_of(event->position());
    best_sharpness_ = 0;
    LiveLook look = look_;
    look.magnifier = true;
    set_look(look);
    wish();
}

void LiveView::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & Qt::LeftButton))
        return;
    const QPointF at = share_of(event->position());
    if (pulled_point_) {
        paths_.at(pulled_point_->first).points.at(pulled_point_->second) = {at.x(), at.y()};
        update();
    } else if (drawing_ && !stroke_.empty()) {
        stroke_.emplace_back(at.x(), at.y());
        update();
    } else if (pulling_) {
        desk_.pull(pulled_from_, at);
        pulled_from_ = at;
    }
}

void LiveView::mouseReleaseEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton)
        return;
    pulling_ = false;
    if (pulled_point_) {
        const std::size_t path = pulled_point_->first;
        pulled_point_.reset();
        Q_EMIT path_changed(path, paths_.at(path));
    } else if (stroke_.size() > 1) {
        const auto points = std::exchange(stroke_, {});
        Q_EMIT drawn(points);
    }
    stroke_.clear();
    update();
}

}
