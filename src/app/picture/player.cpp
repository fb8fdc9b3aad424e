#include "app/picture/player.h"

#include <algorithm>

namespace frenlo::app {

Player::Player(Viewing& viewing, QObject* parent) : QObject(parent), viewing_(viewing)
{
    time_.start();
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setSingleShot(true);
    connect(&timer_, &QTimer::timeout, this, &Player::tick);
    connect(&viewing, &Viewing::playhead_changed, this, [this] {
        if (playing() && !moving_) // somebody else moved it: go on from there
            restart_from_here();
    });
}

std::optional<double> Player::reached() const
{
    return playing() ? meter_.rate(time_.nsecsElapsed()) : std::nullopt;
}

void Player::play()
{
    const std::int64_t frames = viewing_.schedule().frames();
    if (frames == 0)
        return;
    if (!loop_ && viewing_.playhead().value == frames - 1)
        viewing_.set_playhead(FrameIndex(0));
    meter_.start(time_.nsecsElapsed());
    restart_from_here();
    Q_EMIT state_changed();
}

void Player::restart_from_here()
{
    const Schedule& schedule = viewing_.schedule();
    if (schedule.frames() == 0) {
        stop();
        return;
    }
    clock_.emplace(schedule.rate(), schedule.frames(), loop_, viewing_.playhead(), time_.nsecsElapsed());
    last_count_ = -1;
    tick();
}

void Player::stop()
{
    if (!playing())
        return;
    clock_.reset();
    timer_.stop();
    Q_EMIT state_changed();
}

void Player::toggle()
{
    playing() ? stop() : play();
}

void Player::set_loop(bool loop)
{
    loop_ = loop;
    if (playing())
        restart_from_here();
    Q_EMIT state_changed();
}

void Player::tick()
{
    if (!playing())
        return;
    const std::int64_t now = time_.nsecsElapsed();
    const auto frame = clock_->frame_at(now);
    if (!frame) {
        stop();
        return;
    }
    if (clock_->count_at(now) != last_count_) {
        last_count_ = clock_->count_at(now);
        moving_ = true;
        viewing_.set_playhead(*frame);
        moving_ = false;
        if (!ready_ || ready_())
            meter_.shown(now);
    }
    const std::int64_t wait_ns = clock_->next_due(time_.nsecsElapsed()) - time_.nsecsElapsed();
    timer_.start(int(std::max<std::int64_t>(0, (wait_ns + 999'999) / 1'000'000)));
}

}
