#pragma once
#include "core/picture/composition.h"
#include "core/picture/in_between.h"

#include <array>
#include <functional>
#include <memory>

namespace frenlo {

/// Two frames, and what moves between them.
struct MovingFrames
{
    std::array<std::shared_ptr<const Composed>, 2> ends;
    std::shared_ptr<const DenseMotion> motion;
};

using ComposeAlone = std::function<Result<Composed>(const FrameRequest&)>;

/// Of a request for a frame between two. Where the source remembers, each frame and each motion is worked out once for
/// all that lies between them; compose makes a frame of its own, at the given depth.
Result<MovingFrames> moving_frames(const FrameRequest& request, cv::Size size, Depth depth, const PhotoSource& source,
                                   const ComposeAlone& compose);

}
