#pragma once
#include "core/base/strong.h"
#include "core/timing/hold.h"
#include "core/timing/rate.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// A photo and how long it stays, in playing order.
struct HeldPhoto
{
    PhotoIndex photo;
    Hold hold;
};

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
class Schedule {
public:
    /// Holds in frames count frames of paced_at; the frames of the result are frames of delivered_at.
    Schedule(std::span<const HeldPhoto> photos, Rate paced_at, Rate delivered_at);

    [[nodiscard]] Rate rate() const { return rate_; }
    [[nodiscard]] std::int64_t frames() const { return spans_.empty() ? 0 : spans_.back().end.value; }
    [[nodiscard]] Seconds length() const { return length_of(frames(), rate_); }
    [[nodiscard]] std::span<const FrameSpan> spans() const { return spans_; }
    /// The span that holds this frame; position in spans(). frame must be within [0, frames()).
    [[nodiscard]] std::size_t span_at(FrameIndex frame) const;
    [[nodiscard]] PhotoIndex photo_at(FrameIndex frame) const { return spans_[span_at(frame)].photo; }
    /// The first span of this photo, if it is in the film.
    [[nodiscard]] std::optional<std::size_t> span_of(PhotoIndex photo) const;
    /// Photos whose hold is above zero and that no frame shows. Never silent: whoever shows a schedule shows these.
    [[nodiscard]] std::span<const PhotoIndex> between_frames() const { return between_; }
    /// One photo for each frame.
    [[nodiscard]] std::vector<PhotoIndex> photo_of_each_frame() const;

private:
    Rate rate_;
    std::vector<FrameSpan> spans_;
    std::vector<PhotoIndex> between_;
};

}
