#include "cli/stop_on_signal.h"

#include <csignal>
#include <ctime>

namespace frenlo::cli {

StopOnSignal::StopOnSignal()
{
    sigset_t signals;
    sigemptyset(&signals);
    sigaddset(&signals, SIGINT);
    sigaddset(&signals, SIGTERM);
    pthread_sigmask(SIG_BLOCK, &signals, nullptr);
    signal(SIGPIPE, SIG_IGN);
    signal(SIGXFSZ, SIG_IGN); // a file size limit is then an error that can be told
    waiter_ = std::jthread([this, signals](const std::stop_token& ending) {
        while (!ending.stop_requested()) {
            const timespec tenth{0, 100'000'000};
            if (sigtimedwait(&signals, nullptr, &tenth) > 0)
                source_.request_stop();
        }
    });
}

}
