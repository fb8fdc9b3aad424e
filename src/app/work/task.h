#pragma once
#include "app/work/background.h"
#include "core/project/operation.h"

#include <QElapsedTimer>
#include <QObject>

#include <optional>
#include <stop_token>

namespace frenlo::app {

class Session;

/// What long work is about: which shot, and which step asked for it. Empty where it is about neither.
struct TaskKey
{
    ShotId shot{};
    const char* step = "";
};

/// Long work in the background, one at a time: how far it is, how long it will still take, how it is stopped, what went
/// wrong. Its owner says what becomes of the result.
class Task : public QObject
{
    Q_OBJECT
public:
    Task(Background& background, Rank rank, QObject* parent = nullptr);
    /// Asks what runs to stop; its result is dropped.
    ~Task() override;

    /// Runs work(job) on a worker, then done(result) here. False, and nothing happens, while other work runs.
    template <class Work, class Done>
    bool start(const TaskKey& key, Work work, Done done)
    {
        if (running_)
            return false;
        const Job job = begin(key);
        background_.run(
            this, [work = std::move(work), job] { return Background::guarded([&] { return work(job); }); },
            [this, done = std::move(done), run = run_](auto result) {
                if (run != run_)
                    return;
                running_ = false;
                if (result)
                    done(std::move(*result));
                ended(result ? nullptr : &result.error());
            },
            rank_);
        Q_EMIT changed();
        return true;
    }

    /// The same for what a step measures: what was found out becomes one step that can be undone, called so.
    bool start(const TaskKey& key, Operation operation, Session& session, const QString& name);

    void stop();
    /// Asks it to stop and no longer waits for it: its result is dropped, and other work may start.
    void forget();
    [[nodiscard]] bool running() const { return running_; }
    [[nodiscard]] bool stopping() const { return running_ && stop_.stop_requested(); }
    [[nodiscard]] const TaskKey& key() const { return key_; }
    [[nodiscard]] double fraction() const { return fraction_; }
    [[nodiscard]] const QString& what() const { return what_; }
    /// Nothing while it is too early to say.
    [[nodiscard]] std::optional<int> left_seconds() const;

Q_SIGNALS:
    void progress(double fraction, const QString& what);
    void changed(); ///< it runs, is being stopped, or has ended
    void failed(const QString& message);
    void stopped(); ///< before it was done

private:
    Job begin(const TaskKey& key);
    void ended(const Problem* problem);

    Background& background_;
    Rank rank_;
    std::stop_source stop_;
    TaskKey key_;
    QElapsedTimer time_;
    double fraction_ = 0;
    QString what_;
    std::uint64_t run_ = 0; ///< tells what is waited for from what was forgotten
    bool running_ = false;
};

}
