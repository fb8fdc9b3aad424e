#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/flicker/operations.h"

#include <QObject>

namespace frenlo::app {

/// What is done in Light: measuring and evening go on in the background, the result is one step of undo.
class FlickerController : public QObject
{
    Q_OBJECT
public:
    FlickerController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    /// The shot that is looked at.
    void even(const Deflicker& deflicker);
    /// A step in the light is kept in the film, or taken out; what was set stays.
    void keep_step(PhotoIndex photo, bool kept);
    /// Where is measured next, in shares of the photo under the player.
    void set_region(const Region& on_photo);
    /// Decides about a photo that stands out, or any other.
    void resolve(PhotoIndex photo, LightRemedy remedy);
    void set_aside(PhotoIndex photo);
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    void as_shot();

Q_SIGNALS:
    void progress(double fraction);
    void changed(); ///< it runs, or no longer
    void failed(const QString& message);

private:
    void run(const FlickerPlan& plan);

    Session& session_;
    Viewing& viewing_;
    Task task_;
};

/// "0.14 → 0.01", stops.
QString flicker_text(const Deflicker& deflicker);

}
