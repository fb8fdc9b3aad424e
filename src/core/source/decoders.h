#pragma once
// Private to photo/: one decoder a format, each from bytes in memory to pixels as decode.h says, not yet oriented. None
// prints, none allocates before it knows from the header how large the picture is.
#include "core/source/decode.h"

namespace frenlo {

/// 1.6 GB of 8-bit pixels: beyond it the machine suffers.
inline constexpr std::int64_t most_pixels = std::int64_t(1) << 29;

/// What there is to say about a picture of this size: nothing where it can be decoded. compressed: the bytes that it is
/// made of, where they can't hold more than so many times as much (a header that lies is found before memory is asked
/// for).
std::optional<Problem> size_problem(cv::Size stored, const std::filesystem::path& file);
std::optional<Problem> claim_problem(cv::Size stored, std::size_t compressed, const std::filesystem::path& file);

/// at_least: as stored. The stronger of 1/8, 1/4, 1/2, 1 that still leaves it.
Result<DecodedPhoto> decode_jpeg(std::string_view bytes, cv::Size at_least, const std::filesystem::path& file);
Result<DecodedPhoto> decode_png(std::string_view bytes, const std::filesystem::path& file);
Result<DecodedPhoto> decode_tiff(std::string_view bytes, const std::filesystem::path& file);
Result<DecodedPhoto> decode_webp(std::string_view bytes, const std::filesystem::path& file);

/// The picture was decoded up to here; what is missing is black, or see-through.
inline constexpr const char* cut_off_flaw = "the file is cut off";

/// "the photo cannot be read (why)", with what to do.
tl::unexpected<Problem> unreadable(const std::string& why, const std::filesystem::path& file);

}
