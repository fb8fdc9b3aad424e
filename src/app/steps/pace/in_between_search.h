#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/pace/in_between_check.h"

#include <QObject>

#include <vector>

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

/// Places where movement between two photos could not be followed: looked for in the background, gone through one after
/// the other.
class InBetweenSearch : public QObject
{
    Q_OBJECT
public:
    InBetweenSearch(Background& background, PreviewStore& store, Session& session, Viewing& viewing,
                    QObject* parent = nullptr);

    void look();
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    /// What was found, or how far it is; empty before.
    [[nodiscard]] QString text() const;
    [[nodiscard]] bool found() const { return !doubtful_.empty(); }
    /// Goes to the next of them, between its two photos.
    void go_to_next();

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    PreviewStore& store_;
    Session& session_;
    Viewing& viewing_;
    Task task_;
    ShotPtr of_; ///< the shot that was looked at
    std::vector<DoubtfulInBetween> doubtful_;
    std::size_t at_ = 0;
    bool looked_ = false;
};

}
