#include "core/source/inspect.h"

#include "core/base/input_file.h"
#include "core/base/text.h"
#include "core/source/decoders.h"
#include "core/source/metadata.h"
#include "core/source/preview_store.h"
#include "core/source/tiff_file.h"

#include <algorithm>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::uintmax_t head_bytes = 16 * 1024;
constexpr std::uintmax_t tail_bytes = 4 * 1024;

/// The first and the last bytes; enough to know the format, to see whether the end is there, and to know the file
/// again.
struct Ends
{
    std::string first, last;
    bool readable = false;
    std::string why{}; ///< it is not readable
};

Ends ends_of(const fs::path& file)
{
    Ends e;
    try {
        InputFile in(file);
        const std::uintmax_t bytes = in.stamp().bytes;
        e.first.resize(head_bytes);
        e.first.resize(in.read(e.first.data(), head_bytes));
        in.seek(bytes - std::min(bytes, tail_bytes));
        e.last.resize(tail_bytes);
        e.last.resize(in.read(e.last.data(), tail_bytes));
        e.readable = !e.first.empty();
    } catch (const Failure& failure) {
        e.why = failure.problem().what;
    }
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
        return true; // its strips may stand anywhere: TiffLayout::end is asked
    }
    return false;
}

std::uint8_t byte(std::string_view s, std::size_t at)
{
    return at < s.size() ? static_cast<std::uint8_t>(s[at]) : std::uint8_t(0);
}

/// What the header says of transparency. PNG, third edition, 11.2.1 and 11.3.1.1; RFC 9649, 2.7 and 3.
bool says_alpha(PhotoFormat format, std::string_view first)
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
    case PhotoFormat::tiff: // its directory says it
    case PhotoFormat::jpeg:
        return false;
    }
    return false;
}

/// RFC 9649, 2.7: an animation, whose pictures no decoder of photos gives.
bool is_animation(PhotoFormat format, std::string_view first)
{
    return format == PhotoFormat::webp && first.substr(12, 4) == "VP8X" && (byte(first, 20) & 0x02) != 0;
}

/// What a TIFF's directory says of its pixels; why they cannot be read, where they cannot.
std::string look_into_tiff(PhotoFile& photo, bool size_known)
{
    const TiffFile tiff(photo.file);
    if (!tiff.open())
        return "it is damaged or cut off";
    const TiffLayout layout = layout_of(tiff);
    photo.alpha = layout.alpha != TiffAlpha::none;
    if (!size_known) // Exiv2 does not read BigTIFF
        photo.size = layout.size;
    if (layout.end > photo.bytes)
        return cut_off_flaw;
    return layout.unreadable();
}

Finding flaw_of(const PhotoFile& photo, FindingKind kind, const std::string& text)
{
    Finding finding{kind, {photo.file}, text, {Remedy::set_aside, Remedy::hold_before}};
    if (photo.bytes > 0 && !photo.size.empty()) // its header could be read: perhaps some of its rows too
        finding.remedies.push_back(Remedy::use_what_there_is);
    return finding;
}

Inspected flawed(std::shared_ptr<PhotoFile> photo, PhotoState state, FindingKind kind, const std::string& text)
{
    Finding finding = flaw_of(*photo, kind, text);
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
    const Ends ends = ends_of(file);
    const auto format = ends.readable ? sniff(ends.first) : std::nullopt;
    if (!format || !named_so) { // only what is named as a photo is one: TIFF's first bytes stand in other files too
        Inspected other = ends.readable ? flawed(photo, PhotoState::not_a_photo, FindingKind::not_a_photo,
                                                 name + " is not a photo, whatever its name says.")
                                        : unreadable(": " + ends.why + ".");
        other.ignored = !named_so;
        return other;
    }
    photo->format = *format;
    photo->fingerprint = short_key(std::to_string(photo->bytes) + '\n' + ends.first + ends.last);
    const auto metadata = read_metadata(file);
    if (metadata)
        take_metadata(*photo, *metadata);
    photo->alpha = says_alpha(*format, ends.first);
    if (is_animation(*format, ends.first))
        return unreadable(" is an animation, not a photo.");
    if (*format == PhotoFormat::tiff)
        if (const std::string why = look_into_tiff(*photo, metadata.has_value()); !why.empty())
            return unreadable(" cannot be read: " + why + ".");
    if (const auto too_large = size_problem(photo->size, file))
        return unreadable(" cannot be read: " + too_large->what + ".");
    const bool size_known = !photo->size.empty();
    if (!size_known || !end_looks_whole(*format, ends, photo->bytes))
        if (const std::string why = why_not_decoded(*photo); !why.empty())
            return unreadable(why);
    Inspected fine{photo, PhotoState::fine, std::nullopt, false};
    if (metadata && !metadata->odd_date.empty())
        fine.finding = Finding{FindingKind::date_odd,
                               {file},
                               name + " says that it was taken on " + metadata->odd_date + ", which is no date.",
                               {}};
    else if (const std::string wrong = metadata ? profile_problem(metadata->colours) : ""; !wrong.empty())
        fine.finding = Finding{FindingKind::profile_odd, {file}, name + wrong, {}};
    return fine;
}

Finding unreadable_finding(const PhotoFile& photo, const std::string& why)
{
    return flaw_of(photo, FindingKind::unreadable, shown_path(photo.file.filename()) + why);
}

std::string why_not_decoded(PhotoFile& photo)
{
    const auto decoded = decode(photo, photo.size.empty() ? cv::Size() : cv::Size(1, 1));
    if (!decoded)
        return " cannot be read.";
    if (!decoded->flaw.empty())
        return ": " + decoded->flaw + '.';
    if (photo.size.empty())
        photo.size = decoded->pixels.size();
    return {};
}

}
