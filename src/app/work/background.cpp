#include "app/work/background.h"

#include <QMetaObject>
#include <QThread>

namespace frenlo::app {

Background::Background(QObject* parent) : QObject(parent)
{
    // One more than there are cores, so that a save never waits behind decoding.
    pool_.setMaxThreadCount(QThread::idealThreadCount() + 1);
}

Background::~Background()
{
    pool_.clear();
    pool_.waitForDone();
}

void Background::deliver(std::function<void()> result)
{
    QMetaObject::invokeMethod(this, std::move(result), Qt::QueuedConnection);
}

}
