#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/retouch/area_edits.h"

#include <QObject>

#include <functional>
#include <optional>
#include <vector>

namespace frenlo::app {

/// What is done to areas and states of the shot that is looked at: edits of the session.
class AreasController : public QObject
{
    Q_OBJECT
public:
    AreasController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    [[nodiscard]] std::vector<Area> areas() const;
    /// The one in hand; none where none is.
    [[nodiscard]] std::optional<Area> area() const;
    void choose(std::optional<AreaId> area);
    [[nodiscard]] std::vector<State> states() const;
    [[nodiscard]] std::optional<State> state() const; ///< in hand
    void choose_state(std::optional<StateId> state);

    /// What follows belongs together: one pull, one change.
    void begin_change() { ++gesture_; }
    /// A new area on the photo that is looked at; brush: radius of the brush, 0 for an outline. No points: all of it.
    void add(const std::vector<cv::Point2d>& points, double brush);
    void change(const std::function<void(Area&)>& how, const QString& name);
    /// The area in hand as it lies on the photo that is looked at; of one that was placed in several photos, there.
    void place(const std::vector<cv::Point2d>& points);
    void place_here_too();
    void remove();
    void shows(AreaShows what); ///< other: the photo that is looked at
    void from_here();
    void until_here();
    void in_all_photos();
    void find_things();
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    [[nodiscard]] double fraction() const { return task_.fraction(); }

    void add_state();
    void rename_state(StateId state, const QString& name);
    void remove_state();
    void switch_here(std::optional<StateId> state);
    /// The selected photos, or all of the film, once more in the state in hand.
    void once_more();

    [[nodiscard]] std::vector<cv::Point2d> points_here(const Area& area) const;
    [[nodiscard]] PhotoIndex here() const { return viewing_.shown_photo(); }
    [[nodiscard]] const Shot* shot() const { return viewing_.on_reel() ? nullptr : viewing_.shot(); }

Q_SIGNALS:
    void changed(); ///< areas, states, which one is in hand, what is looked for; not where the player is
    void failed(const QString& message);

private:
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together = false);
    [[nodiscard]] std::optional<PhotoId> photo_here() const;

    Session& session_;
    Viewing& viewing_;
    Task task_;
    std::uint64_t gesture_ = std::uint64_t(11) << 60; ///< apart from those of other benches
    std::optional<AreaId> chosen_;
    std::optional<StateId> chosen_state_;
};

}
