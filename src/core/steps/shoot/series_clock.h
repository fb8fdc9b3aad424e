#pragma once
#include "core/source/photo_file.h"

#include <cstdint>
#include <optional>
#include <stop_token>

namespace frenlo {

/// The two clocks of a machine: one that only goes on, one that people set.
class SeriesClock
{
public:
    virtual ~SeriesClock() = default;
    /// Seconds that only go on.
    [[nodiscard]] virtual double steady() const = 0;
    /// What a clock on the wall says: microseconds since 1970-01-01T00:00 in local time.
    [[nodiscard]] virtual std::int64_t wall() const = 0;
    /// Returns at that time on the steady clock, or when it is to stop.
    virtual void wait_until(double steady, const std::stop_token& stop) = 0;
};

/// The machine's.
class MachineClock : public SeriesClock
{
public:
    [[nodiscard]] double steady() const override;
    [[nodiscard]] std::int64_t wall() const override;
    void wait_until(double steady, const std::stop_token& stop) override;
};

/// Compares the two, so that photos keep their order and their distance in time when somebody sets the clock, or summer
/// time ends.
class TwoClocks
{
public:
    explicit TwoClocks(const SeriesClock& clock);
    /// When it is by the wall's clock as it was set at the start.
    [[nodiscard]] CaptureTime time() const;
    /// By how many seconds the wall's clock was set since the last look, where it was.
    std::optional<double> jumped();

private:
    const SeriesClock& clock_;
    double steady_;
    std::int64_t wall_;
    double apart_ = 0; ///< as it was at the last look
};

}
