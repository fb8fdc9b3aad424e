#include "app/sheet/reel_rows.h"

#include "app/sheet/paint_tools.h"
#include "app/theme/colours.h"

#include <QFontMetrics>
#include <QPainter>
#include <QPainterPath>
#include <QWidget>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr int wave_height = 26, marks_height = 12;
constexpr int label_gap = 7; ///< below the line that says what is ready

}

int ReelRows::height() const
{
    return session_.project().reel.sound.sounds.empty() ? 4 : wave_height + 4;
}

double ReelRows::x_of(Seconds time, const MeterRow& row) const
{
    return row.x_of(time.value.approx() * row.rate.value().approx());
}

void ReelRows::paint_row(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    if (!viewing_.reel())
        return;
    paint_films(painter, on, row);
    if (const auto drop = hands_ ? hands_->drop() : std::nullopt;
        drop && *drop >= row.frames.begin.value && *drop <= row.frames.end.value) {
        painter.setPen(QPen(Colours::of(on.palette()).clay, 4));
        const double x = row.x_of(double(*drop));
        painter.drawLine(QPointF(x, row.tiles.top() - 4), QPointF(x, row.tiles.bottom() + 4));
    }
    paint_sound(painter, on, row);
    paint_marks(painter, on, row);
}

QRectF ReelRows::name_tag(const ReelPart& part, const MeterRow& row, const QWidget& on)
{
    const QFontMetrics metrics(small_font(&on, true));
    const QString name =
        metrics.elidedText(QString::fromStdString(part.shot->name), Qt::ElideRight, row.tiles.width() / 3);
    const double x = row.x_of(double(part.frames.begin.value)), wide = metrics.horizontalAdvance(name) + 10;
    return {std::min(x, row.tiles.right() - wide), double(row.tiles.top()), wide, 17};
}

QRectF ReelRows::sound_band(const MeterRow& row)
{
    constexpr int below_figures = 18, high = 26;
    return {double(row.strip.left()), double(row.strip.top() + below_figures), double(row.strip.width()), high};
}

void ReelRows::paint_films(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    const Colours c = Colours::of(on.palette());
    for (const ReelPart& part : viewing_.reel()->film->parts()) {
        if (part.join.frames() > 0 && part.join.begin < row.frames.end && part.join.end > row.frames.begin)
            paint_join(painter, on, row, part);
        if (!row.frames.contains(part.frames.begin))
            continue;
        const double x = row.x_of(double(part.frames.begin.value));
        painter.setPen(QPen(c.ink, 2));
        painter.drawLine(QPointF(x, row.tiles.top() - 3), QPointF(x, row.tiles.bottom() + 1));
        painter.setFont(small_font(&on, true));
        const QString name = painter.fontMetrics().elidedText(QString::fromStdString(part.shot->name), Qt::ElideRight,
                                                              row.tiles.width() / 3);
        const QRectF tag = name_tag(part, row, on);
        painter.fillRect(tag, c.ink);
        painter.setPen(c.raised);
        painter.drawText(tag, Qt::AlignCenter, name);
    }
}

