#pragma once
#include "app/work/viewing.h"
#include "core/steps/steady/steady_edits.h"

#include <QObject>

#include <functional>
#include <optional>
#include <stop_token>
#include <vector>

namespace frenlo::app {

/// What is to be measured of the shot that is looked at.
struct SteadyPlan
{
    SteadyWay way = SteadyWay::still;
    Movement movement = Movement::similar;
    std::optional<PhotoIndex> reference{}; ///< still; none: the tool chooses
    Smoothing smoothing{}; ///< smooth
};

/// What is done in Steady: measuring goes on in the background, its result is one step of undo.
class SteadyController : public QObject {
    Q_OBJECT
public:
    SteadyController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    void measure(const SteadyPlan& plan);
    void stop() { stop_.request_stop(); }
    [[nodiscard]] bool running() const { return running_; }

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
    /// One photo by points set by hand: pairs of a point of the other photo and of this one, pixels. What they say is made
    /// exact on the photos where these agree with it.
    void align_by_points(PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs);
    void leave_as_shot(PhotoIndex photo);

    /// By hand: while this is so, arrow keys move the photo under the player, and the picture blinks against the reference.
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
    /// Runs in the background, one at a time; done takes the result on the interface thread.
    template <class Work, class Done>
    void run(Work work, Done done);
    void take_still(ShotId shot, const ToMeasure& measured, const StillRegistration& held, Movement movement);
    void take_walk(ShotId shot, const ToMeasure& measured, const WalkRegistration& walked, Movement movement, const Smoothing& smoothing,
                   const QString& name);
    void take_one(ShotId shot, PhotoId photo, const Alignment& alignment);
    [[nodiscard]] ShotPtr current() const { return session_.project().shots[viewing_.shot_index().at()]; }
    /// Where the shot is by now; where it is gone, that is told.
    std::optional<ShotIndex> where_now(ShotId shot);

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    std::stop_source stop_;
    bool running_ = false;
    bool nudging_ = false;
    std::uint64_t gesture_ = std::uint64_t(1) << 41; ///< apart from the Sheet's and the benches'
};

/// How far a photo had moved, pixels, at the corner that moved most; 0 where it was not measured.
double moved_px(const Shot& shot, PhotoIndex photo);
/// The largest of all photos in the film.
double most_moved_px(const Shot& shot);
/// What is left of it, the largest of the photos that are not in doubt.
double most_left_px(const Shot& shot);
/// Photos in the film that should be looked at.
std::vector<PhotoIndex> doubtful_photos(const Shot& shot);

}
