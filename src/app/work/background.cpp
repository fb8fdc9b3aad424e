#include "app/work/background.h"

#include <QMetaObject>
#include <QThread>

#include <sys/resource.h>

namespace frenlo::app {

Background::Background(QObject* parent) : QObject(parent)
{
    pool_.setMaxThreadCount(QThread::idealThreadCount());
    // One more than there are cores, so that a save never waits behind decoding.
    at_once_.setMaxThreadCount(QThread::idealThreadCount() + 1);
}

Background::~Background()
{
    finish();
}

void Background::finish()
{
    Q_EMIT ending();
    for (QThreadPool* pool : {&pool_, &at_once_})
        pool->clear();
    for (QThreadPool* pool : {&pool_, &at_once_})
        pool->waitForDone();
}

void Background::step_back(bool far)
{
    thread_local const bool done = [far] {
        constexpr int little = 4, much = 12;                             // for good: a thread cannot take it back
        return ::setpriority(PRIO_PROCESS, 0, far ? much : little) == 0; // on Linux 0 is the calling thread
    }();
    Q_UNUSED(done);
}

void Background::deliver(std::function<void()> result)
{
    QMetaObject::invokeMethod(this, std::move(result), Qt::QueuedConnection);
}

}
