#include "app/picture/picture_view.h"

#include "app/theme/colours.h"
#include "core/base/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <QTabletEvent>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {
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

void PictureView::set_comparing(Compare how)
{
    if (how == compare_)
        return;
    compare_ = how;
    how == Compare::blink ? blink_.start() : blink_.stop();
    show_before(false);
    Q_EMIT comparing_changed();
    Q_EMIT resized(); // another photo is wanted beside this one, or no longer
}

void PictureView::set_tool(PictureTool* tool)
{
    if (tool == tool_)
        return;
    if (tool_)
        tool_->disconnect(this);
    tool_ = tool;
    const auto show_again = [this] {
        Q_EMIT resized();
        look();
    };
    if (tool) {
        connect(tool, &PictureTool::changed, this, show_again);
        connect(tool, &PictureTool::repaint, this, qOverload<>(&QWidget::update));
    }
    setCursor(tool ? Qt::CrossCursor : full_size_ ? Qt::OpenHandCursor : Qt::ArrowCursor);
    show_again();
    Q_EMIT tool_changed();
}

void PictureView::show_before(bool on)
{
    before_ = on && compared_photo().value >= 0;
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
    update(QRect(0, height() - caption_height, width(), caption_height));
}

void PictureView::set_playing(bool playing)
{
    playing_ = playing;
    update();
}

void PictureView::set_step(const PictureStep* step)
{
    step_ = step;
    Q_EMIT resized();
    look();
}

PhotoIndex PictureView::compared_photo() const
{
    return viewing_.shot() && step_ ? there_still(step_->compared_photo()) : PhotoIndex(-1);
}

std::optional<FrameRequest> PictureView::compared() const
{
    if (!viewing_.shot() || !step_ || compare_ == Compare::off || compare_ == Compare::blink || as_shot_ || playing_ ||
        picture_size().empty())
        return std::nullopt;
    if (auto picture = step_->compared_picture(picture_size()))
        return picture;
    const PhotoIndex other = compared_photo();
    return other.value >= 0 && other != viewing_.shown_photo() ? std::optional(request_of(other)) : std::nullopt;
}

std::vector<PhotoIndex> PictureView::also_wanted() const
{
    std::vector<PhotoIndex> photos;
    if (tool_)
        return photos;
    if ((compare_ == Compare::blink || before_) && compared_photo().value >= 0)
        photos.push_back(before_ ? viewing_.shown_photo() : compared_photo());
    for (const auto& [photo, away] : onion_photos())
        photos.push_back(photo);
    return photos;
}

std::vector<FrameRequest> PictureView::requests() const
{
    std::vector<FrameRequest> all;
    const auto add = [&](PhotoIndex photo) {
        if (FrameRequest r = request_of(photo); r.photo())
            all.push_back(std::move(r));
    };
    add(photo_now());
    for (const PhotoIndex photo : also_wanted())
        add(photo);
    if (const auto other = tool_ ? std::nullopt : compared())
        all.push_back(*other);
    if (beside() && !picture_size().empty())
        all.push_back(request_beside());
    return all;
}

bool PictureView::onion_shows() const
{
    return onion_.on && !playing_ && !whole_photo() && !viewing_.step().tiles && viewing_.schedule().frames() > 0;
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
    std::stable_sort(photos.begin(), photos.end(),
                     [](const auto& a, const auto& b) { return std::abs(a.second) > std::abs(b.second); });
    return photos;
}

PhotoIndex PictureView::photo_now() const
{
    if (tool_ && tool_->photo())
        return there_still(*tool_->photo());
    return before_ ? compared_photo() : viewing_.shown_photo();
}

/// Tools and steps may not have heard yet that the shot is another.
PhotoIndex PictureView::there_still(PhotoIndex photo) const
{
    const Shot* shot = viewing_.shot();
    return shot && photo.value >= 0 && photo.at() < shot->photos.size() ? photo : PhotoIndex(-1);
}

bool PictureView::whole_photo() const
{
    return viewing_.step().tiles || as_shot_ || tool_;
}

QRect PictureView::whole_room() const
{
    return rect().adjusted(air, caption_height, -air, timing_line_.isEmpty() && !beside() ? -air : -caption_height);
}

std::optional<PhotoIndex> PictureView::beside() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || !step_ || tool_ || playing_ || full_size_ || as_shot_ || viewing_.step().tiles)
        return std::nullopt;
    const auto other = step_->beside();
    return other && other->value >= 0 && other->at() < shot->photos.size() && *other != viewing_.shown_photo()
               ? other
               : std::nullopt;
}

/// In the order of the film, so that neither jumps when the other one is looked at.
QRect PictureView::room() const
{
    QRect r = whole_room();
    if (const auto other = beside()) {
        const int half = (r.width() - air) / 2;
        *other < viewing_.shown_photo() ? r.setLeft(r.right() + 1 - half) : r.setWidth(half);
    }
    return r;
}

