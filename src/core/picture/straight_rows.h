#pragma once
#include "core/picture/canvas.h"
#include "core/source/lens.h"

namespace frenlo {

/// The rows of a whole photo without what the lens did: resampled by Lanczos of three lobes, made wider where the
/// result is smaller. The size stays. The same rows where the lens does nothing.
CanvasRows straight_rows(CanvasRows photo, const Lens& lens);

/// Of shares of a photo as taken to shares of it without what the lens did; and back. photo: its size, any unit.
cv::Point2d straight_share(const Lens& lens, cv::Size2d photo, cv::Point2d taken);
cv::Point2d taken_share(const Lens& lens, cv::Size2d photo, cv::Point2d straight);

}