/// Slanted lines where one film goes over into the next, and what it is, below.
void ReelRows::paint_join(QPainter& painter, const QWidget& on, const MeterRow& row, const ReelPart& part) const
{
    const Colours c = Colours::of(on.palette());
    const double begin = row.x_of(double(std::max(part.join.begin, row.frames.begin).value));
    const double end = row.x_of(double(std::min(part.join.end, row.frames.end).value));
    const QRectF area(QPointF(begin, row.tiles.top()), QPointF(end, row.tiles.bottom() + 1));
    painter.save();
    painter.setClipRect(area);
    painter.setPen(QPen(c.raised, 2));
    constexpr double apart = 7, lean = 10;
    const int lines = int((area.width() + 2 * lean) / apart) + 1;
    for (int i = 0; i < lines; ++i) {
        const double x = area.left() - lean + i * apart;
        painter.drawLine(QPointF(x, area.bottom()), QPointF(x + lean, area.top()));
    }
    painter.restore();
    painter.setPen(QPen(c.ink, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(area.adjusted(0.5, 0.5, -0.5, -0.5));
    if (!row.frames.contains(part.join.begin))
        return;
    static const auto name = [](JoinKind kind) {
        switch (kind) {
        case JoinKind::dissolve:
            return QObject::tr("dissolve");
        case JoinKind::dip:
            return QObject::tr("dip");
        case JoinKind::wipe:
            return QObject::tr("wipe");
        case JoinKind::cut:
            break;
        }
        return QString();
    };
    painter.setFont(small_font(&on));
    painter.setPen(part.held > 0 || part.join_shortened ? c.amber : c.second_ink);
    const QString text = QObject::tr("%1 %2 f").arg(name(part.item.join.kind)).arg(part.join.frames());
    const int wide = painter.fontMetrics().horizontalAdvance(text);
    const double left = std::min(begin, double(row.tiles.right() - wide));
    painter.drawText(QRectF(left, row.tiles.bottom() + label_gap, wide + 4, 13), Qt::AlignLeft | Qt::AlignVCenter,
                     text);
}

/// What all sounds together reach at most: the highest of each where several lie over one another.
void ReelRows::paint_sound(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    const Soundtrack& track = session_.project().reel.sound;
    if (track.sounds.empty())
        return;
    const Colours c = Colours::of(on.palette());
    const QRectF band = sound_band(row);
    const double middle = band.center().y(), half = band.height() / 2;
    painter.setPen(QPen(c.line, 1));
    painter.drawLine(QPointF(row.strip.left(), middle), QPointF(row.strip.right(), middle));
    const double seconds_a_pixel = 1 / (row.column_width * row.rate.value().approx());
    const double start = double(row.frames.begin.value) / row.rate.value().approx();
    QPainterPath path, muted;
    for (const Sound& sound : track.sounds) {
        const auto peaks = waveforms_.of(sound.file);
        const double at = sound.at.value.approx(), until = sound.until().value.approx();
        const double from = sound.begin.value.approx(), kept = sound.end.value.approx() - from;
        const double tempo = sound.tempo.approx(), gain = std::pow(10, sound.level_db / 20);
        const double fade_in = sound.fade_in.value.approx(), fade_out = sound.fade_out.value.approx();
        const int first = int(std::max(0.0, (at - start) / seconds_a_pixel));
        const int last = int(std::min(double(row.strip.width()), (until - start) / seconds_a_pixel));
        for (int x = first; x < last; x += 2) {
            const double time = start + x * seconds_a_pixel, along = time - at;
            double low = 0, high = 0;
            if (peaks) {
                const double in_file = from + std::fmod(along * tempo, kept);
                const auto piece = std::size_t(std::max(0.0, in_file * Peaks::per_second));
                const auto end =
                    std::size_t(in_file * Peaks::per_second + 2 * seconds_a_pixel * tempo * Peaks::per_second);
                for (std::size_t p = piece; p <= end && p < peaks->pieces.size(); ++p) {
                    low = std::min(low, peaks->pieces[p][0] / 127.0);
                    high = std::max(high, peaks->pieces[p][1] / 127.0);
                }
            }
            double share = gain;
            if (along < fade_in)
                share *= along / fade_in;
            if (until - time < fade_out)
                share *= (until - time) / fade_out;
            QPainterPath& to = sound.muted ? muted : path;
            const double px = row.strip.left() + x + 0.5;
            to.moveTo(px, middle - std::min(1.0, high * share) * half);
            to.lineTo(px, middle + std::min(1.0, -low * share) * half + 0.5);
        }
        for (const double edge : {at, until}) // where a sound begins and ends
            if (const double x = row.x_of(edge * row.rate.value().approx());
                x >= row.strip.left() && x <= row.strip.right() && edge > 0) {
                painter.setPen(QPen(c.second_ink, 1));
                painter.drawLine(QPointF(x, middle - half), QPointF(x, middle + half));
            }
    }
    painter.setPen(QPen(c.line, 1));
    painter.drawPath(muted);
    painter.setPen(QPen(c.spruce, 1));
    painter.drawPath(path);
}

/// Beats, words and chapters at their times.
void ReelRows::paint_marks(QPainter& painter, const QWidget& on, const MeterRow& row) const
{
    const Colours c = Colours::of(on.palette());
    const Reel& reel = session_.project().reel;
    const double low = row.strip.bottom() - marks_height;
    const auto inside = [&](double x) { return x >= row.strip.left() - 0.5 && x < row.strip.right(); };
    painter.setFont(small_font(&on));
    for (const SoundWord& w : reel.sound.words)
        if (const double x = x_of(w.begin, row), end = x_of(w.end, row); inside(x)) {
            painter.setPen(c.ink);
            painter.drawText(QRectF(x + 1, low - 14, std::max(24.0, end - x), 13), Qt::AlignLeft | Qt::AlignVCenter,
                             QString::fromStdString(w.text));
        }
    for (const Seconds beat : reel.sound.beats)
        if (const double x = x_of(beat, row); inside(x)) {
            QPainterPath mark; // a stroke on a foot: it does not look like the player's tab
            mark.moveTo(x, low + 1);
            mark.lineTo(x, low + 8);
            mark.moveTo(x - 2.5, low + 8);
            mark.lineTo(x + 2.5, low + 8);
            painter.setPen(QPen(c.second_ink, 1.5));
            painter.drawPath(mark);
        }
    for (const ReelMarker& m : reel.markers)
        if (const double x = x_of(m.at, row); inside(x)) {
            painter.setFont(small_font(&on, true));
            painter.setPen(c.clay);
            painter.drawText(QRectF(x + 4, row.tiles.bottom() + label_gap, row.strip.right() - x, 13),
                             Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(m.text));
            painter.setPen(QPen(c.clay, 2));
            painter.drawLine(QPointF(x, row.tiles.top()), QPointF(x, row.tiles.bottom() + 14));
        }
}

}
