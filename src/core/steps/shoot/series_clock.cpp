#include "core/steps/shoot/series_clock.h"

#include <chrono>
#include <cmath>
#include <condition_variable>
#include <ctime>
#include <mutex>

namespace frenlo {

namespace {
constexpr double micro = 1e6;
}

double MachineClock::steady() const
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

std::int64_t MachineClock::wall() const
{
    const auto now = std::chrono::system_clock::now().time_since_epoch();
    const std::int64_t utc = std::chrono::duration_cast<std::chrono::microseconds>(now).count();
    const std::time_t seconds = utc / 1'000'000;
    std::tm local{};
    localtime_r(&seconds, &local);
    return utc + std::int64_t(local.tm_gmtoff) * 1'000'000;
}

void MachineClock::wait_until(double steady, const std::stop_token& stop)
{
    std::mutex mutex;
    std::condition_variable_any woken;
    std::unique_lock lock(mutex);
    const std::chrono::steady_clock::time_point until{
        std::chrono::duration_cast<std::chrono::steady_clock::duration>(std::chrono::duration<double>(steady))};
    woken.wait_until(lock, stop, until, [] { return false; });
}

TwoClocks::TwoClocks(const SeriesClock& clock) : clock_(clock), steady_(clock.steady()), wall_(clock.wall()) {}

CaptureTime TwoClocks::time() const
{
    return {wall_ + std::llround((clock_.steady() - steady_) * micro)};
}

std::optional<double> TwoClocks::jumped()
{
    constexpr double noticed = 1;
    const double apart = double(clock_.wall() - time().microseconds) / micro;
    const double by = apart - apart_;
    if (std::abs(by) < noticed)
        return std::nullopt;
    apart_ = apart;
    return by;
}

}
