#pragma once
#include "core/picture/canvas.h"
#include "core/picture/placement.h"

#include <opencv2/core/matx.hpp>

namespace frenlo {

/// The source made as much smaller as a result allows, in one resample, so that what is done to its pixels is done to
/// few of them; and the transform that is left to be warped through. The source itself where little would be won.
struct Smaller
{
    CanvasRows rows;
    cv::Matx33d to_source; ///< of pixels of the result to these
};
Smaller smaller_first(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges);

/// A picture seen through a transform: Lanczos of three lobes, made wider where the result is smaller so that nothing
/// aliases. What only scales and moves is one resample (scale.h). Else the photo is made smaller first where the result
/// is much smaller, with a quarter to spare, and then warped, first across, then down (Catmull, Smith: 3-D
/// Transformations of Images in Scanline Order, SIGGRAPH 1980), so that only as many rows are in memory as one row of
/// the result looks at. Past a turn of some 30 degrees from the nearest quarter it gets softer. to_source: maps pixels
/// of the result to pixels of the source, centres on integers. Where it leaves the source, the source's edge goes on,
/// or the source is mirrored at its edge.
void warp(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges, const TakeRow& take);
Canvas warped(const CanvasRows& source, const cv::Matx33d& to_source, cv::Size size, Edges edges = Edges::go_on);

}
