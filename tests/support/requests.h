#pragma once
#include "core/picture/picture.h"

namespace frenlo::test {

/// The photo that is so many parts into the frame.
inline PlacedPhoto& placed(FrameRequest& request, std::size_t part = 0)
{
    return std::get<PlacedPhoto>(request.parts.at(part).what);
}
inline const PlacedPhoto& placed(const FrameRequest& request, std::size_t part = 0)
{
    return std::get<PlacedPhoto>(request.parts.at(part).what);
}

/// The picture of a photo alone.
inline FrameRequest request_of(const PhotoPtr& photo, cv::Size size, Fit fit = Fit::inside)
{
    return {.size = size, .parts = {{1, PlacedPhoto{.photo = photo, .fit = fit}}}};
}

}
