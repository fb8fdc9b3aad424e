#pragma once
#include <QElapsedTimer>
#include <QObject>

#include <algorithm>
#include <ctime>
#include <ostream>

namespace frenlo::bench {

/// The longest time that the interface thread did not come back to its event loop: by the clock, and what it worked
/// itself in one go, which other programs and threads on the same cores do not lengthen.
class LongestBlock : public QObject
{
public:
    LongestBlock()
    {
        clock_.start();
        worked_ = own_work_ms();
        startTimer(0);
    }
    double longest_ms = 0, longest_work_ms = 0;
    void forget()
    {
        longest_ms = longest_work_ms = 0;
        clock_.restart();
        worked_ = own_work_ms();
    }

protected:
    void timerEvent(QTimerEvent*) override
    {
        const double now = own_work_ms();
        longest_ms = std::max(longest_ms, double(clock_.nsecsElapsed()) / 1e6);
        longest_work_ms = std::max(longest_work_ms, now - worked_);
        clock_.restart();
        worked_ = now;
    }

private:
    static double own_work_ms()
    {
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return double(t.tv_sec) * 1e3 + double(t.tv_nsec) / 1e6;
    }

    QElapsedTimer clock_;
    double worked_ = 0;
};

inline std::ostream& operator<<(std::ostream& out, const LongestBlock& block)
{
    return out << block.longest_ms << " ms, of which its own work " << block.longest_work_ms;
}

}
