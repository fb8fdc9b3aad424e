#include "app/picture/play_clock.h"

#include <algorithm>
#include <numeric>

namespace frenlo::app {

namespace {
constexpr std::int64_t second = 1'000'000'000;
__extension__ using Wide = __int128; // hours of nanoseconds times a rate's numerator
}

PlayClock::PlayClock(Rate rate, FrameRange range, bool loop, FrameIndex first, std::int64_t start_ns, Fraction speed)
    : rate_(rate.value() * speed), range_(range), loop_(loop), first_(first), start_(start_ns)
{
}

std::int64_t PlayClock::count_at(std::int64_t now_ns) const
{
    const Wide elapsed = std::max<std::int64_t>(0, now_ns - start_);
    return static_cast<std::int64_t>(elapsed * rate_.num() / (Wide(second) * rate_.den()));
}

std::optional<FrameIndex> PlayClock::frame_at(std::int64_t now_ns) const
{
    const std::int64_t into = first_ - range_.begin + count_at(now_ns);
    if (into >= range_.frames() && !loop_)
        return std::nullopt;
    return range_.begin + into % range_.frames();
}

std::int64_t PlayClock::due(std::int64_t count) const
{
    const Wide den = rate_.num();
    return start_ + static_cast<std::int64_t>((Wide(count) * second * rate_.den() + den - 1) / den);
}

void TimingMeter::shown(std::int64_t count, std::int64_t late_ns)
{
    if (count == last_)
        return; // painted once more
    left_out_ += std::max<std::int64_t>(0, count - last_ - 1);
    last_ = count;
    ++frames_;
    sum_ns_ += late_ns;
    worst_ns_ = std::max(worst_ns_, late_ns);
    const auto step = std::clamp<std::int64_t>(late_ns / fine_ns, 0, std::int64_t(by_lateness_.size()) - 1);
    ++by_lateness_[std::size_t(step)];
}

std::int64_t TimingMeter::later_than(std::int64_t ns) const
{
    const auto from = std::clamp<std::int64_t>(ns / fine_ns, 0, std::int64_t(by_lateness_.size()));
    return std::accumulate(by_lateness_.begin() + from, by_lateness_.end(), std::int64_t(0));
}

double TimingMeter::mean_ms() const
{
    return frames_ == 0 ? 0 : double(sum_ns_) / double(frames_) / 1e6;
}

double TimingMeter::worst_ms() const
{
    return double(worst_ns_) / 1e6;
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
