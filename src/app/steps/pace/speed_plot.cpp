#include "app/steps/pace/speed_plot.h"

#include "app/theme/colours.h"
#include "core/project/speed_course.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr double margin_left = 46, margin = 8, margin_below = 18;
constexpr double peg_width = 8, peg_height = 16; ///< of a point
constexpr double reach = 12;                     ///< within which a press means a point

double within(double percent)
{
    return std::clamp(percent, speed_limits.low, speed_limits.high);
}

}

SpeedPlot::SpeedPlot(QWidget* parent) : QWidget(parent)
{
    setFocusPolicy(Qt::StrongFocus);
    install_plot_accessibility();
    setAccessibleName(tr("Speed course"));
    setToolTip(tr("Click to set a point, drag it; arrow keys move the point in hand, Delete takes it away, Page Up and "
                  "Page Down go from point to point"));
}

void SpeedPlot::show_course(std::vector<double> speeds, std::vector<CoursePoint> points)
{
    speeds_ = std::move(speeds);
    points_ = std::move(points);
    if (chosen_ && *chosen_ >= int(points_.size()))
        chosen_.reset();
    if (!pulled_) { // the scale stands still under the hand
        slowest_ = 20;
        fastest_ = 500;
        for (const CoursePoint& p : points_) {
            slowest_ = std::min(slowest_, p.percent / 2);
            fastest_ = std::max(fastest_, p.percent * 2);
        }
    }
    update();
}

PlotWords::Point SpeedPlot::spoken_point(int at) const
{
    const CoursePoint& p = points_[std::size_t(at)];
    return {tr("photo %1").arg(p.photo + 1), tr("%1 %").arg(std::lround(p.percent))};
}

void SpeedPlot::show_place(int photo)
{
    if (photo == place_)
        return;
    place_ = photo;
    update();
}

void SpeedPlot::choose(std::optional<int> point)
{
    if (point == chosen_)
        return;
    chosen_ = point;
    update();
    Q_EMIT point_chosen();
}

QRectF SpeedPlot::field() const
{
    return QRectF(rect()).adjusted(margin_left, margin, -margin, -margin_below);
}

QPointF SpeedPlot::at(double photo, double percent) const
{
    const QRectF f = field();
    const double across = speeds_.size() > 1 ? photo / double(speeds_.size() - 1) : 0.5;
    const double up = std::log(percent / slowest_) / std::log(fastest_ / slowest_);
    return {f.left() + across * f.width(), f.bottom() - up * f.height()};
}

SpeedPlot::CoursePoint SpeedPlot::under(QPointF place) const
{
    const QRectF f = field();
    const int last = std::max(0, int(speeds_.size()) - 1);
    const double up = std::clamp((f.bottom() - place.y()) / f.height(), 0.0, 1.0);
    return {std::clamp(int(std::lround((place.x() - f.left()) / f.width() * last)), 0, last),
            within(slowest_ * std::pow(fastest_ / slowest_, up))};
}

std::optional<int> SpeedPlot::point_under(QPointF place) const
{
    std::optional<int> nearest;
    double least = reach;
    for (std::size_t i = 0; i < points_.size(); ++i) {
        const QPointF d = at(points_[i].photo, points_[i].percent) - place;
        if (const double far = std::hypot(d.x(), d.y()); far < least) {
            least = far;
            nearest = int(i);
        }
    }
    return nearest;
}

