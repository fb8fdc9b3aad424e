#pragma once
#include <opencv2/core/mat.hpp>
#include <opencv2/core/matx.hpp>

namespace frenlo {

/// The picture seen through a transform, in one resample: Lanczos of three lobes, made wider where the result is
/// smaller so that nothing aliases, and held between the values around it so that no edge rings. B G R, 8 or 16 bit.
/// to_source: maps pixels of the result to pixels of the source, centres on integers. Where it leaves the source, the
/// source's edge goes on, or the source is mirrored at its edge.
cv::Mat warped(const cv::Mat& source, const cv::Matx33d& to_source, cv::Size size, bool mirrored = false);

}
