#pragma once
#include "app/work/photo_loader.h"
#include "app/work/task.h"
#include "app/work/viewing.h"

#include <QObject>

namespace frenlo::app {

/// Looks for photos of the film in which nothing moved since the last one that stays, in the background.
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
    [[nodiscard]] const std::vector<PhotoIndex>& found() const { return found_; }
    [[nodiscard]] bool looked() const { return looked_; }
    void select_found();
    void set_found_aside();

Q_SIGNALS:
    void progress(int done, int of);
    void changed();
    void failed(const QString& message);

private:
    Previews previews_;
    Session& session_;
    Viewing& viewing_;
    Task task_;
    ShotPtr looked_at_;
    std::vector<PhotoIndex> found_;
    bool looked_ = false;
};

}
