#pragma once
#include "core/base/input_file.h"
#include "core/timing/fraction.h"

#include <opencv2/core/types.hpp>

#include <compare>
#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <string_view>

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

enum class PhotoFormat { jpeg, png, tiff, webp };

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
    cv::Size size; ///< as seen, after the orientation is applied; 0x0 where it cannot be read
    int orientation = 1; ///< Exif 2.32 tag 0x0112: 1 to 8
    std::optional<CaptureTime> captured;
    std::string camera; ///< "Make Model" as written, may be empty
    Exposure exposure;
    bool alpha = false; ///< the format says that there is transparency
    std::string fingerprint; ///< stands for the content: of the size, the first 16 KiB and the last 4 KiB
    bool operator==(const PhotoFile&) const = default;
};

using PhotoPtr = std::shared_ptr<const PhotoFile>;

}
