#include "app/picture/play_clock.h"

#include <algorithm>

namespace frenlo::app {

namespace {
constexpr std::int64_t second = 1'000'000'000;
__extension__ using Wide = __int128; // hours of nanoseconds times a rate's numerator
}

PlayClock::PlayClock(Rate rate, std::int64_t frames, bool loop, FrameIndex first, std::int64_t start_ns)
    : rate_(rate.value()), frames_(frames), loop_(loop), first_(first.value), start_(start_ns)
{}

std::int64_t PlayClock::count_at(std::int64_t now_ns) const
{
    const Wide elapsed = std::max<std::int64_t>(0, now_ns - start_);
    return static_cast<std::int64_t>(elapsed * rate_.num() / (Wide(second) * rate_.den()));
}

std::optional<FrameIndex> PlayClock::frame_at(std::int64_t now_ns) const
{
    const std::int64_t frame = first_ + count_at(now_ns);
    if (frame >= frames_ && !loop_)
        return std::nullopt;
    return FrameIndex(frame % frames_);
}

std::int64_t PlayClock::next_due(std::int64_t now_ns) const
{
    const Wide next = count_at(now_ns) + 1;
    const Wide den = rate_.num();
    return start_ + static_cast<std::int64_t>((next * second * rate_.den() + den - 1) / den); // rounded up: never early
}

void RateMeter::start(std::int64_t now_ns)
{
    start_ = now_ns;
    shown_.clear();
}

void RateMeter::shown(std::int64_t now_ns)
{
    shown_.push_back(now_ns);
    while (!shown_.empty() && shown_.front() <= now_ns - second)
        shown_.pop_front();
}

std::optional<double> RateMeter::rate(std::int64_t now_ns) const
{
    const std::int64_t window = std::min(second, now_ns - start_);
    if (window < second / 3)
        return std::nullopt;
    const auto in_window = std::count_if(shown_.begin(), shown_.end(), [&](auto t) { return t > now_ns - window; });
    return double(in_window) * second / double(window);
}

}
