#pragma once
#include "core/base/problem.h"
#include "core/source/colour_profile.h"
#include "core/source/photo_file.h"

#include <opencv2/core/mat.hpp>

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// Pixels in this project, unless a function says otherwise: cv::Mat, rows top to bottom, channels B G R or B G R A
/// with straight alpha, 8 or 16 bit, sRGB-encoded (IEC 61966-2-1), the Exif orientation applied. Where it is said that
/// they may be wide, also 32-bit float: linear light, the primaries and the white of Rec. ITU-R BT.709, unbounded.

class OpenFiles;

struct DecodedPhoto
{
    cv::Mat pixels;
    /// What is wrong with the picture although there is one: "the file is cut off". Empty when all is well.
    std::string flaw;
    /// What the numbers stand for, where the decoder knows; else what the file's header says. Floats are as above.
    std::optional<SourceColours> colours{};
};

/// The format by the file's first bytes (at least 12), whatever its name says.
std::optional<PhotoFormat> sniff(std::string_view first_bytes);

/// Whether the extension is one that photos have, so that a file with another content is worth a word.
bool has_photo_extension(const std::filesystem::path& file);

/// All of them, with the dot, lower case.
std::vector<std::string_view> photo_extensions();

/// What photos may be, for people: "JPEG, PNG, TIFF and WebP".
std::string readable_formats();

/// Decodes a photo, no smaller than at_least in both directions where the photo is that large; an empty size asks for
/// full size. JPEG uses the decoder's own scaling by 1/2, 1/4 and 1/8. A cut-off JPEG is returned with its flaw.
/// files: kept open between calls, so that pictures of one file cost little in their order.
Result<DecodedPhoto> decode(const PhotoFile& photo, cv::Size at_least = {}, Numbers numbers = Numbers::encoded,
                            OpenFiles* files = nullptr);

/// The same from bytes in memory; file is only named in problems.
Result<DecodedPhoto> decode_bytes(std::string_view bytes, int orientation, cv::Size at_least,
                                  const std::filesystem::path& file, Numbers numbers = Numbers::encoded);

/// Baseline JPEG, 4:2:0, of 8-bit B G R pixels. quality: 1 to 100. full_colour: 4:4:4.
std::string encode_jpeg(const cv::Mat& pixels, int quality, bool full_colour = false);

/// PNG of 8- or 16-bit pixels with or without alpha. effort: zlib level, 1 fast to 9 small.
std::string encode_png(const cv::Mat& pixels, int effort);

}
