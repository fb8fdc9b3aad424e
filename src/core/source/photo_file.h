#pragma once
#include "core/base/input_file.h"
#include "core/base/opencv_values.h"
#include "core/time/fraction.h"

#include <opencv2/core/types.hpp>

#include <compare>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// When the camera says that it took the photo: microseconds since 1970-01-01T00:00 on the camera's own clock, which
/// knows no time zone.
struct CaptureTime
{
    std::int64_t microseconds = 0;
    auto operator<=>(const CaptureTime&) const = default;
    /// "2026-05-03T10:42:11.250" ; no decimals where there are none.
    [[nodiscard]] std::string text() const;
};

/// The inverse of CaptureTime::text.
std::optional<CaptureTime> parse_capture_time(std::string_view text);

enum class PhotoFormat
{
    jpeg,
    png,
    tiff,
    webp,
    heif, ///< and AVIF
    jxl,
    exr,
    pnm,
    raw, ///< a camera's
    svg,
    gif,
    apng,
    clip ///< a video
};

/// How the photo was taken, as the camera wrote it down: rounded ("1/50" stands for 2^(-17/3) s).
struct Exposure
{
    std::optional<Fraction> seconds;
    std::optional<Fraction> f_number;
    std::optional<int> iso;
    std::optional<Fraction> focal_mm;
    bool operator==(const Exposure&) const = default;
};

/// One captured still on disk, as it was when it was scanned. Never changed by Frenlo.
struct PhotoFile
{
    std::filesystem::path file; ///< absolute
    std::uintmax_t bytes = 0;
    std::int64_t modified_ns = 0; ///< since the epoch of the file system's clock
    PhotoFormat format = PhotoFormat::jpeg;
    cv::Size size;       ///< as seen, after the orientation is applied; 0x0 where it cannot be read
    int orientation = 1; ///< Exif 2.32 tag 0x0112: 1 to 8
    std::optional<CaptureTime> captured;
    std::string camera; ///< "Make Model" as written, may be empty
    Exposure exposure;
    bool alpha = false;              ///< the format says that there is transparency
    std::string fingerprint;         ///< stands for the content: of the size, the first 16 KiB and the last 4 KiB
    std::int64_t pictures = 1;       ///< that the file has: more in a clip, an animation, a TIFF of several pages
    std::int64_t picture = 0;        ///< which of them this one is
    std::optional<Fraction> stamp{}; ///< its seconds on the file's own clock, by which it is found; none: it is counted
    std::int64_t averaged = 1;       ///< so many of them, this one the first, seen as one: a long shutter
    int rating = 0;                  ///< of its sidecar: 1 to 5, 0 none, -1 rejected (XMP, ISO 16684-1)
    std::string label{};             ///< of its sidecar
    std::vector<std::filesystem::path>
        merged{}; ///< other exposures of the same moment, merged with this one where it is seen (merge_exposures.h)
    std::string drawing{}; ///< an SVG that is the photo: it is on no disk, and file is only what it is called
    bool operator==(const PhotoFile&) const = default;
};

using PhotoPtr = std::shared_ptr<const PhotoFile>;

/// Whether it is one of several in its file, so that its file is no name for it.
inline bool is_one_of_several(const PhotoFile& photo)
{
    return photo.pictures > 1;
}

/// Whether its file is what it is made of; else it was drawn here.
inline bool is_on_disk(const PhotoFile& photo)
{
    return photo.drawing.empty();
}

/// What to call it: "HARB4838.jpg", "ferry.mp4, picture 12".
std::string shown_name(const PhotoFile& photo);
/// Without the ending, where there is little room: "HARB4838", "ferry 12".
std::string shown_stem(const PhotoFile& photo);

/// The same picture as in part, of this file: what part's file is now, or where it is now.
PhotoPtr same_picture(const PhotoFile& part, const PhotoPtr& file);

inline std::size_t hash_value(const CaptureTime& t)
{
    return std::size_t(t.microseconds);
}

template <>
struct Words<PhotoFormat>
{
    static constexpr std::array<std::string_view, 13> words{"jpeg", "png", "tiff", "webp", "heif", "jxl", "exr",
                                                            "pnm",  "raw", "svg",  "gif",  "apng", "clip"};
};
template <>
struct Fields<Exposure>
{
    static constexpr FieldTable table{
        field("seconds", &Exposure::seconds, "Exact fraction, as the camera wrote it: 1/50"),
        field("f_number", &Exposure::f_number, "28/5"),
        field("iso", &Exposure::iso, "", {0, 2147483647}),
        field("focal_mm", &Exposure::focal_mm, ""),
    };
};
template <>
struct Fields<PhotoFile>
{
    static constexpr FieldTable table{
        required("file", &PhotoFile::file,
                 "Path relative to the project's folder; names that are not UTF-8 by their bytes in hexadecimal"),
        required("bytes", &PhotoFile::bytes, "Size of the file, to know it again", {0, 9.2e18}),
        required("modified_ns", &PhotoFile::modified_ns,
                 "Time of its last change, nanoseconds of the file system's clock"),
        required("format", &PhotoFile::format, ""),
        required("size", &PhotoFile::size,
                 "Width and height as seen, after the orientation; 0, 0 where the photo cannot be read", {0, 1 << 20}),
        field("orientation", &PhotoFile::orientation, "Exif tag 0x0112", {1, 8}),
        field("captured", &PhotoFile::captured, "The camera's clock, no time zone: 2026-05-03T10:42:11.25"),
        field("camera", &PhotoFile::camera, "Exif make and model"),
        field("exposure", &PhotoFile::exposure, ""),
        field("alpha", &PhotoFile::alpha, "The format says that there is transparency"),
        field("fingerprint", &PhotoFile::fingerprint,
              "XXH3 of 128 bits over the size, the first 16 KiB and the last 4 KiB, to find the file again"),
        field("pictures", &PhotoFile::pictures, "How many pictures the file has: more in a clip or an animation",
              {1, 1e6}),
        field("picture", &PhotoFile::picture, "Which of them this one is, from 0", {0, 1e6}),
        field("stamp", &PhotoFile::stamp, "Its seconds on the clip's own clock, exact; absent: it is counted"),
        field("averaged", &PhotoFile::averaged, "So many pictures from this one on, seen as one", {1, 1e6}),
        field("drawing", &PhotoFile::drawing, "An SVG that is the photo; file is only what it is called"),
        field("rating", &PhotoFile::rating, "Of its XMP sidecar: 1 to 5, -1 rejected", {-1, 5}),
        field("label", &PhotoFile::label, "Of its XMP sidecar"),
        field("merged", &PhotoFile::merged, "Other exposures of the same moment, merged with this one"),
    };
};

}
