#pragma once
// How one photo comes into a frame: decoded as small as will do, its stages, one resample.
#include "core/picture/frame_request.h"
#include "core/source/photo_source.h"

#include <opencv2/core/mat.hpp>

#include <memory>
#include <mutex>
#include <optional>

namespace frenlo {

/// Pixels of the frame against the edges of what there is to see.
struct Beside
{
    Transform to_undressed; ///< of pixels in the frame to those of the undressed frame, centres on integers
    cv::Size undressed;
    double scale = 1; ///< pixels of that for one of the frame
};

/// What was wrong first with a photo that another one shows a part of. Safe from any thread.
class MissingPart
{
public:
    void note(const Problem& problem)
    {
        const std::scoped_lock lock(mutex_);
        if (!problem_)
            problem_ = problem;
    }
    [[nodiscard]] std::optional<Problem> problem() const
    {
        const std::scoped_lock lock(mutex_);
        return problem_;
    }

private:
    mutable std::mutex mutex_;
    std::optional<Problem> problem_;
};

/// A photo that was decoded, and how it comes into the frame.
struct DrawnPhoto
{
    cv::Mat pixels;      ///< upright
    cv::Rect at;         ///< where it lies in the frame
    Transform to_pixels; ///< of pixels there to those decoded
    StagePhoto shown;    ///< those decoded, as stages see them
    Edges edges = Edges::go_on;
    std::optional<Beside> beside{}; ///< where it reaches beyond the undressed frame
    const PlacedPhoto* photo = nullptr;
    Depth result = Depth::eight;
    std::shared_ptr<MissingPart> missing{};
};

/// Decodes it, and works out how it lies in a frame of this size.
Result<DrawnPhoto> drawing_of(const PlacedPhoto& p, cv::Size frame, Depth result, const PhotoSource& source);
/// It may be transparent where nothing lies behind it.
bool stays_transparent(const DrawnPhoto& d);
/// Nothing is done to its pixels.
bool untouched(const DrawnPhoto& d, const FrameRequest& request);
/// The part of its pixels that fills the frame, where all that is done to them is that they are scaled, and eight bits
/// do.
std::optional<cv::Rect2d> plainly_scaled(const DrawnPhoto& d, const FrameRequest& request);
/// All of the frame, in parts of rows: the photo, and what lies behind and beside it. Returns what is missing in it: a
/// part of another photo that cannot be read, unless the source is content with what there is.
std::optional<Problem> draw(const DrawnPhoto& d, cv::Size frame, const TakeRow& take);

}
