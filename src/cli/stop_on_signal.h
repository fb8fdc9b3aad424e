#pragma once
#include <stop_token>
#include <thread>

namespace frenlo::cli {

/// Turns Ctrl+C and SIGTERM into a stop request, so that work ends at its next check and cleans up after itself.
/// Must be made before any other thread.
class StopOnSignal
{
public:
    StopOnSignal();
    [[nodiscard]] std::stop_token token() const { return source_.get_token(); }

private:
    std::stop_source source_;
    std::jthread waiter_;
};

}
