// Signals are held back before any library is set up: loading them takes a tenth of a second, threads that they start
// would take a signal with its default effect, and whoever stops a script at once is to get the same answer as later.
#include <csignal>

namespace {

void hold_back_signals(int, char**, char**)
{
    sigset_t signals;
    sigemptyset(&signals);
    sigaddset(&signals, SIGINT);
    sigaddset(&signals, SIGTERM);
    sigprocmask(SIG_BLOCK, &signals, nullptr);
}

// Run by the dynamic loader before the constructors of any library (System V ABI, gABI 4.1: DT_PREINIT_ARRAY).
[[gnu::used, gnu::section(".preinit_array")]] void (*const hold_back)(int, char**, char**) = hold_back_signals;

}
