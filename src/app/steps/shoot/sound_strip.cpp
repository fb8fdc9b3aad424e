#include "app/steps/shoot/sound_strip.h"

#include "app/theme/colours.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

SoundStrip::SoundStrip(Session& session, Waveforms& waveforms, QWidget* parent)
    : QWidget(parent), session_(session), waveforms_(waveforms)
{
    setFixedHeight(strip_height);
    setAccessibleName(tr("Sound of the next photo"));
    connect(&waveforms, &Waveforms::changed, this, qOverload<>(&QWidget::update));
}

void SoundStrip::show_time(double begin, double end)
{
    begin_ = begin;
    end_ = end;
    setAccessibleDescription(words_now());
    update();
}

bool SoundStrip::has_sound() const
{
    const Soundtrack& track = session_.project().reel.sound;
    return !track.sounds.empty() || !track.words.empty();
}

QString SoundStrip::words_now() const
{
    QStringList words;
    for (const SoundWord& w : session_.project().reel.sound.words)
        if (w.begin.value.approx() < end_ && w.end.value.approx() > begin_)
            words << QString::fromStdString(w.text);
    return words.join(QLatin1Char(' '));
}

double SoundStrip::x_of(double seconds) const
{
    return width() / 2.0 + (seconds - (begin_ + end_) / 2) * width() / seconds_shown;
}

void SoundStrip::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Colours c = Colours::of(palette());
    painter.fillRect(rect(), c.panel);
    painter.fillRect(QRectF(x_of(begin_), 0, std::max(2.0, x_of(end_) - x_of(begin_)), height()), c.spruce_wash);
    const Soundtrack& track = session_.project().reel.sound;
    const double from = begin_ - seconds_shown, to = end_ + seconds_shown;
    constexpr double words_height = 16;
    const double middle = (height() - words_height) / 2.0;
    painter.setPen(QPen(c.spruce, 1));
    for (const Sound& sound : track.sounds) {
        if (sound.muted || sound.at.value.approx() > to || sound.until().value.approx() < from)
            continue;
        const auto peaks = waveforms_.of(sound.file);
        if (!peaks)
            continue;
        const double gain = std::pow(10, sound.level_db / 20), tempo = sound.tempo.approx();
        const double start = sound.begin.value.approx(), kept = sound.end.value.approx() - start;
        for (int x = 0; x < width(); ++x) {
            const double time = (begin_ + end_) / 2 + (x - width() / 2.0) * seconds_shown / width();
            const double along = time - sound.at.value.approx();
            if (along < 0 || time > sound.until().value.approx() || kept <= 0)
                continue;
            const auto piece = std::size_t((start + std::fmod(along * tempo, kept)) * Peaks::per_second);
            if (piece >= peaks->pieces.size())
                continue;
            const auto& p = peaks->pieces[piece];
            painter.drawLine(QPointF(x + 0.5, middle - std::min(1.0, p[1] / 127.0 * gain) * (middle - 2)),
                             QPointF(x + 0.5, middle + std::min(1.0, -p[0] / 127.0 * gain) * (middle - 2) + 0.5));
        }
    }
    QFont f = font();
    for (const SoundWord& w : track.words) {
        const double a = w.begin.value.approx(), b = w.end.value.approx();
        if (b < from || a > to)
            continue;
        const bool now = a < end_ && b > begin_;
        f.setWeight(now ? QFont::DemiBold : QFont::Normal);
        painter.setFont(f);
        painter.setPen(now ? c.ink : c.second_ink);
        painter.drawText(QRectF(x_of(a) + 2, height() - words_height, std::max(30.0, x_of(b) - x_of(a)), words_height),
                         Qt::AlignLeft | Qt::AlignVCenter, QString::fromStdString(w.text));
    }
    painter.setPen(QPen(c.clay, 2));
    painter.drawLine(QPointF(x_of(begin_), 0), QPointF(x_of(begin_), height()));
}

}
