#include "app/work/task.h"

#include "app/work/session.h"
#include "core/source/photo_source.h"

#include <cmath>

namespace frenlo::app {

Task::Task(Background& background, Rank rank, QObject* parent) : QObject(parent), background_(background), rank_(rank)
{
    connect(&background, &Background::ending, this, &Task::stop);
}

Task::~Task()
{
    stop_.request_stop();
}

Job Task::begin(const TaskKey& key)
{
    running_ = true;
    ++run_;
    stop_ = {};
    key_ = key;
    fraction_ = 0;
    what_.clear();
    time_.start();
    return Job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_,
                                   run = run_](double fraction, std::string_view what) {
        background.post(self, [this, fraction, run, text = QString::fromUtf8(what.data(), qsizetype(what.size()))] {
            if (!running_ || run != run_)
                return;
            fraction_ = fraction;
            what_ = text;
            Q_EMIT progress(fraction, text);
        });
    });
}

bool Task::start(const TaskKey& key, Operation operation, Session& session, const QString& name)
{
    return start(
        key,
        [operation = std::move(operation), photos = session.measured_from()](const Job& job) {
            return operation(*photos, job);
        },
        [&session, name](const Edit& edit) { session.apply(edit, name); });
}

void Task::ended(const Problem* problem)
{
    if (problem && stop_.stop_requested())
        Q_EMIT stopped();
    else if (problem)
        Q_EMIT failed(QString::fromStdString(problem->text()));
    Q_EMIT changed();
}

void Task::stop()
{
    if (!running_ || stop_.stop_requested())
        return;
    stop_.request_stop();
    Q_EMIT changed();
}

void Task::forget()
{
    if (!running_)
        return;
    stop_.request_stop();
    running_ = false;
    ++run_;
    Q_EMIT changed();
}

std::optional<int> Task::left_seconds() const
{
    const double elapsed = double(time_.elapsed()) / 1000;
    constexpr double early = 0.02; // of the whole, and a second: before, a guess would be wild
    if (!running_ || elapsed < 1 || fraction_ < early)
        return std::nullopt;
    return int(std::lround(elapsed * (1 - fraction_) / fraction_));
}

}
