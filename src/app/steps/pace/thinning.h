#pragma once
#include "app/work/photo_loader.h"
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/pace/stumbles.h"

#include <QObject>

namespace frenlo::app {

/// Looks for what makes the film stumble, in the background: photos in which nothing moved since the last one that
/// stays, and steps that are too large.
class Thinning : public QObject
{
    Q_OBJECT
public:
    Thinning(Background& background, PreviewStore& store, Session& session, Viewing& viewing,
             QObject* parent = nullptr);

    void look();
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    /// What was found last; empty again when the shot changes.
    [[nodiscard]] const std::vector<PhotoIndex>& found() const { return found_.still; }
    /// Reached by a step that is too large.
    [[nodiscard]] const std::vector<PhotoIndex>& too_far() const { return found_.too_far; }
    [[nodiscard]] bool looked() const { return looked_; }
    void select_found();
    void set_found_aside();
    /// To the next place with too large a step: its two photos selected.
    void go_to_next_step();
    void fill_steps();

Q_SIGNALS:
    void progress(int done, int of);
    void changed();
    void failed(const QString& message);

private:
    PreviewStore& store_;
    Session& session_;
    Viewing& viewing_;
    Task task_;
    ShotPtr looked_at_;
    Stumbles found_;
    std::size_t at_ = 0; ///< of the steps that are too large
    bool looked_ = false;
};

}
