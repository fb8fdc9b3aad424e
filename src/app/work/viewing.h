#pragma once
#include "app/work/reel_page.h"
#include "app/work/selection.h"
#include "app/work/session.h"
#include "core/time/timecode.h"
#include "core/timeline/timeline.h"

#include <QObject>

#include <map>
#include <memory>
#include <string_view>
#include <vector>

namespace frenlo::app {

/// What all parts of the window know of a step.
struct StepInfo
{
    const char* key;    ///< as its folder
    bool tiles = false; ///< the Sheet shows all photos as even tiles, and the picture each in its own shape; else it is
                        ///< about the film
    enum class About
    {
        shot,
        reel,
        either ///< whatever was looked at before
    } about = About::shot;
    bool from_nothing = false; ///< it begins without photos
};

/// What is being looked at: step, shot, selection, the frame under the player. Never part of the project.
class Viewing : public QObject
{
    Q_OBJECT
public:
    /// steps: all there are; the first one that is about photos is looked at.
    Viewing(Session& session, std::vector<StepInfo> steps, QObject* parent = nullptr);

    [[nodiscard]] const StepInfo& step() const { return steps_[step_]; }
    [[nodiscard]] std::size_t step_index() const { return step_; }
    [[nodiscard]] bool is_step(std::string_view key) const { return key == step().key; }
    /// The one looked at, or, on the Reel, the one looked at before.
    [[nodiscard]] ShotIndex shot_index() const { return shot_; }
    /// Whether the Reel is looked at; then shot() is a made-up one of all its photos, and not to be edited.
    [[nodiscard]] bool on_reel() const { return on_reel_; }
    /// Null where a shot is looked at.
    [[nodiscard]] const ReelPage* reel() const;
    /// None while the project has no shots.
    [[nodiscard]] const Shot* shot() const { return shot_ptr().get(); }
    [[nodiscard]] ShotPtr shot_ptr() const;
    /// The project's shot of that index; null on the Reel, whose page is a made-up shot that nothing edits.
    [[nodiscard]] ShotPtr edited_shot() const { return on_reel_ ? nullptr : shot_ptr(); }
    /// Of the shot looked at, with what the kept range leaves out; kept until shot or rate change.
    [[nodiscard]] const DisplayTimeline& timeline() const;
    [[nodiscard]] const Schedule& schedule() const { return timeline().schedule; }
    /// The same as what is played and shown; none while there is no shot.
    [[nodiscard]] const Timeline* film() const;
    /// A photo as the frame under the player would show it: on the Reel, as its own first frame does.
    [[nodiscard]] FrameRequest photo_in_frame(PhotoIndex photo, cv::Size size) const;
    /// How many frames are exported.
    [[nodiscard]] std::int64_t film_frames() const { return timeline().kept_end - timeline().kept_begin; }
    [[nodiscard]] const Selection& selection() const { return selection_; }
    /// Always within the schedule, 0 when that is empty.
    [[nodiscard]] FrameIndex playhead() const { return playhead_; }
    /// The photo to show large: where there are tiles the current one, else the one under the player; -1 when there is
    /// none.
    [[nodiscard]] PhotoIndex shown_photo() const;
    /// The selected photos, or all of the shot where none is selected.
    [[nodiscard]] std::vector<PhotoIndex> chosen_or_all() const;

    /// How lengths are counted, everywhere in the window.
    [[nodiscard]] Counting counting() const { return counting_; }
    void set_counting(Counting counting);
    [[nodiscard]] QString length_text(std::int64_t frames) const;

    void set_step(std::string_view key); ///< nothing where there is none
    /// Leaves the Reel, where that is looked at.
    void set_shot(ShotIndex shot);
    /// Goes to the step that is about it, unless the one in view is about either.
    void show_reel();
    void set_selection(const Selection& selection);
    void set_playhead(FrameIndex frame);
    /// Moves the player to the photo's first frame.
    void go_to_photo(PhotoIndex photo);
    void step_frames(int by);
    void step_photos(int by);

Q_SIGNALS:
    void step_changed();
    void shot_changed(); ///< another shot, or the shot itself changed
    void selection_changed();
    void playhead_changed();
    void counting_changed();

private:
    void follow_project();
    void look_at(bool reel);
    [[nodiscard]] const StepInfo& first_step() const;
    void forget_page();

    Session& session_;
    std::vector<StepInfo> steps_;
    std::size_t step_ = 0;
    ShotIndex shot_;
    Selection selection_;
    FrameIndex playhead_;
    bool on_reel_ = false;
    std::size_t shot_step_ = 0; ///< the last one that was about a shot
    mutable std::optional<ReelPage> reel_;
    mutable std::optional<DisplayTimeline> timeline_;
    mutable std::unique_ptr<ShotTimeline> film_; ///< of a shot
    Counting counting_ = Counting::clock;
};

}
