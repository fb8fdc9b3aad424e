#pragma once
#include "core/source/photo_file.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// The small picture that the camera put into the file's Exif: instant and rough, B G R 8 bit, turned as the photo is
/// seen, without the black bars that fill it up to 160x120 (CIPA DC-009). Empty where there is none.
cv::Mat camera_thumbnail(const PhotoFile& photo);

}
