#pragma once
#include "core/base/strong.h"
#include "core/time/frame_range.h"
#include "core/time/hold.h"
#include "core/time/rate.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// A hold of 0 is "not shown".
bool is_shown(const Hold& hold);

/// A photo and how long it stays, in playing order.
struct HeldPhoto
{
    PhotoIndex photo;
    Hold hold;
    bool backwards = false; ///< it and such photos beside it are played in the other order
};

/// What a frame shows that begins in one photo and ends in another.
enum class Between
{
    repeat, ///< the photo whose boundaries, rounded to frames, hold it
    mix,    ///< all photos that fall into its time, each by its share of that time
    motion, ///< an in-between: at the begin of its hold a photo is as shot, then it becomes the next one
};

/// A photo's part in a frame; the weights of a frame sum to 1.
struct Share
{
    PhotoIndex photo;
    double weight = 1;
    bool operator==(const Share&) const = default;
};

/// Frames [begin, end) that show the same picture.
struct Moment
{
    FrameIndex begin;
    FrameIndex end;
    std::vector<Share> shares;
    bool operator==(const Moment&) const = default;
};

/// How long before its end a photo begins to become the next, where in-betweens are made: all of its hold; of one that
/// is held more than twice as long as each beside it, which is a pause, no longer than these. holds: in playing order.
std::vector<double> time_of_becoming(std::span<const double> holds);

/// The frames [begin, end) that one photo fills. Empty when the photo falls between two frames.
struct FrameSpan
{
    PhotoIndex photo;
    FrameIndex begin;
    FrameIndex end;
    [[nodiscard]] std::int64_t frames() const { return end - begin; }
    bool operator==(const FrameSpan&) const = default;
};

/// Which photo is in which frame. Spans are in playing order and leave no gaps: each begins where the one before ends.
/// A boundary is the running total of the holds, rounded to the nearest frame (halves up), so no boundary, and not the
/// end either, is ever more than half a frame from the exact time, however many photos there are.
class Schedule
{
public:
    /// Holds in frames count frames of paced_at; the frames of the result are frames of delivered_at.
    Schedule(std::span<const HeldPhoto> photos, Rate paced_at, Rate delivered_at, Between between = Between::repeat);

    /// This and then another of the same rate, which begins on a frame of its own.
    [[nodiscard]] Schedule followed_by(const Schedule& next) const;

    /// The same, with the last so many frames of each of its passes becoming what lies before its beginning, evenly:
    /// where it goes round no joint is seen. before: of the same rate, and no fewer frames; else fewer are taken.
    [[nodiscard]] Schedule with_joint(const Schedule& before, std::int64_t frames, std::int64_t passes) const;

    [[nodiscard]] Rate rate() const { return rate_; }
    [[nodiscard]] std::int64_t frames() const { return spans_.empty() ? 0 : spans_.back().end.value; }
    [[nodiscard]] Seconds length() const { return length_of(frames(), rate_); }
    [[nodiscard]] std::span<const FrameSpan> spans() const { return spans_; }
    /// The span that holds this frame; position in spans(). frame must be within [0, frames()).
    [[nodiscard]] std::size_t span_at(FrameIndex frame) const;
    [[nodiscard]] PhotoIndex photo_at(FrameIndex frame) const { return spans_[span_at(frame)].photo; }
    /// The first span of this photo, if it is in the film.
    [[nodiscard]] std::optional<std::size_t> span_of(PhotoIndex photo) const;
    /// What this frame shows: one photo, or several where they are mixed, in playing order; of an in-between the two
    /// that it lies between, the weight of the second being how far it is on the way. Weights are exact to 1e-9.
    [[nodiscard]] std::vector<Share> shares_at(FrameIndex frame) const;
    /// The first frame after this one that shows something else, where this one is on its way there: nothing at the
    /// end, nor of a photo that is a pause, held more than twice as long as each beside it.
    [[nodiscard]] std::optional<FrameIndex> on_its_way_to(FrameIndex frame) const;
    /// The frames [begin, end) by what they show; frames that show the same and follow each other are one.
    [[nodiscard]] std::vector<Moment> moments(FrameIndex begin, FrameIndex end) const;
    [[nodiscard]] std::vector<Moment> moments() const { return moments(FrameIndex(0), FrameIndex(frames())); }
    /// Photos whose hold is above zero and that no frame shows. Never silent: whoever shows a schedule shows these.
    [[nodiscard]] std::span<const PhotoIndex> between_frames() const { return between_; }
    /// One photo for each frame.
    [[nodiscard]] std::vector<PhotoIndex> photo_of_each_frame() const;

private:
    /// A time in frames that need not lie on one: whole frames and a part of the next, so that long films stay exact.
    struct Point
    {
        std::int64_t whole = 0;
        double part = 0;
    };
    class RunningTotal;

    void find_unseen_mixed(std::span<const HeldPhoto> photos);
    void find_unseen_moving(std::span<const HeldPhoto> photos);
    [[nodiscard]] std::vector<Share> mixed_at(FrameIndex frame) const;
    [[nodiscard]] std::vector<Share> moving_at(FrameIndex frame) const;

    Rate rate_;
    std::vector<FrameSpan> spans_;
    std::vector<std::pair<Point, Point>>
        exact_; ///< where each span really begins and ends; only where frames are made of several photos
    std::vector<double> becoming_; ///< frames before its end that each begins to become the next; only with motion
    std::vector<PhotoIndex> between_;
    /// What frames become, in order: where the part's share rises from nothing at from to all at to.
    struct Joint
    {
        FrameIndex begin, end;
        std::vector<std::vector<Share>> others; ///< one a frame
    };
    std::vector<Joint> joints_;
    /// The frames about this one that show the same.
    [[nodiscard]] FrameRange same_about(FrameIndex frame) const;
    [[nodiscard]] const Joint* joint_at(FrameIndex frame) const;
    [[nodiscard]] std::vector<Share> unjoined_at(FrameIndex frame) const;
};

}
