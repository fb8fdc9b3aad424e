#include "core/source/decoders.h"

#include <algorithm>
#include <array>

namespace frenlo {

namespace {

/// The first picture of a file that is in memory.
Result<DecodedPhoto> first_picture(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    try {
        return open_clip(bytes, file)->picture({});
    } catch (const Failure& failure) {
        return tl::unexpected(failure.problem());
    }
}

std::unique_ptr<MovingFile> open_file(const std::filesystem::path& file)
{
    return open_clip(file);
}

/// Whether a PNG has an animation: a chunk acTL before its first picture (W3C PNG, third edition, 11.3.6.1).
bool has_animation(std::string_view png)
{
    constexpr std::size_t signature = 8, beside = 12; // length, type and checksum of a chunk
    for (std::size_t at = signature; at + 8 <= png.size();) {
        const std::string_view type = png.substr(at + 4, 4);
        if (type == "acTL" || type == "IDAT")
            return type == "acTL";
        std::size_t length = 0;
        for (std::size_t i = 0; i < 4; ++i)
            length = length * 256 + byte_at(png, at + i);
        at += length + beside;
    }
    return false;
}

bool is_clip(std::string_view first)
{
    using namespace std::string_view_literals;
    if (first.size() < 16)
        return false;
    static constexpr std::array boxes{"ftyp"sv, "moov"sv, "mdat"sv, "wide"sv, "free"sv, "skip"sv, "pnot"sv};
    if (std::find(boxes.begin(), boxes.end(), first.substr(4, 4)) != boxes.end()) // ISO/IEC 14496-12, QuickTime
        return !heif_decoder().knows(first);
    if (first.starts_with("RIFF"sv) && first.substr(8, 4) == "AVI "sv)
        return true;
    static constexpr std::array starts{"\x1A\x45\xDF\xA3"sv, // EBML: RFC 8794
                                       "OggS"sv,             // RFC 3533
                                       "FLV\x01"sv,
                                       "\0\0\x01\xBA"sv,
                                       "\0\0\x01\xB3"sv, // ISO/IEC 11172-1, 13818-1
                                       "\x30\x26\xB2\x75\x8E\x66\xCF\x11"sv};
    if (std::any_of(starts.begin(), starts.end(), [&](std::string_view s) { return first.starts_with(s); }))
        return true;
    // A transport stream's packets, with or without a time before each (ISO/IEC 13818-1).
    return (byte_at(first, 0) == 0x47 && byte_at(first, 188) == 0x47 && byte_at(first, 376) == 0x47) ||
           (byte_at(first, 4) == 0x47 && byte_at(first, 196) == 0x47 && byte_at(first, 388) == 0x47);
}

bool always(std::string_view)
{
    return true;
}

}

Decoder gif_decoder()
{
    return {.format = PhotoFormat::gif,
            .name = "GIF",
            .endings = {".gif"},
            .knows = [](std::string_view first) { return first.starts_with("GIF87a") || first.starts_with("GIF89a"); },
            .decode = first_picture,
            .open = open_file,
            .may_move = always};
}

Decoder apng_decoder()
{
    return {.format = PhotoFormat::apng,
            .name = "APNG",
            .endings = {".apng", ".png"},
            .knows = [](std::string_view first) { return png_decoder().knows(first) && has_animation(first); },
            .decode = first_picture,
            .says_alpha = png_decoder().says_alpha,
            .open = open_file,
            .may_move = always};
}

Decoder clip_decoder()
{
    return {.format = PhotoFormat::clip,
            .name = "video",
            .endings = {".mp4", ".m4v", ".mov", ".mkv", ".webm", ".avi", ".mpg", ".mpeg", ".mts", ".m2ts", ".3gp",
                        ".ogv", ".wmv", ".flv"},
            .knows = is_clip,
            .decode = first_picture,
            .open = open_file,
            .may_move = always,
            .apart = true};
}

}
