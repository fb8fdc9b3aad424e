#pragma once
#include "app/work/viewing.h"
#include "core/document/steady_edits.h"

#include <QObject>

#include <optional>
#include <stop_token>

namespace frenlo::app {

/// What is done in Steady: measuring goes on in the background, its result is one step of undo.
class Steadier : public QObject {
    Q_OBJECT
public:
    Steadier(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    /// The shot that is looked at. reference: none lets the tool choose.
    void measure(Movement movement, std::optional<PhotoIndex> reference);
    void stop() { stop_.request_stop(); }
    [[nodiscard]] bool running() const { return running_; }
    void set_crop(bool cropped);
    void as_shot();

    /// By hand: while this is so, arrow keys move the photo under the player, and the picture blinks against the reference.
    [[nodiscard]] bool nudging() const { return nudging_; }
    void set_nudging(bool on);
    /// Whether the photo under the player can be moved by hand.
    [[nodiscard]] bool can_nudge() const;
    void nudge(cv::Point2d by_px, bool new_step);

Q_SIGNALS:
    void progress(double fraction);
    void changed(); ///< it runs, or no longer
    void nudging_changed();
    void failed(const QString& message);

private:
    void take(const ShotPtr& shot, const ToMeasure& measured, const HeldStill& held, Movement movement);

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
/// Photos in the film that should be looked at.
std::vector<PhotoIndex> doubtful_photos(const Shot& shot);

}
