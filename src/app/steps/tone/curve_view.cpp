#include "app/steps/tone/curve_view.h"

#include "app/sheet/paint_tools.h"
#include "app/theme/colours.h"

#include <QImage>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr double lowest = -8, highest = 4;     ///< stops in
constexpr double darkest = -9, lightest = 3.5; ///< stops out
constexpr double point_radius = 5, reach = 12;
constexpr int below = 16; ///< for the stops' numbers

constexpr std::array points{CurveView::Handle::toe, CurveView::Handle::middle, CurveView::Handle::shoulder};

/// Where on the curve a point sits, stops around middle grey before exposure moves it.
double in_of(CurveView::Handle point)
{
    switch (point) {
    case CurveView::Handle::toe:
        return -5;
    case CurveView::Handle::middle:
        return 0;
    case CurveView::Handle::shoulder:
        return 2;
    }
    return 0;
}

}

CurveView::CurveView(QWidget* parent) : QWidget(parent)
{
    setAccessibleName(tr("Characteristic curve"));
    setToolTip(tr("Light in, across, and light out, upwards, in stops around middle grey; behind it how much of the "
                  "photo has each light. Pull a point up or down: the toe, the middle (with Shift: its slope, the "
                  "contrast), the shoulder. Keys: left and right choose one, up and down pull it"));
    setFocusPolicy(Qt::TabFocus);
    install_plot_accessibility();
}

PlotWords::Point CurveView::spoken_point(int at) const
{
    constexpr int decimals = 2;
    switch (points.at(std::size_t(at))) {
    case Handle::toe:
        return {tr("toe"), tr("%1 stop").arg(tone_.toe, 0, 'f', decimals)};
    case Handle::middle:
        return {
            tr("middle"),
            tr("exposure %1 stop, contrast %2 %").arg(tone_.exposure, 0, 'f', decimals).arg(tone_.contrast, 0, 'f', 0)};
    case Handle::shoulder:
        return {tr("shoulder"), tr("%1 stop").arg(tone_.shoulder, 0, 'f', decimals)};
    }
    return {};
}

void CurveView::show_tone(const Tone& tone)
{
    tone_ = tone;
    curve_ = ToneCurve(tone);
    setAccessibleDescription(tr("exposure %1 stop, contrast %2 %, toe %3 stop, shoulder %4 stop")
                                 .arg(tone.exposure, 0, 'f', 2)
                                 .arg(tone.contrast, 0, 'f', 0)
                                 .arg(tone.toe, 0, 'f', 2)
                                 .arg(tone.shoulder, 0, 'f', 2));
    update();
}

void CurveView::show_scopes(const ToneScopes& scopes)
{
    scopes_ = scopes;
    update();
}

void CurveView::set_waveform(bool on)
{
    waveform_ = on;
    update();
}

QRectF CurveView::plot() const
{
    return QRectF(rect()).adjusted(1, 1, -1, -below);
}

QPointF CurveView::at(double in, double out) const
{
    const QRectF p = plot();
    return {p.left() + p.width() * (in - lowest) / (highest - lowest),
            p.bottom() - p.height() * (out - darkest) / (lightest - darkest)};
}

QPointF CurveView::place_of(Handle point) const
{
    const double in = std::clamp(in_of(point) - tone_.exposure, lowest + 0.3, highest - 0.3);
    const QPointF p = at(in, curve_(in));
    return {p.x(), std::clamp(p.y(), plot().top() + point_radius, plot().bottom() - point_radius)};
}

void CurveView::pull(double stops, bool slope)
{
    const auto held = [](double v, const Limits& l) { return std::clamp(v, l.low, l.high); };
    switch (*pulled_) {
    case Handle::toe:
        Q_EMIT pulled(&Tone::toe, held(pressed_tone_.toe + stops, tone_end));
        break;
    case Handle::middle:
        if (slope)
            Q_EMIT pulled(&Tone::contrast, held(pressed_tone_.contrast + stops * 50, tone_percent));
        else
            Q_EMIT pulled(&Tone::exposure, held(pressed_tone_.exposure + stops, tone_exposure));
        break;
    case Handle::shoulder:
        Q_EMIT pulled(&Tone::shoulder, held(pressed_tone_.shoulder + stops, tone_end));
        break;
    }
}

void CurveView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton || waveform_)
        return;
    pulled_.reset();
    double nearest = reach;
    for (const Handle p : points)
        if (const double away = QLineF(place_of(p), event->position()).length(); away < nearest) {
            nearest = away;
            pulled_ = p;
        }
    if (!pulled_)
        return;
    chosen_ = *pulled_;
    pressed_tone_ = tone_;
    pressed_at_ = event->position().y();
    Q_EMIT begun();
    update();
}

void CurveView::mouseMoveEvent(QMouseEvent* event)
{
    if (!pulled_ || !(event->buttons() & Qt::LeftButton))
        return;
    const double stops = (pressed_at_ - event->position().y()) * (lightest - darkest) / plot().height();
    pull(std::round(stops * 20) / 20, event->modifiers() & Qt::ShiftModifier);
}

void CurveView::mouseReleaseEvent(QMouseEvent*)
{
    pulled_.reset();
    update();
}

