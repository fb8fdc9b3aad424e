#include "core/photo/inspect.h"

#include "core/base/text.h"
#include "core/photo/decode.h"
#include "core/photo/metadata.h"
#include "core/photo/preview_store.h"

#include <algorithm>
#include <fstream>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::uintmax_t head_bytes = 16 * 1024;
constexpr std::uintmax_t tail_bytes = 4 * 1024;

/// The first and the last bytes; enough to know the format, to see whether the end is there, and to know the file again.
struct Ends
{
    std::string first, last;
    bool readable = false;
};

Ends ends_of(const fs::path& file, std::uintmax_t bytes)
{
    Ends e;
    std::ifstream in(file, std::ios::binary);
    e.first.resize(head_bytes);
    in.read(e.first.data(), std::streamsize(head_bytes));
    e.readable = !in.bad() && in.gcount() > 0;
    e.first.resize(static_cast<std::size_t>(in.gcount()));
    in.clear();
    in.seekg(static_cast<std::streamoff>(bytes - std::min(bytes, tail_bytes)));
    e.last.resize(tail_bytes);
    in.read(e.last.data(), std::streamsize(tail_bytes));
    e.last.resize(static_cast<std::size_t>(in.gcount()));
    return e;
}

/// Cheap, and never wrong in the direction that matters: a file whose end looks as it should is taken as whole, every
/// other one is decoded to know.
bool end_looks_whole(PhotoFormat format, const Ends& ends, std::uintmax_t bytes)
{
    std::string_view last = ends.last;
    switch (format) {
    case PhotoFormat::jpeg:
        last = last.substr(0, last.find_last_not_of('\0') + 1); // some cameras pad with zeros
        return last.ends_with("\xFF\xD9");
    case PhotoFormat::png:
        return last.find("IEND") != std::string_view::npos;
    case PhotoFormat::webp: {
        std::uintmax_t size = 0; // RFC 9649, 2.3: bytes after the first eight, little-endian
        for (std::size_t i = 0; i < 4; ++i)
            size |= std::uintmax_t(static_cast<unsigned char>(ends.first[4 + i])) << (8 * i);
        return size + 8 <= bytes;
    }
    case PhotoFormat::tiff:
        return true; // its strips may stand anywhere; what is missing is found when the photo is first decoded
    }
    return false;
}

std::uint8_t byte(std::string_view s, std::size_t at)
{
    return at < s.size() ? static_cast<std::uint8_t>(s[at]) : std::uint8_t(0);
}

/// What the header says of transparency. PNG, third edition, 11.2.1 and 11.3.1.1; RFC 9649, 2.7 and 3.
bool says_alpha(PhotoFormat format, std::string_view first, const Metadata* metadata)
{
    switch (format) {
    case PhotoFormat::png: {
        const int colour_type = byte(first, 25);
        return colour_type == 4 || colour_type == 6 || first.find("tRNS") != std::string_view::npos;
    }
    case PhotoFormat::webp:
        if (first.substr(12, 4) == "VP8X")
            return (byte(first, 20) & 0x10) != 0;
        return first.substr(12, 4) == "VP8L" && (byte(first, 24) & 0x10) != 0;
    case PhotoFormat::tiff:
        return metadata && metadata->tiff_alpha;
    case PhotoFormat::jpeg:
        return false;
    }
    return false;
}

Inspected flawed(std::shared_ptr<PhotoFile> photo, PhotoState state, FindingKind kind, const std::string& text)
{
    Finding finding{kind, {photo->file}, text, {Remedy::set_aside, Remedy::hold_before}};
    if (photo->bytes > 0 && !photo->size.empty()) // its header could be read: perhaps some of its rows too
        finding.remedies.push_back(Remedy::use_what_there_is);
    return {std::move(photo), state, std::move(finding), false};
}

void take_metadata(PhotoFile& photo, const Metadata& m)
{
    photo.orientation = m.orientation;
    photo.size = seen_size(m.stored_size, m.orientation);
    photo.captured = m.captured;
    photo.camera = m.camera;
    photo.exposure = m.exposure;
}

}

std::string_view state_name(PhotoState state)
{
    switch (state) {
    case PhotoState::fine:
        return "fine";
    case PhotoState::unreadable:
        return "unreadable";
    case PhotoState::empty:
        return "empty";
    case PhotoState::not_a_photo:
        return "not-a-photo";
    }
    return {};
}

Inspected inspect(const fs::path& file)
{
    auto photo = std::make_shared<PhotoFile>();
    photo->file = file;
    const std::string name = shown_path(file.filename());
    const bool named_so = has_photo_extension(file);
    const auto unreadable = [&](const std::string& why) {
        return flawed(photo, PhotoState::unreadable, FindingKind::unreadable, name + why);
    };
    const auto stamp = stamp_of(file);
    if (!stamp)
        return unreadable(" cannot be opened.");
    photo->bytes = stamp->bytes;
    photo->modified_ns = stamp->modified_ns;
    if (photo->bytes == 0) {
        Inspected empty = flawed(photo, PhotoState::empty, FindingKind::empty, name + " is empty.");
        empty.ignored = !named_so;
        return empty;
    }
    const Ends ends = ends_of(file, photo->bytes);
    const auto format = ends.readable ? sniff(ends.first) : std::nullopt;
    if (!format || !named_so) { // only what is named as a photo is one: TIFF's first bytes stand in other files too
        Inspected other = ends.readable ? flawed(photo, PhotoState::not_a_photo, FindingKind::not_a_photo,
                                                 name + " is not a photo, whatever its name says.")
                                        : unreadable(" cannot be opened.");
        other.ignored = !named_so;
        return other;
    }
    photo->format = *format;
    photo->fingerprint = short_key(std::to_string(photo->bytes) + '\n' + ends.first + ends.last);
    const auto metadata = read_metadata(file);
    if (metadata)
        take_metadata(*photo, *metadata);
    photo->alpha = says_alpha(*format, ends.first, metadata ? &*metadata : nullptr);
    if (metadata && end_looks_whole(*format, ends, photo->bytes))
        return {photo, PhotoState::fine, std::nullopt, false};
    const auto decoded = decode(*photo, cv::Size(1, 1));
    if (!decoded)
        return unreadable(" cannot be read.");
    if (!decoded->flaw.empty())
        return unreadable(": " + decoded->flaw + ".");
    if (!metadata) {
        const auto whole = decode(*photo);
        photo->size = whole ? whole->pixels.size() : cv::Size();
    }
    return {photo, PhotoState::fine, std::nullopt, false};
}

}
