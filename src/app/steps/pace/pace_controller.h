#pragma once
#include "app/sheet/sheet_actions.h"
#include "app/work/viewing.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"

#include <QObject>

#include <optional>

namespace frenlo::app {

/// What can be done in Pace, to the shot that is looked at: one step of undo each, from bench, Sheet and keys alike.
/// What cannot be done is said by Session::failed, and nothing changes.
class PaceController : public QObject, public RowActions
{
    Q_OBJECT
public:
    PaceController(Session& session, Viewing& viewing, QObject* parent = nullptr);

    /// Of the selected photos, of all where none is selected.
    void set_hold(Hold hold);
    void lengthen(std::int64_t frames); ///< each hold by so many frames, to no less than one
    void spread(Seconds length);
    void fit(Seconds length);
    void speed(Fraction speed);
    /// Of the selected photos; where none is, of the kept range that ends at a photo, or of all.
    [[nodiscard]] std::optional<Seconds> length_of_chosen() const;
    [[nodiscard]] bool length_is_of_range() const;

    /// A tile is pulled to so many frames of the film. photos: all that are pulled with it.
    void pull_hold(const std::vector<PhotoIndex>& photos, std::int64_t frames, std::uint64_t gesture) override;
    void set_first_hold(std::optional<Hold> hold, std::uint64_t gesture = 0) override;
    void set_last_hold(std::optional<Hold> hold, std::uint64_t gesture = 0) override;

    void deliver_at(Rate rate, RateIntent intent);
    void set_paced_at(std::optional<Rate> rate);
    void set_between(Between between);
    void set_to_next(const std::vector<PhotoIndex>& photos, std::optional<Between> between);
    void set_part_backwards(const std::vector<PhotoIndex>& photos, bool backwards);
    void set_shutter(double degrees, std::uint64_t gesture);
    void make_longer(int times); ///< all of the shot, with in-betweens
    void hold_as_taken();
    void hold_as_tapped(PhotoIndex first, const std::vector<double>& taps);
    void vary_holds(std::int64_t frames, std::uint32_t seed);

    void set_speed_at(PhotoIndex photo, double percent, std::uint64_t gesture);
    void move_speed_point(PhotoId point, PhotoIndex to, double percent, std::uint64_t gesture);
    void remove_speed_point(PhotoId point);
    void change_speed_course(const std::function<void(SpeedCourse&)>& how, const QString& name, std::uint64_t gesture);

    /// The photo under the player is the first, the last of what is kept.
    void keep_from_here();
    void keep_to_here();
    void keep_from(PhotoIndex photo, std::uint64_t gesture = 0) override;
    void keep_to(PhotoIndex photo, std::uint64_t gesture = 0) override;
    void fix_length(std::optional<std::variant<PhotoCount, Seconds>> extent);
    void slide(std::int64_t photos, std::uint64_t gesture = 0) override;
    void keep_all();
    void keep_as_version(); ///< and goes to it

    void set_keep_every(int every);
    void set_backwards(bool backwards);
    void set_there_and_back(Return back);
    void set_joint(int frames);
    void set_times(int times, std::optional<Seconds> at_least);

    void mark_here();
    void set_aside_at_marks(int photos);
    void clear_marks();

private:
    void apply(const std::function<Project(const Project&, ShotIndex)>& edit, const QString& name,
               std::uint64_t gesture = 0);
    [[nodiscard]] std::vector<PhotoIndex> photos_of_length() const;
    [[nodiscard]] PhotoIndex here() const; ///< the photo under the player; -1 where there is none

    Session& session_;
    Viewing& viewing_;
};

}