void CurveView::keyPressEvent(QKeyEvent* event)
{
    const int sideways = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    const int up = event->key() == Qt::Key_Up ? 1 : event->key() == Qt::Key_Down ? -1 : 0;
    if (sideways == 0 && up == 0)
        return QWidget::keyPressEvent(event);
    if (sideways != 0) {
        chosen_ = Handle(std::clamp(int(chosen_) + sideways, int(Handle::toe), int(Handle::shoulder)));
        update();
        return;
    }
    if (!event->isAutoRepeat())
        Q_EMIT begun();
    pulled_ = chosen_;
    pressed_tone_ = tone_;
    pull(up * 0.05, event->modifiers() & Qt::ShiftModifier);
    pulled_.reset();
}

void CurveView::paint_curve(QPainter& painter) const
{
    const Colours c = Colours::of(palette());
    const QRectF p = plot();
    // The light of the photo, the fullest bin as high as most of the plot.
    if (!scopes_.histogram.empty()) {
        const double most = *std::max_element(scopes_.histogram.begin() + 1, scopes_.histogram.end());
        QPainterPath hill;
        hill.moveTo(at(ToneScopes::lowest, darkest));
        for (std::size_t i = 0; i < scopes_.histogram.size(); ++i) {
            const double stops =
                ToneScopes::lowest + (double(i) + 0.5) * (ToneScopes::highest - ToneScopes::lowest) / ToneScopes::bins;
            const double high = most > 0 ? std::min(1.0, scopes_.histogram[i] / most) * 0.62 : 0;
            hill.lineTo(at(stops, darkest).x(), p.bottom() - p.height() * high);
        }
        hill.lineTo(at(ToneScopes::highest, darkest));
        painter.setPen(Qt::NoPen);
        painter.setBrush(c.line);
        painter.drawPath(hill);
    }
    painter.setBrush(Qt::NoBrush);
    // As it comes in, it goes out; and white.
    painter.setPen(QPen(c.second_ink, 1, Qt::DotLine));
    painter.drawLine(at(darkest, darkest), at(lightest, lightest));
    painter.setPen(QPen(c.second_ink, 1, Qt::DashLine));
    painter.drawLine(at(lowest, white_stops), at(highest, white_stops));
    QPainterPath path;
    constexpr int pieces = 240;
    for (int i = 0; i <= pieces; ++i) {
        const double in = lowest + (highest - lowest) * i / pieces;
        i == 0 ? path.moveTo(at(in, curve_(in))) : path.lineTo(at(in, curve_(in)));
    }
    painter.setPen(QPen(c.spruce, 2.2));
    painter.drawPath(path);
    const std::array names{tr("toe"), tr("middle"), tr("shoulder")};
    painter.setFont(small_font(this));
    for (const Handle point : points) {
        const QPointF where = place_of(point);
        const bool chosen = pulled_ == point || (hasFocus() && chosen_ == point);
        painter.setPen(QPen(c.spruce, chosen ? 3 : 1.8));
        painter.setBrush(c.raised);
        painter.drawEllipse(where, point_radius, point_radius);
        const QString& name = names[std::size_t(point)];
        const double wide = painter.fontMetrics().horizontalAdvance(name);
        const double x = std::min(where.x() + 9, p.right() - wide - 2);
        painter.setPen(c.ink);
        painter.drawText(QPointF(x, std::min(where.y() + 16, p.bottom() - 4)), name);
    }
}

void CurveView::paint_waveform(QPainter& painter) const
{
    const Colours c = Colours::of(palette());
    if (scopes_.waveform.empty())
        return;
    QImage image(scopes_.waveform.cols, scopes_.waveform.rows, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    const QColor ink = c.ink;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const double much = std::min(1.0, std::pow(double(scopes_.waveform(y, x)) * 12, 0.5));
            image.setPixelColor(x, y, QColor(ink.red(), ink.green(), ink.blue(), int(much * 255)));
        }
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.drawImage(plot(), image);
}

void CurveView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    const QRectF p = plot();
    painter.fillRect(p, c.raised);
    painter.setFont(small_font(this));
    if (waveform_) {
        painter.setPen(QPen(c.line, 1));
        for (const int percent : {25, 50, 75}) {
            const double y = p.bottom() - p.height() * percent / 100;
            painter.drawLine(QPointF(p.left(), y), QPointF(p.right(), y));
        }
        painter.save();
        painter.setClipRect(p);
        paint_waveform(painter);
        painter.restore();
        painter.setPen(c.second_ink);
        painter.drawText(QRectF(p.left(), p.bottom(), p.width(), below), Qt::AlignCenter,
                         tr("left to right in the photo, black to white upwards"));
    } else {
        painter.setPen(QPen(c.line, 1));
        for (int stops = int(lowest) + 1; stops < int(highest); ++stops)
            painter.drawLine(at(stops, darkest), at(stops, lightest));
        painter.save();
        painter.setClipRect(p);
        paint_curve(painter);
        painter.restore();
        painter.setPen(c.second_ink);
        for (int stops = int(lowest) + 1; stops < int(highest); ++stops)
            painter.drawText(QRectF(at(stops, darkest).x() - 14, p.bottom(), 28, below), Qt::AlignCenter,
                             stops > 0 ? QStringLiteral("+%1").arg(stops)
                                       : QString::number(stops).replace(QLatin1Char('-'), QChar(0x2212)));
    }
    painter.setPen(QPen(hasFocus() ? c.spruce : c.line, hasFocus() ? 2 : 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(p);
}

}
