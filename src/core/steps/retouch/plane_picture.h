#pragma once
#include "core/picture/frame_request.h"

#include <functional>
#include <vector>

namespace frenlo {

/// What marks and plates count in: the film's plane, or the photo itself.
enum class Ground
{
    plane,
    photo
};

/// So large, pixels; 0x0 where the photo cannot be read.
cv::Size ground_size(const Shot& shot, PhotoIndex photo, Ground ground);
/// This part of it, in shares, as this photo shows it before anything is healed.
FrameRequest ground_request(const Shot& shot, PhotoIndex photo, Ground ground, const cv::Rect2d& part, cv::Size size,
                            Depth depth = Depth::eight);
/// At most so many of the photos in the film that can be read and are wanted, spread evenly.
std::vector<PhotoIndex> some_photos(const Shot& shot, std::size_t most,
                                    const std::function<bool(PhotoIndex)>& wanted = {});

}
