#pragma once
#include "core/picture/picture.h"
#include "core/picture/step_pictures.h"
#include "core/project/project.h"
#include "core/time/frame_range.h"

#include <memory>
#include <string>
#include <vector>

namespace frenlo {

/// How a frame is to be made, whatever it shows.
struct FrameLook
{
    cv::Size size; ///< pixels
    Fit fit = Fit::inside;
    Depth depth = Depth::eight;
    bool alpha = false; ///< keep what is transparent
    bool dither = true; ///< as in FrameRequest
    Corrections corrections = Corrections::applied;
};

/// A film as player, loader and export know it: how long it is, and what each frame shows. A value: it does not change.
class Timeline
{
public:
    virtual ~Timeline() = default;
    /// For people.
    [[nodiscard]] virtual const std::string& name() const = 0;
    [[nodiscard]] virtual Rate rate() const = 0;
    [[nodiscard]] virtual std::int64_t frames() const = 0;
    /// The size of its pictures where none is asked for; 0x0 where nothing can be seen.
    [[nodiscard]] virtual cv::Size size() const = 0;
    /// frame: within [0, frames()).
    [[nodiscard]] virtual FrameRequest frame(FrameIndex frame, const FrameLook& look) const = 0;
    /// All of it by what it shows: frames that show the same and follow each other are one range.
    [[nodiscard]] virtual std::vector<FrameRange> runs() const = 0;
    /// Photos that would be seen, had they a frame. Never silent: whoever shows a timeline shows these.
    [[nodiscard]] virtual std::vector<PhotoPtr> between_frames() const = 0;

    [[nodiscard]] Seconds length() const { return length_of(frames(), rate()); }
};

/// The film of a shot.
class ShotTimeline : public Timeline
{
public:
    ShotTimeline(ShotPtr shot, Schedule schedule, const OtherFilms& others = {});
    /// The same with what the kept range leaves out, before and after it, which is dressed as the film's ends are.
    ShotTimeline(ShotPtr shot, const DisplayTimeline& page, const OtherFilms& others = {});

    [[nodiscard]] const std::string& name() const override { return shot_->name; }
    [[nodiscard]] Rate rate() const override { return schedule_.rate(); }
    [[nodiscard]] std::int64_t frames() const override { return schedule_.frames(); }
    [[nodiscard]] cv::Size size() const override { return film_size(*shot_); }
    [[nodiscard]] FrameRequest frame(FrameIndex frame, const FrameLook& look) const override;
    [[nodiscard]] std::vector<FrameRange> runs() const override;
    [[nodiscard]] std::vector<PhotoPtr> between_frames() const override;

    /// A photo of the shot as this frame would show it: in the frame's view, with its looks.
    [[nodiscard]] FrameRequest photo_in_frame(PhotoIndex photo, FrameIndex frame, cv::Size size) const;

private:
    [[nodiscard]] FrameDress dress_at(FrameIndex frame) const;
    /// The photos of this frame; where movement is blurred, on their way to the next ones.
    [[nodiscard]] FrameRequest undressed_frame(FrameIndex frame, const FrameLook& look) const;

    ShotPtr shot_;
    Schedule schedule_;
    FrameRange film_;  ///< what of the schedule is the film
    DressFrame dress_; ///< of the film's frames; empty where it is not dressed
};

/// The films of the project's shots, for what shows them inside of others. within: those that are being shown already.
OtherFilms films_of(const std::shared_ptr<const Project>& project, std::vector<ShotId> within = {});

/// What of a project is exported: the film of this shot.
std::shared_ptr<const Timeline> film_of(const Project& project, ShotIndex shot);

}
