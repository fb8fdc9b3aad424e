#pragma once
#include "app/steps/shoot/camera_desk.h"
#include "app/steps/shoot/recent_photos.h"
#include "app/work/desktop.h"
#include "app/work/viewing.h"
#include "core/steps/shoot/shoot_edits.h"

#include <QObject>

#include <deque>
#include <memory>
#include <optional>

namespace frenlo::app {

/// What the next photo is to be, and where it goes.
struct ShootPlan
{
    enum class Where
    {
        end,
        behind,  ///< the photo that is looked at
        in_place ///< of the photo that is looked at, which is set aside; only the next one
    };
    bool new_shot = true;
    QString name; ///< of a new shot
    QString folder;
    Where where = Where::end;
    Hold hold = Frames{2};
    TakeOrder take{};
    bool operator==(const ShootPlan&) const = default;
};

/// The next photo, as the project is now.
struct NextPhoto
{
    ShotPtr shot; ///< that it goes into; null: a new one
    TakenPlace place{};
    std::vector<PhotoPtr> before{}; ///< the photos of the film before it, the newest first, at most so many
    std::vector<Hold> holds{};      ///< theirs
    std::int64_t number = 0;        ///< among the photos of the film, from 0
    double seconds = 0;             ///< of the shot's film before it, held as they are
};

/// What is done in Shoot: what is taken goes into the session, one step each.
class ShootController : public QObject
{
    Q_OBJECT
public:
    ShootController(Background& background, Session& session, Viewing& viewing, CameraDesk& desk, RecentPhotos& recent,
                    QObject* parent = nullptr);

    [[nodiscard]] const ShootPlan& plan() const { return plan_; }
    void set_plan(const ShootPlan& plan);
    /// Says that everything is to be looked at anew: the step comes into view.
    void look() { Q_EMIT changed(); }
    [[nodiscard]] NextPhoto next() const;

    void take();
    /// The photo that is looked at, or the last one, anew; it is set aside.
    void retake();
    void set_last_aside();
    void start_series(double every, std::int64_t count, double delay);

    /// Photos that lie in the folder and are not on the Sheet: a kill came between the two.
    [[nodiscard]] std::size_t left_lying() const { return left_lying_.size(); }
    void look_for_left_lying();
    void bring_left_lying_in();

    void add_path(const std::vector<cv::Point2d>& drawn, std::int64_t steps, Ease ease);
    void change_path(std::size_t path, const MarkPath& to);
    void remove_path(std::size_t path);
    /// Paths that were drawn; before there is a photo they wait for the shot.
    [[nodiscard]] std::vector<MarkPath> paths() const;
    /// The film or picture that the shot's photos follow; empty: none. Kept with the shot, as soon as there is one.
    [[nodiscard]] std::filesystem::path followed() const;
    void follow_film(const std::filesystem::path& file);

    /// The last photo that was taken; null before the first.
    [[nodiscard]] const std::shared_ptr<const TakenPhoto>& last() const { return last_; }
    [[nodiscard]] MovementNews last_news() const { return last_news_; }
    /// Photos that were taken since the window is open.
    [[nodiscard]] int taken() const { return taken_; }
    /// Where photos go when nobody says otherwise.
    [[nodiscard]] QString usual_folder() const;

    /// How many of the last photos are played, with the live picture behind them.
    [[nodiscard]] std::size_t played() const { return played_; }
    void set_played(std::size_t photos);
    static constexpr std::size_t most_played = 48;

Q_SIGNALS:
    void changed();
    void played_changed(); ///< how many of them
    void photo_taken();    ///< it is safe, and on the Sheet
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void told(const QString& what);

private:
    void follow();
    void take_so(const TakenPlace& place, const SeriesOrder& order, const PhotoPtr& before);
    void took(const std::shared_ptr<const TakenPhoto>& photo);
    [[nodiscard]] std::optional<PhotoId> photo_in_hand() const;
    [[nodiscard]] DeskOrder order_for(const SeriesOrder& series, const PhotoPtr& before) const;

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    CameraDesk& desk_;
    RecentPhotos& recent_;
    ShootPlan plan_;
    std::optional<ShotId> followed_; ///< the shot that was looked at when the plan was last made
    TakenPlace place_{};             ///< of what is being taken
    QString taking_name_;
    std::shared_ptr<const TakenPhoto> last_;
    MovementNews last_news_ = MovementNews::as_before;
    std::vector<MarkPath> waiting_paths_;
    std::filesystem::path waiting_film_; ///< until there is a shot that follows it
    std::vector<std::filesystem::path> left_lying_;
    std::unique_ptr<StayAwake> awake_;
    int taken_ = 0;
    std::size_t played_ = 12;
};

}
