#pragma once
#include "core/project/reel_items.h"
#include "core/timeline/timeline.h"

#include <memory>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

/// A film in the Reel.
struct ReelPart
{
    ReelItem item;
    ShotPtr shot; ///< with what is kept of it here
    std::shared_ptr<const DisplayTimeline> page;
    FrameRange frames; ///< of the Reel, from cut to cut
    FrameRange join;   ///< of the Reel, into the next part; empty where it is a cut
    /// Frames of the join in which this film has ended or the next has not begun, since neither leaves photos out
    /// there: the last or the first photo is held.
    std::int64_t held = 0;
    bool join_shortened = false; ///< the films around it are too short for all of it

    /// Of the page, at this frame of the Reel, which may lie outside of frames.
    [[nodiscard]] FrameIndex page_frame(FrameIndex of_reel) const;
};

/// Shots and cards one after another as one film. A join changes nothing of its length: films go on under it into
/// what their kept ranges leave out.
class ReelTimeline : public Timeline
{
public:
    explicit ReelTimeline(const Project& project);

    [[nodiscard]] const std::string& name() const override { return name_; }
    [[nodiscard]] Rate rate() const override { return rate_; }
    [[nodiscard]] std::int64_t frames() const override { return parts_.empty() ? 0 : parts_.back().frames.end.value; }
    [[nodiscard]] cv::Size size() const override { return size_; }
    [[nodiscard]] FrameRequest frame(FrameIndex frame, const FrameLook& look) const override;
    [[nodiscard]] std::vector<FrameRange> runs() const override;
    [[nodiscard]] std::vector<PhotoPtr> between_frames() const override;

    /// Those that have frames, in order.
    [[nodiscard]] std::span<const ReelPart> parts() const { return parts_; }
    /// The one whose frames these are; position in parts(). frame: within [0, frames()).
    [[nodiscard]] std::size_t part_at(FrameIndex frame) const;

private:
    void lay_join(std::size_t part);
    /// Without what lies over the Reel.
    [[nodiscard]] FrameRequest joined(FrameIndex frame, const FrameLook& look) const;
    [[nodiscard]] FrameDress dress_at(FrameIndex frame) const;
    [[nodiscard]] FrameRequest of_part(std::size_t part, FrameIndex frame, const FrameLook& look) const;
    /// The part whose join into the next this frame is in.
    [[nodiscard]] std::optional<std::size_t> join_at(FrameIndex frame) const;

    std::string name_ = "Reel";
    Rate rate_;
    cv::Size size_;
    ReelFit fit_;
    std::vector<ReelPart> parts_;
    std::vector<std::shared_ptr<const ShotTimeline>> films_; ///< of the parts
    DressFrame dress_;                                       ///< of the Reel's frames; empty where it is not dressed
};

std::shared_ptr<const ReelTimeline> reel_of(const Project& project);

/// What is not as asked, or was made to fit: joins that are too long, shots of another shape.
std::vector<std::string> reel_notes(const ReelTimeline& reel);

}
