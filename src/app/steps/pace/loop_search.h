#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/pace/loop_finder.h"

#include <QObject>

#include <vector>

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

/// Ranges that go round with a joint that is hardly seen: looked for in the background, tried one after the other.
class LoopSearch : public QObject
{
    Q_OBJECT
public:
    LoopSearch(Background& background, PreviewStore& store, Session& session, Viewing& viewing,
               QObject* parent = nullptr);

    /// Looks for them, and keeps the best; after that the next best each time.
    void try_next();
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    /// What was found, or how far it is; empty before.
    [[nodiscard]] QString text() const;
    [[nodiscard]] bool found() const { return !loops_.empty(); }

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    void keep(std::size_t which);

    PreviewStore& store_;
    Session& session_;
    Viewing& viewing_;
    Task task_;
    ShotId of_;           ///< the shot that they were found in
    PhotoList of_photos_; ///< as it was then
    std::vector<LoopFound> loops_;
    std::size_t tried_ = 0;
    bool none_ = false;
};

}
