#pragma once
#include <QElapsedTimer>
#include <QObject>

#include <algorithm>

namespace frenlo::bench {

/// The longest time that the interface thread did not come back to its event loop.
class LongestBlock : public QObject
{
public:
    LongestBlock()
    {
        clock_.start();
        startTimer(0);
    }
    double longest_ms = 0;
    void forget()
    {
        longest_ms = 0;
        clock_.restart();
    }

protected:
    void timerEvent(QTimerEvent*) override
    {
        longest_ms = std::max(longest_ms, double(clock_.nsecsElapsed()) / 1e6);
        clock_.restart();
    }

private:
    QElapsedTimer clock_;
};

}
