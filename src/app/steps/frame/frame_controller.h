#pragma once
#include "app/work/viewing.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"

#include <QObject>

#include <functional>
#include <optional>

namespace frenlo::app {

/// What is done in Frame: each is one edit of the session.
class FrameController : public QObject
{
    Q_OBJECT
public:
    FrameController(Session& session, Viewing& viewing, QObject* parent = nullptr);

    /// What follows belongs together: one pull, one change.
    void begin_change() { ++gesture_; }
    void change(const std::function<void(Framing&)>& how, const QString& name);
    void make_upright(const Upright& found);
    /// Of all photos of the shot.
    void set_lens(const Lens& lens);
    /// At the photo that is looked at: what is seen there now, a little closer.
    void new_view_here();
    void set_view(PhotoIndex photo, const DriftView& view);
    void drop_view(PhotoIndex photo);
    void turn_drift_round();
    void drop_views();
    void copy_to_shots(const std::vector<ShotId>& shots);
    /// The shot is dressed for this shape, too, or again; that dress is in hand.
    void dress_for(const FilmShape& shape);
    void drop_shape(const FilmShape& shape);
    void as_shot();

    /// The view in hand: that of the photo that is looked at, or the last one that was; none where there are none.
    [[nodiscard]] std::optional<PhotoIndex> view_in_hand() const;
    void take_in_hand(PhotoIndex photo);
    /// What a box must keep as its shape, width by height in shares of the undressed frame; 0 where it need not.
    [[nodiscard]] double box_ratio() const;

Q_SIGNALS:
    void changed();

private:
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together = false);

    Session& session_;
    Viewing& viewing_;
    std::uint64_t gesture_ = std::uint64_t(5) << 60; ///< apart from those of other benches
    std::optional<PhotoIndex> in_hand_;
};

}
