#pragma once
#include "core/base/problem.h"
#include "core/source/colour_profile.h"
#include "core/source/photo_file.h"
#include "core/time/fraction.h"

#include <filesystem>
#include <optional>
#include <string>

namespace frenlo {

/// What the camera wrote beside the picture.
struct Metadata
{
    cv::Size stored_size;                ///< before the orientation is applied; empty where a bad profile hid it
    int orientation = 1;                 ///< Exif 2.32 tag 0x0112; 1 where missing or out of range
    std::optional<CaptureTime> captured; ///< DateTimeOriginal with SubSecTimeOriginal, else Digitized, else DateTime
    std::string camera;                  ///< "Make Model" as written, may be empty
    Exposure exposure;
    SourceColours colours; ///< what its numbers stand for
    std::string odd_date;  ///< a time of capture that is none, as it is written; empty where there is one, or the clock
                           ///< was never set
};

/// Reads header and Exif only, with Exiv2. Problems: not a readable picture header.
Result<Metadata> read_metadata(const std::filesystem::path& file);

/// Exiv2, set up once before threads use it, and kept from printing. Whoever calls it calls this first.
void prepare_exiv2();

/// The size as seen: orientations 5 to 8 turn the picture on its side.
cv::Size seen_size(cv::Size stored, int orientation);

/// The JPEG that the camera put into the file as its thumbnail; empty where there is none. Its colours are those of the
/// photo.
struct ThumbnailBytes
{
    std::string jpeg;
    SourceColours colours;
};
ThumbnailBytes camera_thumbnail_bytes(const std::filesystem::path& file);

}
