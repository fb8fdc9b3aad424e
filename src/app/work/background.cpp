#include "app/work/background.h"

#include <QMetaObject>
#include <QThread>

#include <sys/resource.h>

namespace frenlo::app {

Background::Background(QObject* parent) : QObject(parent)
{
    // One more than there are cores, so that a save never waits behind decoding.
    pool_.setMaxThreadCount(QThread::idealThreadCount() + 1);
}

Background::~Background()
{
    finish();
}

void Background::finish()
{
    Q_EMIT ending();
    pool_.clear();
    pool_.waitForDone();
}

void Background::step_back()
{
    thread_local const bool done = [] {
        constexpr int nicer = 10;
        return ::setpriority(PRIO_PROCESS, 0, nicer) == 0; // on Linux 0 is the calling thread
    }();
    Q_UNUSED(done);
}

void Background::deliver(std::function<void()> result)
{
    QMetaObject::invokeMethod(this, std::move(result), Qt::QueuedConnection);
}

}
