#pragma once
#include "core/time/frame_range.h"
#include "core/time/rate.h"

#include <cstdint>
#include <deque>
#include <optional>
#include <vector>

namespace frenlo::app {

/// Which frame is due when, exactly: no drift however long it plays. Times are nanoseconds of any steady clock.
class PlayClock
{
public:
    /// Frame `first`, within the range, is due at start_ns. speed: above 0; 1/2 plays at half speed. loop: goes on at
    /// the range's start after its end.
    PlayClock(Rate rate, FrameRange range, bool loop, FrameIndex first, std::int64_t start_ns, Fraction speed = 1);

    /// Frames since the start, the first being 0; not wrapped.
    [[nodiscard]] std::int64_t count_at(std::int64_t now_ns) const;
    /// The frame that is due; nothing when a film that does not loop is over.
    [[nodiscard]] std::optional<FrameIndex> frame_at(std::int64_t now_ns) const;
    /// When this frame since the start is due, rounded up: never early.
    [[nodiscard]] std::int64_t due(std::int64_t count) const;
    /// When the frame after the one due now is due.
    [[nodiscard]] std::int64_t next_due(std::int64_t now_ns) const { return due(count_at(now_ns) + 1); }

private:
    Fraction rate_;
    FrameRange range_;
    bool loop_;
    FrameIndex first_;
    std::int64_t start_;
};

/// How exactly frames came onto the screen: how late each was, and how many were left out so that others were in time.
class TimingMeter
{
public:
    /// count: as PlayClock counts; frames between this one and the last were left out.
    void shown(std::int64_t count, std::int64_t late_ns);
    /// Another clock counts from 0 again; what was measured stays.
    void restart() { last_ = -1; }
    [[nodiscard]] std::int64_t frames() const { return frames_; }
    [[nodiscard]] std::int64_t left_out() const { return left_out_; }
    [[nodiscard]] double mean_ms() const;
    [[nodiscard]] double worst_ms() const;
    /// Frames that were later than this.
    [[nodiscard]] std::int64_t later_than(std::int64_t ns) const;

private:
    static constexpr std::int64_t fine_ns = 1'000'000;
    std::vector<std::int64_t> by_lateness_ = std::vector<std::int64_t>(64); ///< in steps of fine_ns, the last all above
    std::int64_t frames_ = 0;
    std::int64_t left_out_ = 0;
    std::int64_t last_ = -1;
    std::int64_t sum_ns_ = 0;
    std::int64_t worst_ns_ = 0;
};

/// The frame rate really reached: frames shown in the last second.
class RateMeter
{
public:
    void start(std::int64_t now_ns);
    void shown(std::int64_t now_ns);
    /// Frames a second; nothing in the first third of a second, when there is too little to say.
    [[nodiscard]] std::optional<double> rate(std::int64_t now_ns) const;

private:
    std::int64_t start_ = 0;
    std::deque<std::int64_t> shown_;
};

}
