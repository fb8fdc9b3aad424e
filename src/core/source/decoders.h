#pragma once
// Private to source/: one decoder a format, each from bytes in memory to pixels as decode.h says, not yet oriented.
// None prints, none allocates before it knows from the header how large the picture is.
#include "core/source/decode.h"
#include "core/source/moving_file.h"

#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// 1.6 GB of 8-bit pixels: beyond it the machine suffers.
inline constexpr std::int64_t most_pixels = std::int64_t(1) << 29;

/// What there is to say about a picture of this size: nothing where it can be decoded. compressed: the bytes that it is
/// made of, where they can't hold more than so many times as much (a header that lies is found before memory is asked
/// for).
std::optional<Problem> size_problem(cv::Size stored, const std::filesystem::path& file);
std::optional<Problem> claim_problem(cv::Size stored, std::size_t compressed, const std::filesystem::path& file);

/// A format of photos that can be read: how it is known, and how it is decoded. An entry stands beside its decoder;
/// decoders() is the only list.
struct Decoder
{
    PhotoFormat format;
    std::string_view name;                 ///< for people: "JPEG"
    std::vector<std::string_view> endings; ///< with the dot, lower case
    bool (*knows)(std::string_view first); ///< by the file's first bytes, of which there may be few
    /// at_least: as stored, so large in both directions where the photo is; an empty size: full size. A decoder that
    /// cannot scale gives full size.
    Result<DecodedPhoto> (*decode)(std::string_view bytes, cv::Size at_least, const std::filesystem::path& file);
    /// Cheap, and never wrong in the direction that matters: a file whose end looks as it should is taken as whole,
    /// every other one is decoded to know. bytes: of the file. Null: its end says nothing.
    bool (*looks_whole)(std::string_view first, std::string_view last, std::uintmax_t bytes) = nullptr;
    /// Whether the header says that there is transparency. Null: there is none, or the file must be looked into.
    bool (*says_alpha)(std::string_view first) = nullptr;
    /// Fills in what only a look into the file tells; why it cannot be read, empty where it can. size_known: its
    /// metadata could be read.
    std::string (*look_into)(PhotoFile& photo, bool size_known) = nullptr;
    /// The file with all its pictures, where it may have several; throws Failure. Null: it has one.
    std::unique_ptr<MovingFile> (*open)(const std::filesystem::path& file) = nullptr;
    /// Of one that can be opened, whether it is worth doing, by its first bytes: it may have one picture all the same.
    bool (*may_move)(std::string_view first) = nullptr;
    /// It is listed by itself, not among photos: what is named so and is something else is no broken photo.
    bool apart = false;
};

std::span<const Decoder> decoders();
const Decoder* decoder_of(PhotoFormat format);
/// That which knows these first bytes; of several the one that the file's name speaks for.
const Decoder* decoder_for(std::string_view first, const std::filesystem::path& file = {});

Decoder jpeg_decoder();
Decoder png_decoder();
Decoder tiff_decoder();
Decoder webp_decoder();
Decoder heif_decoder();
Decoder jxl_decoder();
Decoder exr_decoder();
Decoder pnm_decoder();
Decoder raw_decoder();
Decoder svg_decoder();
Decoder gif_decoder();
Decoder apng_decoder();
Decoder clip_decoder();

/// Whether its name says that it is a video.
bool named_as_clip(const std::filesystem::path& file);

/// The file's bytes, or the first ones. Throws Failure.
std::string whole_file(const std::filesystem::path& file, std::size_t most = std::size_t(1) << 31);

/// Of a header, 0 beyond its end.
inline std::uint8_t byte_at(std::string_view s, std::size_t at)
{
    return at < s.size() ? static_cast<std::uint8_t>(s[at]) : std::uint8_t(0);
}

/// The picture was decoded up to here; what is missing is black, or see-through.
inline constexpr const char* cut_off_flaw = "the file is cut off";

/// "the photo cannot be read (why)", with what to do.
tl::unexpected<Problem> unreadable(const std::string& why, const std::filesystem::path& file);

}
