#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/retouch/retouch_operations.h"

#include <QObject>

#include <functional>
#include <optional>
#include <vector>

namespace frenlo::app {

/// What is done in Retouch: spots are edits of the session, what is looked for in the photos runs in the background.
class RetouchController : public QObject
{
    Q_OBJECT
public:
    RetouchController(Background& background, Session& session, Viewing& viewing, QObject* parent = nullptr);

    [[nodiscard]] std::vector<Spot> spots() const;
    /// The one in hand; none where none is.
    [[nodiscard]] std::optional<Spot> spot() const;
    void choose(std::optional<SpotId> spot);

    /// What follows belongs together: one pull, one change.
    void begin_change() { ++gesture_; }
    /// A new spot where the brush went, on the photo that is looked at.
    void brush(const std::vector<cv::Point2d>& points, double radius, HealFrom from);
    void change(const std::function<void(Spot&)>& how, const QString& name);
    /// The spot in hand as it lies on the photo that is looked at; of one that was placed in several photos, there.
    void place(const std::vector<cv::Point2d>& points);
    /// It is placed on this photo too, and moves from one to the other.
    void place_here_too();
    void remove();
    void only_here(); ///< from now on in the photos that are selected, or in this one
    void find_sources_again();

    void make_plate();
    void use_as_plate();
    void no_plate();
    void find_dust();
    void follow();
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    [[nodiscard]] double fraction() const { return task_.fraction(); }
    [[nodiscard]] QString progress_text() const;

    /// Where a spot lies on the photo that is looked at, shares of the plane; empty where it is not there.
    [[nodiscard]] std::vector<cv::Point2d> points_here(const Spot& spot) const;
    [[nodiscard]] PhotoIndex here() const { return viewing_.shown_photo(); }
    [[nodiscard]] const Shot* shot() const { return viewing_.on_reel() ? nullptr : viewing_.shot(); }

Q_SIGNALS:
    void changed(); ///< the spots, which one is in hand, what is looked for; not where the player is
    void failed(const QString& message);

private:
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, bool together = false);
    void run(Operation operation, const QString& name);

    Session& session_;
    Viewing& viewing_;
    Task task_;
    std::uint64_t gesture_ = std::uint64_t(10) << 60; ///< apart from those of other benches
    std::optional<SpotId> chosen_;
    std::vector<SpotId> waiting_; ///< spots whose sources are to be found when what runs is done
};

}
