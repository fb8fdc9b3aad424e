#pragma once
#include "core/picture/frame_request.h"
#include "core/source/photo_source.h"

namespace frenlo {

/// A frame in linear light, before it is quantised.
struct Composed
{
    Canvas canvas;
    bool alpha = false; ///< some of it may be transparent
};

/// The parts' sum with all that is done to it, its layers among that. depth: of the result.
Result<Composed> compose(const FrameRequest& request, Depth depth, const PhotoSource& source);

}