QRect PictureView::room_beside() const
{
    const QRect all = whole_room(), mine = room();
    QRect r = mine;
    r.moveLeft(mine.left() == all.left() ? all.right() + 1 - mine.width() : all.left());
    return r;
}

FrameRequest PictureView::request_beside() const
{
    return viewing_.photo_in_frame(*beside(), picture_size());
}

cv::Size PictureView::picture_size() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || room().width() < 8 || room().height() < 8)
        return {};
    // Among tiles a photo is seen in its own shape; in the film all take the film's.
    cv::Size shape = viewing_.film() ? viewing_.film()->size() : cv::Size();
    const PhotoIndex photo = tool_ ? photo_now() : viewing_.shown_photo();
    if (whole_photo() && photo.value >= 0)
        shape = seen_size(shot->photos[photo.at()]);
    if (tool_)
        if (const cv::Size own = tool_->shape(*shot); !own.empty())
            shape = own;
    if (shape.empty())
        return {};
    const double ratio = devicePixelRatioF();
    if (full_size_)
        return shape;
    const cv::Size box(int(room().width() * ratio), int(room().height() * ratio));
    const cv::Size fit = fitted(shape, box);
    return fit.width > shape.width ? shape : fit; // a small photo is not blown up
}

FrameRequest PictureView::request_of(PhotoIndex photo) const
{
    const Shot* shot = viewing_.shot();
    const cv::Size size = picture_size();
    if (!shot || photo.value < 0 || photo.at() >= shot->photos.size() || size.empty())
        return {};
    if (tool_)
        if (auto own = tool_->picture(*shot, photo, size))
            return *std::move(own);
    if (whole_photo())
        return request_for_photo(*shot, photo, size);
    // Under the player it is the frame, which may be mixed of several.
    return photo == viewing_.shown_photo() ? viewing_.film()->frame(viewing_.playhead(), {.size = size})
                                           : viewing_.photo_in_frame(photo, size);
}

bool PictureView::shows_what_it_should() const
{
    return current_;
}

void PictureView::look()
{
    const FrameRequest wanted = request_of(photo_now());
    setAccessibleDescription(wanted.photo() ? QString::fromStdString(shown_name(*wanted.photo())) : QString());
    if (!wanted.photo() || loader_.unreadable().contains(wanted.photo())) {
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
    return place_in(room(), size);
}

QRectF PictureView::place_in(const QRect& room, QSizeF size) const
{
    const QRectF r = room;
    const double ratio = devicePixelRatioF();
    const auto start = [](double from, double space, double length, double middle) {
        // Larger than its space it covers it; else it lies in the middle of it.
        return length <= space ? from + (space - length) / 2
                               : std::clamp(from + space / 2 - middle * length, from + space - length, from);
    };
    const QPointF at(start(r.left(), r.width(), size.width(), middle_.x()),
                     start(r.top(), r.height(), size.height(), middle_.y()));
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
    if (tool_)
        return; // two clicks are two points
    const QRectF p = place();
    if (!full_size_ && p.width() > 0 && p.height() > 0)
        look_at_middle(
            {(event->position().x() - p.left()) / p.width(), (event->position().y() - p.top()) / p.height()});
    set_full_size(!full_size_);
}

QPointF PictureView::share_of(QPointF in_widget) const
{
    const QRectF p = place();
    return p.isEmpty() ? QPointF()
                       : QPointF((in_widget.x() - p.left()) / p.width(), (in_widget.y() - p.top()) / p.height());
}

/// Qt makes mouse events of it, which do the rest.
void PictureView::tabletEvent(QTabletEvent* event)
{
    if (tool_)
        tool_->pressure(event->type() == QEvent::TabletRelease ? 1 : event->pressure());
    event->ignore();
}

void PictureView::mousePressEvent(QMouseEvent* event)
{
    dragged_from_ = event->pos();
    if (const auto other = beside(); other && room_beside().contains(event->pos())) {
        viewing_.go_to_photo(*other);
        return;
    }
    if (tool_ && event->button() == Qt::LeftButton)
        tool_->press(share_of(event->position()));
    else if (compare_ == Compare::split && !full_size_)
        mouseMoveEvent(event);
}

void PictureView::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & Qt::LeftButton))
        return;
    if (tool_) {
        tool_->drag(share_of(event->position()));
        return;
    }
    if (compare_ == Compare::split && !full_size_) {
        split_ = std::clamp(share_of(event->position()).x(), 0.0, 1.0);
        update();
        return;
    }
    if (!full_size_)
        return;
    const QRectF p = place();
    const QPointF by = event->pos() - dragged_from_;
    dragged_from_ = event->pos();
    look_at_middle(middle_ - QPointF(by.x() / p.width(), by.y() / p.height()));
}

void PictureView::mouseReleaseEvent(QMouseEvent* event)
{
    if (tool_ && event->button() == Qt::LeftButton)
        tool_->release(share_of(event->position()));
}

}
