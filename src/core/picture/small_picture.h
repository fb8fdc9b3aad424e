#pragma once
#include "core/base/problem.h"
#include "core/base/transform.h"
#include "core/source/seen_photo.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// A photo as measuring looks at it: through the pipeline, small, with nothing done to it. size: about the photo's own
/// shape. from_film: of points of the film's plane to points of the photo, at full size; the plane is as large as the
/// photo. B G R, or B G R A with straight alpha where the photo has it, 8 bit.
Result<cv::Mat> small_picture(const SeenPhoto& photo, cv::Size size, const PhotoSource& source,
                              const Transform& from_film = Transform::eye());

}
