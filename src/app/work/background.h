#pragma once
#include "core/base/problem.h"

#include <QObject>
#include <QPointer>
#include <QThreadPool>

#include <functional>
#include <utility>

namespace frenlo::app {

/// What goes first when not all can run at once, the most urgent last.
enum class Rank
{
    write,   ///< films: they take hours, and a core of their own
    prepare, ///< previews that will be looked at some day
    measure, ///< what somebody asked for and waits for
    screen,  ///< what should be seen now, or plays next
    save,    ///< what must not be lost
};

/// The application's threads: some for what is seen or saved now, which go before those that write, measure and
/// prepare. Work takes its input by value and hands its result back on the interface thread;
/// nothing on the interface thread ever waits for it.
class Background : public QObject
{
    Q_OBJECT
public:
    explicit Background(QObject* parent = nullptr);
    /// Waits for what runs; results that arrive later are dropped.
    ~Background() override;

    /// Runs work() on a worker, then done(result) on the interface thread if receiver still lives. work must not throw.
    template <class Work, class Done>
    void run(QObject* receiver, Work work, Done done, Rank rank = Rank::screen)
    {
        const bool at_once = rank >= Rank::screen;
        (at_once ? at_once_ : pool_)
            .start(
                [this, at_once, guard = QPointer<QObject>(receiver), work = std::move(work),
                 done = std::move(done)]() mutable {
                    step_back(!at_once);
                    auto result = work();
                    deliver([guard, done = std::move(done), result = std::move(result)]() mutable {
                        if (guard)
                            done(std::move(result));
                    });
                },
                int(rank));
    }

    /// From any thread: what() on the interface thread if receiver still lives then. Make the pointer on the interface
    /// thread; this object must outlive the work that posts.
    template <class What>
    void post(const QPointer<QObject>& receiver, What what)
    {
        deliver([receiver, what = std::move(what)] {
            if (receiver)
                what();
        });
    }

    /// The result of work(), or what it threw as a problem.
    template <class Work>
    static auto guarded(Work work) -> Result<decltype(work())>
    {
        try {
            return work();
        } catch (const Failure& failure) {
            return tl::unexpected(failure.problem());
        } catch (const Stopped&) {
            return tl::unexpected(Problem{"stopped", {}, ""});
        } catch (const std::exception& e) {
            return tl::unexpected(Problem{e.what(), {}, ""});
        }
    }

    /// Asks all tasks (task.h) to stop, and waits for what runs. Nothing is started after that.
    void finish();
    [[nodiscard]] int threads() const { return pool_.maxThreadCount(); }
    /// Nothing runs or waits to run.
    [[nodiscard]] bool idle() const { return pool_.activeThreadCount() + at_once_.activeThreadCount() == 0; }

Q_SIGNALS:
    void ending();

private:
    void deliver(std::function<void()> result);
    /// The calling worker, and those that it starts, let the interface thread go first; far: also other workers.
    static void step_back(bool far);

    QThreadPool pool_, at_once_;
};

}
