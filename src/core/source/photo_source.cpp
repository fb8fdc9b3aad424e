#include "core/source/photo_source.h"

#include "core/base/shared_cache.h"
#include "core/source/decode.h"
#include "core/source/sharpness.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace frenlo {

cv::Size within_side(cv::Size shape, int side)
{
    const int longest = std::max(shape.width, shape.height);
    if (longest <= side)
        return shape;
    const auto scaled = [&](int n) {
        return std::max(1, static_cast<int>(std::lround(double(n) * double(side) / double(longest))));
    };
    return {scaled(shape.width), scaled(shape.height)};
}

namespace {

Problem cannot_be_used(const std::string& flaw, const PhotoFile& photo)
{
    return {flaw, photo.file, "Copy it from the card again, or hold the photo before"};
}

}

Result<cv::Mat> Originals::pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const
{
    auto decoded = decode(photo, at_least, Numbers::wide, &files_);
    if (!decoded)
        return tl::unexpected(std::move(decoded.error()));
    if (!decoded->flaw.empty() && damage == Damage::refuse)
        return tl::unexpected(cannot_be_used(decoded->flaw, photo));
    return std::move(decoded->pixels);
}

namespace {

std::string key_of(const PhotoFile& photo, PreviewKind kind, bool cut_off)
{
    std::string which = is_one_of_several(photo)
                            ? "\npicture " + std::to_string(photo.picture) + ' ' + std::to_string(photo.averaged)
                            : std::string();
    if (!is_on_disk(photo))
        which += "\ndrawn " + photo.fingerprint;
    for (const auto& other : photo.merged)
        which += "\nmerged with " + other.native();
    return short_key(photo.file.native() + '\n' + std::to_string(photo.bytes) + '\n' +
                     std::to_string(photo.modified_ns) + which +
                     (kind == PreviewKind::thumbnail ? "\nthumbnail 2" : "\npreview 3") + (cut_off ? "\ncut off" : ""));
}

int side_of(PreviewKind kind)
{
    return kind == PreviewKind::thumbnail ? thumbnail_side : preview_side;
}

/// Kept as 8 bit: previews are for the screen. By a little only, the mean over areas is no better than a line between
/// pixels, and takes seven times as long.
cv::Mat reduced(const cv::Mat& pixels, int side)
{
    constexpr double a_little = 0.75;
    const cv::Size size = within_side(pixels.size(), side);
    cv::Mat small;
    cv::resize(pixels, small, size, 0, 0, size.width >= a_little * pixels.cols ? cv::INTER_LINEAR : cv::INTER_AREA);
    if (small.depth() == CV_16U)
        small.convertTo(small, CV_8U, 1.0 / 257.0);
    return small;
}

/// So good that what is measured of it is what would be measured of the photo.
std::string encoded(const cv::Mat& pixels)
{
    return pixels.channels() == 4 ? encode_png(pixels, 1) : encode_jpeg(pixels, 95);
}

bool has_eight_bits(PhotoFormat format)
{
    return format == PhotoFormat::jpeg || format == PhotoFormat::webp;
}

}

bool Previews::ready(const PhotoFile& photo, PreviewKind kind) const
{
    return store_.contains(key_of(photo, kind, false)) || store_.contains(key_of(photo, kind, true));
}

double Previews::sharpness(const PhotoFile& photo) const
{
    const std::string key = short_key(key_of(photo, PreviewKind::preview, false) + " sharpness 3");
    if (const auto kept = store_.get(key))
        return std::atof(kept->c_str());
    const auto preview = get(photo, PreviewKind::preview);
    const double sharpness = preview && std::min(preview->cols, preview->rows) >= 32 ? sharpness_of(*preview) : 0;
    store_.put(key, std::to_string(sharpness));
    return sharpness;
}

namespace {

/// What a preview's file shows.
struct ReadPreview : CacheKey<cv::Mat, 25>
{
    std::string file;
    bool operator==(const ReadPreview& other) const { return file == other.file; }
    [[nodiscard]] std::size_t hash() const { return std::hash<std::string>{}(file); }
};

ReadPreview read_preview(std::string file)
{
    ReadPreview key;
    key.file = std::move(file);
    return key;
}

}

