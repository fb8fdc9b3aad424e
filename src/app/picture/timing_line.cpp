#include "app/picture/timing_line.h"

namespace frenlo::app {

TimingLine::TimingLine(Player& player, PictureView& picture, QObject* parent)
    : QObject(parent), player_(player), picture_(picture)
{
    timer_.setInterval(500);
    connect(&timer_, &QTimer::timeout, this, &TimingLine::refresh);
    connect(&player, &Player::state_changed, this, [this] {
        if (timer_.isActive())
            refresh();
    });
}

void TimingLine::set_on(bool on)
{
    on ? timer_.start() : timer_.stop();
    on ? refresh() : picture_.set_timing_line({});
}

void TimingLine::refresh()
{
    const TimingMeter& timing = player_.timing();
    picture_.set_timing_line(
        timing.frames() == 0 ? tr("player: nothing played yet")
                             : tr("player: late by %1 ms in the mean, %2 ms at worst · %3 frames shown, %4 left out")
                                   .arg(timing.mean_ms(), 0, 'f', 1)
                                   .arg(timing.worst_ms(), 0, 'f', 1)
                                   .arg(timing.frames())
                                   .arg(timing.left_out()));
}

}
