#pragma once
#include "core/picture/frame_request.h"
#include "core/picture/laid_layers.h"
#include "core/source/photo_source.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// A frame in linear light, before it is quantised.
struct Composed
{
    Canvas canvas;
    bool alpha = false; ///< some of it may be transparent
    /// Of each row the part where arithmetic may have made light smoother than whole numbers are: where something is
    /// mixed or laid over. The rest is as the photo was.
    std::vector<cv::Range> smooth{};
};

/// The parts' sum with all that is done to it, its layers among that. depth: of the result. laid: those of its layers
/// that are made already.
Result<Composed> compose(const FrameRequest& request, Depth depth, const PhotoSource& source, LaidLayers laid = {});

}
