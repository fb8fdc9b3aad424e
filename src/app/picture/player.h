#pragma once
#include "app/picture/clock.h"
#include "app/picture/heard.h"
#include "app/picture/play_clock.h"
#include "app/work/viewing.h"

#include <QObject>
#include <QTimer>

#include <functional>
#include <memory>

namespace frenlo::app {

/// Moves the frame under the player in time with the clock. Frames are left out rather than played late.
class Player : public QObject
{
    Q_OBJECT
public:
    /// clock: what it keeps time with.
    explicit Player(Viewing& viewing, QObject* parent = nullptr,
                    std::unique_ptr<Clock> clock = std::make_unique<SteadyClock>());

    [[nodiscard]] bool playing() const { return clock_.has_value(); }
    [[nodiscard]] bool loops() const { return loop_; }
    [[nodiscard]] bool range_only() const { return range_only_; }
    [[nodiscard]] Fraction speed() const { return speed_; }
    /// The frames that it plays: the page, or what is kept of it.
    [[nodiscard]] FrameRange range() const;
    /// Of what was played since play().
    [[nodiscard]] const TimingMeter& timing() const { return timing_; }
    /// Frames a second that were really shown; nothing when not playing or too early to say.
    [[nodiscard]] std::optional<double> reached() const;
    /// Asked at each frame whether its picture is on the screen; a frame without it does not count as shown.
    void set_picture_ready(std::function<bool()> ready) { ready_ = std::move(ready); }

    /// What is heard with the Reel; null for nothing. Not owned.
    void set_heard(Heard* heard) { heard_ = heard; }
    [[nodiscard]] Heard* heard() const { return heard_; }

    void play();
    void stop();
    void toggle();
    void set_loop(bool loop);
    void set_range_only(bool range_only);
    /// 1, 1/2, 1/4 of the film's.
    void set_speed(Fraction speed);
    /// The picture of the frame under the player has just been painted.
    void painted();

Q_SIGNALS:
    void state_changed();

private:
    void tick();
    void restart_from_here();
    void listen(FrameRange played);
    /// The sound's time while one is heard, else the clock's.
    [[nodiscard]] std::int64_t now_ns() const;

    Viewing& viewing_;
    std::unique_ptr<Clock> time_;
    QTimer timer_;
    std::optional<PlayClock> clock_;
    RateMeter meter_;
    TimingMeter timing_;
    Fraction speed_ = 1;
    std::function<bool()> ready_;
    Heard* heard_ = nullptr;
    bool listening_ = false;
    std::int64_t last_count_ = 0;
    bool loop_ = true;
    bool range_only_ = true;
    bool moving_ = false;
};

}
