#pragma once
#include "core/base/strong.h"
#include "core/timing/rate.h"

#include <cstdint>
#include <deque>
#include <optional>

namespace frenlo::app {

/// Which frame is due when, exactly: no drift however long it plays. Times are nanoseconds of any steady clock.
class PlayClock {
public:
    /// Frame `first` is due at start_ns. frames: of the film, above 0. loop: goes on at 0 after the last.
    PlayClock(Rate rate, std::int64_t frames, bool loop, FrameIndex first, std::int64_t start_ns);

    /// Frames since the start, the first being 0; not wrapped.
    [[nodiscard]] std::int64_t count_at(std::int64_t now_ns) const;
    /// The frame that is due; nothing when a film that does not loop is over.
    [[nodiscard]] std::optional<FrameIndex> frame_at(std::int64_t now_ns) const;
    /// When the frame after the one due now is due.
    [[nodiscard]] std::int64_t next_due(std::int64_t now_ns) const;

private:
    Fraction rate_;
    std::int64_t frames_;
    bool loop_;
    std::int64_t first_;
    std::int64_t start_;
};

/// The frame rate really reached: frames shown in the last second.
class RateMeter {
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