/// Without a word where it is not there: it is made again.
Result<cv::Mat> Previews::kept(const PhotoFile& photo, PreviewKind kind, bool cut_off) const
{
    const std::string file = key_of(photo, kind, cut_off);
    SharedCache* memory = kind == PreviewKind::preview ? store_.memory() : nullptr; // thumbnails are read in no time
    if (memory)
        if (auto read = memory->get(read_preview(file)))
            return *read;
    const auto bytes = store_.get(file);
    if (!bytes)
        return problem("it was not kept", photo.file, "");
    auto decoded = decode_bytes(*bytes, 1, {}, photo.file);
    if (!decoded)
        return tl::unexpected(std::move(decoded.error()));
    if (memory)
        memory->put(read_preview(file), decoded->pixels, decoded->pixels.total() * decoded->pixels.elemSize());
    return std::move(decoded->pixels);
}

Result<Previews::Made> Previews::make(const PhotoFile& photo, PreviewKind kind) const
{
    auto decoded = decode(photo, within_side(photo.size, side_of(kind)), Numbers::encoded, &originals_.files());
    if (!decoded)
        return tl::unexpected(std::move(decoded.error()));
    const bool cut_off = !decoded->flaw.empty();
    const cv::Mat wanted = reduced(decoded->pixels, side_of(kind));
    store_.put(key_of(photo, kind, cut_off), encoded(wanted));
    return Made{wanted, decoded->flaw};
}

/// Of a preview that is there.
cv::Mat Previews::thumbnail_of(const PhotoFile& photo, const cv::Mat& preview, bool cut_off) const
{
    cv::Mat small = reduced(preview, thumbnail_side);
    store_.put(key_of(photo, PreviewKind::thumbnail, cut_off), encoded(small));
    return small;
}

Result<cv::Mat> Previews::get(const PhotoFile& photo, PreviewKind kind) const
{
    for (const bool cut_off : {false, true})
        if (auto there = kept(photo, kind, cut_off))
            return there;
    if (kind == PreviewKind::thumbnail) // decoding is what takes the time
        for (const bool cut_off : {false, true})
            if (const auto preview = kept(photo, PreviewKind::preview, cut_off))
                return thumbnail_of(photo, *preview, cut_off);
    auto made = make(photo, kind);
    if (!made)
        return tl::unexpected(std::move(made.error()));
    if (kind == PreviewKind::preview && !ready(photo, PreviewKind::thumbnail))
        thumbnail_of(photo, made->pixels, !made->flaw.empty());
    return std::move(made->pixels);
}

Result<cv::Mat> Previews::whole(const PhotoFile& photo) const
{
    if (auto there = kept(photo, PreviewKind::preview, false))
        return there;
    auto made = make(photo, PreviewKind::preview);
    if (!made)
        return tl::unexpected(std::move(made.error()));
    if (!made->flaw.empty())
        return tl::unexpected(cannot_be_used(made->flaw, photo));
    return std::move(made->pixels);
}

Result<cv::Mat> Previews::pixels(const PhotoFile& photo, cv::Size at_least, Damage) const
{
    for (const auto kind : {PreviewKind::thumbnail, PreviewKind::preview}) {
        const cv::Size have = within_side(photo.size, side_of(kind));
        const bool no_more = have == photo.size && photo.format != PhotoFormat::svg; // drawings have any size
        if (no_more || (have.width >= at_least.width && have.height >= at_least.height))
            return get(photo, kind);
    }
    auto decoded = decode(photo, at_least, Numbers::wide, &originals_.files());
    if (!decoded)
        return tl::unexpected(std::move(decoded.error()));
    return std::move(decoded->pixels);
}

Result<cv::Mat> SmallVersions::pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const
{
    constexpr int large = 2'000'000; // pixels: smaller ones are soon decoded
    const cv::Size have = within_side(photo.size, preview_side);
    const bool enough = !at_least.empty() && have.width >= at_least.width && have.height >= at_least.height;
    if (!enough || !has_eight_bits(photo.format) || photo.size.area() < large)
        return previews_.originals().pixels(photo, at_least, damage);
    return damage == Damage::refuse ? previews_.whole(photo) : previews_.get(photo, PreviewKind::preview);
}

}
