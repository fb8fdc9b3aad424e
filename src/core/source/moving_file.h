#pragma once
#include "core/source/decode.h"
#include "core/time/rate.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <optional>
#include <string_view>
#include <vector>

namespace frenlo {

/// When the pictures of a file that has several are seen, as the file says.
struct PictureTimes
{
    std::int64_t count = 0;
    /// From 0, rising; one a picture. Empty where the file says no times: the pages of a TIFF.
    std::vector<Seconds> begins{};
    Seconds end;                ///< of the last one
    std::optional<Rate> rate{}; ///< where all last equally long but for the rounding of the file's clock
    /// Of each picture the seconds on the file's own clock, which may start below 0; by which it is found again without
    /// the ones before it. Empty where they have to be counted.
    std::vector<Fraction> stamps{};
};

/// Which picture of a file: its number from 0, and its stamp where it has one.
struct WhichPicture
{
    std::int64_t number = 0;
    std::optional<Fraction> stamp{};
};

/// A file of several pictures that follow one another, open: a clip, an animation, the pages of a TIFF. Pictures are
/// handed out fastest in their order. For one thread at a time.
class MovingFile
{
public:
    virtual ~MovingFile() = default;
    /// As seen, orientation not yet applied; the pixels of the first picture where they differ.
    [[nodiscard]] virtual cv::Size size() const = 0;
    [[nodiscard]] virtual bool alpha() const = 0;
    /// Exif 2.32 tag 0x0112.
    [[nodiscard]] virtual int orientation() const { return 1; }
    [[nodiscard]] virtual std::optional<CaptureTime> captured() const { return std::nullopt; }
    /// Reads the whole file where its header does not say. Throws Failure.
    virtual PictureTimes times() = 0;
    /// Pixels as Decoder::decode gives them. Throws Failure where there is none.
    virtual DecodedPhoto picture(const WhichPicture& which) = 0;
    /// The one after that which was handed out last.
    virtual DecodedPhoto following() = 0;
};

/// Throws Failure where it is none, cut off before its pictures, or damaged.
std::unique_ptr<MovingFile> open_clip(const std::filesystem::path& file);
/// The same of bytes, which must outlive it; file is only named in problems.
std::unique_ptr<MovingFile> open_clip(std::string_view bytes, const std::filesystem::path& file);

/// More pictures than this are not brought in from one file: it is endless, or lies.
inline constexpr std::int64_t most_pictures = 1'000'000;

}
