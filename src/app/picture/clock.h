#pragma once
#include <QElapsedTimer>

#include <cstdint>

namespace frenlo::app {

/// What playing keeps time with: it never goes back.
class Clock
{
public:
    virtual ~Clock() = default;
    [[nodiscard]] virtual std::int64_t now_ns() const = 0;
};

/// The machine's own.
class SteadyClock : public Clock
{
public:
    SteadyClock() { time_.start(); }
    [[nodiscard]] std::int64_t now_ns() const override { return time_.nsecsElapsed(); }

private:
    QElapsedTimer time_;
};

}
