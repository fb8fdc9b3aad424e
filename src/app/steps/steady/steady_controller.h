#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/steady/operations.h"
#include "core/steps/steady/steady_figures.h"

#include <QObject>

#include <optional>
#include <vector>

namespace frenlo::app {

/// What is done in Steady: measuring goes on in the background, its result is one step of undo.
class SteadyController : public QObject
{
    Q_OBJECT
public:
    SteadyController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    void measure(SteadyPlan plan);
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }

    /// On a smooth path, from what was measured.
    void set_smoothing(const Smoothing& smoothing);
    /// What is in the box of this photo (shares of width and height) stays where it is in the film.
    void follow(PhotoIndex photo, const cv::Rect2d& box);
    void forget_target();

    void set_inside_all(bool inside_all);
    void set_edges(Edges edges);
    void set_crop_shape(cv::Size shape); ///< empty: that of the photos
    void as_shot();
    void set_region(const Region& region);

    /// One photo anew, against another one of the film.
    void align(PhotoIndex photo, PhotoIndex other, Movement movement);
    /// One photo by points set by hand: pairs of a point of the other photo and of this one, pixels. What they say is
    /// made exact on the photos where these agree with it.
    void align_by_points(PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs);
    void leave_as_shot(PhotoIndex photo);

    /// By hand: while this is so, arrow keys move the photo under the player, and the picture blinks against the
    /// reference.
    [[nodiscard]] bool nudging() const { return nudging_; }
    void set_nudging(bool on);
    /// Whether the photo under the player can be moved by hand.
    [[nodiscard]] bool can_nudge() const;
    void nudge(cv::Point2d by_px, double degrees, bool new_step);

Q_SIGNALS:
    void progress(double fraction);
    void changed(); ///< it runs, or no longer
    void nudging_changed();
    void failed(const QString& message);

private:
    void run(Operation operation, const QString& name);
    [[nodiscard]] ShotPtr current() const { return session_.project().shots[viewing_.shot_index().at()]; }

    Session& session_;
    Viewing& viewing_;
    Task task_;
    bool nudging_ = false;
    std::uint64_t gesture_ = std::uint64_t(1) << 41; ///< apart from the Sheet's and the benches'
};

}