/// Its keys are its own while it has the focus, whatever they are elsewhere in the window.
bool SpeedPlot::event(QEvent* event)
{
    constexpr std::array own{Qt::Key_Left,   Qt::Key_Right,    Qt::Key_Up,     Qt::Key_Down,
                             Qt::Key_PageUp, Qt::Key_PageDown, Qt::Key_Delete, Qt::Key_Backspace};
    if (event->type() == QEvent::ShortcutOverride &&
        std::find(own.begin(), own.end(), static_cast<QKeyEvent*>(event)->key()) != own.end()) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void SpeedPlot::paintEvent(QPaintEvent*)
{
    const Colours c = Colours::of(palette());
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF f = field();
    p.fillRect(f, c.raised);
    p.setPen(QPen(hasFocus() ? c.spruce : c.line, hasFocus() ? 2 : 1));
    p.drawRect(f);
    for (const double percent : std::array{12.5, 25.0, 50.0, 100.0, 200.0, 400.0, 800.0}) {
        if (percent < slowest_ || percent > fastest_)
            continue;
        const double y = at(0, percent).y();
        p.setPen(QPen(c.line, percent == 100 ? 1.5 : 1, percent == 100 ? Qt::SolidLine : Qt::DotLine));
        p.drawLine(QPointF(f.left(), y), QPointF(f.right(), y));
        p.setPen(c.second_ink);
        p.drawText(QRectF(0, y - 9, margin_left - 6, 18), Qt::AlignRight | Qt::AlignVCenter,
                   tr("%1 %").arg(percent, 0, 'g', 3));
    }
    p.setPen(c.second_ink);
    const QRectF below(f.left(), f.bottom() + 2, f.width(), margin_below - 2);
    p.drawText(below, Qt::AlignLeft | Qt::AlignVCenter, tr("photo 1"));
    p.drawText(below, Qt::AlignRight | Qt::AlignVCenter, QString::number(speeds_.size()));
    if (place_ >= 0) {
        p.setPen(QPen(c.clay, 1));
        const double x = at(place_, 100).x();
        p.drawLine(QPointF(x, f.top()), QPointF(x, f.bottom()));
    }
    if (!speeds_.empty()) {
        QPainterPath way(at(0, speeds_.front()));
        for (std::size_t i = 1; i < speeds_.size(); ++i)
            way.lineTo(at(double(i), speeds_[i]));
        if (speeds_.size() == 1)
            way.lineTo(way.currentPosition() + QPointF(1, 0));
        p.setClipRect(f);
        p.setPen(QPen(c.ink, 1.8));
        p.drawPath(way);
        p.setClipping(false);
    }
    for (std::size_t i = 0; i < points_.size(); ++i) {
        const bool in_hand = chosen_ == int(i);
        QRectF peg(0, 0, peg_width, peg_height);
        peg.moveCenter(at(points_[i].photo, points_[i].percent));
        p.setPen(QPen(in_hand ? c.spruce : c.ink, in_hand ? 2.5 : 1.2));
        p.setBrush(in_hand ? c.spruce_wash : c.raised);
        p.drawRoundedRect(peg, 3, 3);
    }
}

void SpeedPlot::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton || speeds_.empty())
        return;
    Q_EMIT begun();
    pulled_ = true;
    if (const auto point = point_under(event->position())) {
        choose(point);
        return;
    }
    const CoursePoint to = under(event->position());
    Q_EMIT point_added(to.photo, to.percent);
    for (std::size_t i = 0; i < points_.size(); ++i)
        if (points_[i].photo == to.photo)
            choose(int(i));
}

void SpeedPlot::mouseMoveEvent(QMouseEvent* event)
{
    if (!pulled_ || !chosen_)
        return;
    CoursePoint to = under(event->position());
    // No point passes another one.
    const auto which = std::size_t(*chosen_);
    if (which > 0)
        to.photo = std::max(to.photo, points_[which - 1].photo + 1);
    if (which + 1 < points_.size())
        to.photo = std::min(to.photo, points_[which + 1].photo - 1);
    if (to != points_[which])
        Q_EMIT point_moved(*chosen_, to.photo, to.percent);
}

void SpeedPlot::mouseReleaseEvent(QMouseEvent*)
{
    pulled_ = false;
    show_course(speeds_, points_);
}

void SpeedPlot::nudge(int photos, double factor)
{
    if (!chosen_)
        return;
    const auto which = std::size_t(*chosen_);
    const int photo = points_[which].photo + photos;
    const bool there = (which > 0 && photo <= points_[which - 1].photo) ||
                       (which + 1 < points_.size() && photo >= points_[which + 1].photo);
    if (there || photo < 0 || photo >= int(speeds_.size()))
        return;
    Q_EMIT begun();
    Q_EMIT point_moved(*chosen_, photo, within(points_[which].percent * factor));
}

void SpeedPlot::keyPressEvent(QKeyEvent* event)
{
    const double step = event->modifiers().testFlag(Qt::ShiftModifier) ? 1.25 : 1.05;
    switch (event->key()) {
    case Qt::Key_Left:
        nudge(-1, 1);
        break;
    case Qt::Key_Right:
        nudge(1, 1);
        break;
    case Qt::Key_Up:
        nudge(0, step);
        break;
    case Qt::Key_Down:
        nudge(0, 1 / step);
        break;
    case Qt::Key_PageUp:
    case Qt::Key_PageDown:
        if (!points_.empty()) {
            const int by = event->key() == Qt::Key_PageUp ? -1 : 1, count = int(points_.size());
            choose(((chosen_ ? *chosen_ : (by > 0 ? -1 : 0)) + by + count) % count);
        }
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        if (chosen_)
            Q_EMIT point_removed(*chosen_);
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

void SpeedPlot::focusInEvent(QFocusEvent* event)
{
    QWidget::focusInEvent(event);
    update();
}

void SpeedPlot::focusOutEvent(QFocusEvent* event)
{
    QWidget::focusOutEvent(event);
    update();
}

}
