#include "core/source/inspect.h"

#include "core/base/input_file.h"
#include "core/base/text.h"
#include "core/source/decoders.h"
#include "core/source/metadata.h"
#include "core/source/preview_store.h"

#include <algorithm>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::uintmax_t head_bytes = 16UL * 1024;
constexpr std::uintmax_t tail_bytes = 4UL * 1024;

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
    return {std::move(photo), state, std::move(finding), false, std::nullopt, nullptr};
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

namespace {

/// Of a file that may have several pictures: nothing where it has one and is looked at as any other photo.
std::optional<Inspected> inspect_moving(const std::shared_ptr<PhotoFile>& photo, const Decoder& decoder)
{
    const std::string name = shown_name(*photo);
    try {
        const auto moving = decoder.open(photo->file);
        auto times = std::make_shared<PictureTimes>(moving->times());
        photo->orientation = moving->orientation();
        photo->size = seen_size(moving->size(), photo->orientation);
        photo->alpha = moving->alpha();
        photo->captured = moving->captured();
        photo->pictures = times->count;
        if (times->count < 2 && !decoder.apart)
            return std::nullopt;
        if (!times->stamps.empty())
            photo->stamp = times->stamps.front();
        return Inspected{photo, PhotoState::fine, std::nullopt, false, std::nullopt, std::move(times)};
    } catch (const Failure& failure) {
        if (photo->format == PhotoFormat::tiff || photo->format == PhotoFormat::webp)
            return std::nullopt; // is told as any other photo of its format is
        return flawed(photo, PhotoState::unreadable, FindingKind::unreadable,
                      name + ": " + failure.problem().what + '.');
    }
}

}

std::vector<PhotoPtr> pictures_of(const PhotoPtr& file, const PictureTimes& times,
                                  std::span<const PickedPicture> picked)
{
    std::vector<PhotoPtr> photos;
    for (const auto& [first, averaged] : picked) {
        auto p = std::make_shared<PhotoFile>(*file);
        p->picture = first;
        p->averaged = averaged;
        p->stamp = times.stamps.empty() ? std::nullopt : std::optional(times.stamps.at(std::size_t(first)));
        if (p->captured && !times.begins.empty()) {
            const auto since = [&](std::int64_t n) {
                return (times.begins.at(std::size_t(n)).value * Fraction(1'000'000)).rounded();
            };
            p->captured->microseconds += since(first) - since(file->picture);
        }
        photos.push_back(std::move(p));
    }
    return photos;
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
    const Decoder* decoder = ends.readable ? decoder_for(ends.first, file) : nullptr;
    if (!decoder || !named_so) { // only what is named as a photo is one: TIFF's first bytes stand in other files too
        Inspected other = ends.readable ? flawed(photo, PhotoState::not_a_photo, FindingKind::not_a_photo,
                                                 name + " is not a photo, whatever its name says.")
                                        : unreadable(": " + ends.why + ".");
        other.ignored = !named_so || named_as_clip(file);
        return other;
    }
    photo->format = decoder->format;
    photo->fingerprint = short_key(std::to_string(photo->bytes) + '\n' + ends.first + ends.last);
    if (decoder->open && decoder->may_move(ends.first))
        if (auto moving = inspect_moving(photo, *decoder))
            return *std::move(moving);
    const auto metadata = read_metadata(file);
    if (metadata)
        take_metadata(*photo, *metadata);
    photo->alpha = decoder->says_alpha && decoder->says_alpha(ends.first);
    if (decoder->look_into)
        if (const std::string why = decoder->look_into(*photo, metadata.has_value()); !why.empty())
            return unreadable(" cannot be read: " + why + ".");
    if (const auto too_large = size_problem(photo->size, file))
        return unreadable(" cannot be read: " + too_large->what + ".");
    const bool size_known = !photo->size.empty();
    if (!size_known || (decoder->looks_whole && !decoder->looks_whole(ends.first, ends.last, photo->bytes)))
        if (const std::string why = why_not_decoded(*photo); !why.empty())
            return unreadable(why);
    Inspected fine{photo, PhotoState::fine, std::nullopt, false, read_sidecar(file), nullptr};
    if (fine.sidecar) {
        photo->rating = fine.sidecar->rating;
        photo->label = fine.sidecar->label;
    }
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
