#include "app/picture/player.h"

#include <algorithm>
#include <utility>

namespace frenlo::app {

Player::Player(Viewing& viewing, QObject* parent, std::unique_ptr<Clock> clock)
    : QObject(parent), viewing_(viewing), time_(std::move(clock))
{
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setSingleShot(true);
    connect(&timer_, &QTimer::timeout, this, &Player::tick);
    connect(&viewing, &Viewing::shot_changed, this, [this] {
        if (playing() && range_only_ && !range().contains(viewing_.playhead())) // the range was slid from under it
            viewing_.set_playhead(range().begin);
    });
    connect(&viewing, &Viewing::playhead_changed, this, [this] {
        if (playing() && !moving_) // somebody else moved it: go on from there
            restart_from_here();
        else if (!playing() && heard_ && viewing_.on_reel() && viewing_.film()) {
            constexpr int least_hundredths = 8; // what is shorter is a click
            const Rate rate = viewing_.film()->rate();
            heard_->touch(length_of(viewing_.playhead().value, rate),
                          std::max(length_of(1, rate), Seconds{Fraction(least_hundredths, 100)}));
        }
    });
}

std::int64_t Player::now_ns() const
{
    const auto heard = listening_ ? heard_->now_ns() : std::nullopt;
    return heard.value_or(time_->now_ns());
}

/// Sound goes at its own speed only.
void Player::listen(FrameRange played)
{
    const Rate rate = viewing_.film()->rate();
    listening_ = heard_ && viewing_.on_reel() && speed_ == Fraction(1) &&
                 heard_->start({length_of(played.begin.value, rate), length_of(played.end.value, rate),
                                length_of(viewing_.playhead().value, rate), loop_});
}

std::optional<double> Player::reached() const
{
    return playing() ? meter_.rate(time_->now_ns()) : std::nullopt;
}

FrameRange Player::range() const
{
    const DisplayTimeline& page = viewing_.timeline();
    if (range_only_ && page.kept_begin < page.kept_end)
        return {page.kept_begin, page.kept_end};
    return {FrameIndex(0), FrameIndex(page.schedule.frames())};
}

void Player::play()
{
    const FrameRange played = range();
    if (played.frames() == 0)
        return;
    if (!played.contains(viewing_.playhead()) || (!loop_ && viewing_.playhead() == played.end - 1))
        viewing_.set_playhead(played.begin);
    meter_.start(time_->now_ns());
    timing_ = {};
    restart_from_here();
    Q_EMIT state_changed();
}

void Player::restart_from_here()
{
    const FrameRange played = range();
    if (played.frames() == 0) {
        stop();
        return;
    }
    // Somebody may have gone to a frame outside the range: it plays on to the end of the page from there.
    const bool inside = played.contains(viewing_.playhead());
    const Timeline& film = *viewing_.film();
    const FrameRange all = inside ? played : FrameRange{FrameIndex(0), FrameIndex(film.frames())};
    listen(all);
    clock_.emplace(film.rate(), all, loop_, viewing_.playhead(), now_ns(), speed_);
    last_count_ = -1;
    timing_.restart();
    tick();
}

void Player::stop()
{
    if (!playing())
        return;
    clock_.reset();
    timer_.stop();
    if (std::exchange(listening_, false))
        heard_->stop();
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

void Player::set_range_only(bool range_only)
{
    range_only_ = range_only;
    if (playing()) {
        if (!range().contains(viewing_.playhead()))
            viewing_.set_playhead(range().begin);
        restart_from_here();
    }
    Q_EMIT state_changed();
}

void Player::set_speed(Fraction speed)
{
    speed_ = speed;
    if (playing()) {
        meter_.start(time_->now_ns());
        restart_from_here();
    }
    Q_EMIT state_changed();
}

void Player::painted()
{
    if (playing() && last_count_ >= 0 && (!ready_ || ready_()))
        timing_.shown(last_count_, now_ns() - clock_->due(last_count_));
}

void Player::tick()
{
    if (!playing())
        return;
    const std::int64_t now = now_ns();
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
            meter_.shown(time_->now_ns());
    }
    const std::int64_t then = now_ns(), wait_ns = clock_->next_due(then) - then;
    // Sound may still be on its way to its first sample, and a device tells its time in jumps: looked at again soon.
    constexpr std::int64_t soon_ns = 4'000'000;
    const std::int64_t asked_ns = listening_ ? std::min(wait_ns, soon_ns) : wait_ns;
    timer_.start(int(std::max<std::int64_t>(0, (asked_ns + 999'999) / 1'000'000)));
}

}
