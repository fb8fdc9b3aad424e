#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core/types.hpp>

namespace frenlo {

/// What differs between two pictures.
struct Changes
{
    cv::Rect part;    ///< of the pictures: all that differs lies in it; empty where nothing does
    double share = 0; ///< of the pictures, that differs, 0 to 1
};

/// Of two pictures of one size, in blocks of about a hundredth of the longer side; what differs by less than noise
/// does, on the average of a block, does not.
Changes changes(const Canvas& first, const Canvas& second);

}
