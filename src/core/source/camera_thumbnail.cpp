#include "core/source/camera_thumbnail.h"

#include "core/source/decode.h"
#include "core/source/decode_raw.h"
#include "core/source/metadata.h"
#include "core/source/photo_source.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

cv::Mat camera_thumbnail(const PhotoFile& photo)
{
    if (!is_on_disk(photo) || is_one_of_several(photo) || !photo.merged.empty())
        return {};
    ThumbnailBytes bytes;
    int orientation = photo.orientation;
    if (photo.format == PhotoFormat::raw)
        bytes.jpeg = raw_preview(photo.file, orientation);
    else
        bytes = camera_thumbnail_bytes(photo.file);
    if (bytes.jpeg.empty())
        return {};
    auto decoded = decode_bytes(bytes.jpeg, orientation, {thumbnail_side, 1}, photo.file);
    if (!decoded)
        return {};
    into_srgb(decoded->pixels, bytes.colours);
    // Exif thumbnails are 160x120 (DCF 2.0), with black bars where the photo has another shape.
    const cv::Mat& m = decoded->pixels;
    const double shape = double(photo.size.width) / double(photo.size.height);
    const int width = std::min(m.cols, static_cast<int>(std::lround(m.rows * shape)));
    const int height = std::min(m.rows, static_cast<int>(std::lround(m.cols / shape)));
    if (width < 1 || height < 1)
        return {};
    return m({(m.cols - width) / 2, (m.rows - height) / 2, width, height}).clone();
}

}
