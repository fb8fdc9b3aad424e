#include "core/source/metadata.h"

#include "core/base/text.h"

#include <exiv2/exiv2.hpp>

#include <algorithm>
#include <array>
#include <mutex>
#include <stdexcept>

namespace frenlo {

void prepare_exiv2()
{
    static std::once_flag once;
    static std::mutex xmp_mutex;
    std::call_once(once, [] {
        Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
#ifdef EXV_ENABLE_BMFF
        Exiv2::enableBMFF(true); // HEIF, AVIF and JPEG XL
#endif
        Exiv2::XmpParser::initialize(
            [](void* mutex, bool lock) {
                auto* m = static_cast<std::mutex*>(mutex);
                lock ? m->lock() : m->unlock();
            },
            &xmp_mutex);
    });
}

namespace {

std::string text_of(const Exiv2::ExifData& exif, const char* key)
{
    const auto it = exif.findKey(Exiv2::ExifKey(key));
    return it == exif.end() ? std::string() : it->toString();
}

/// "2026:05:03 10:42:11" and "25" (decimals of a second, as many as the camera writes).
std::optional<CaptureTime> capture_time(std::string date_time, const std::string& sub_seconds)
{
    if (date_time.size() < 19)
        return std::nullopt;
    date_time.resize(19);
    date_time[4] = date_time[7] = '-';
    date_time[10] = 'T';
    const std::string digits(trimmed(sub_seconds));
    if (!digits.empty() && digits.find_first_not_of("0123456789") == std::string::npos)
        date_time += '.' + digits;
    return parse_capture_time(date_time);
}

void take_capture_time(const Exiv2::ExifData& exif, Metadata& m)
{
    struct Keys
    {
        const char* time;
        const char* sub;
    };
    for (const Keys& k : {Keys{"Exif.Photo.DateTimeOriginal", "Exif.Photo.SubSecTimeOriginal"},
                          Keys{"Exif.Photo.DateTimeDigitized", "Exif.Photo.SubSecTimeDigitized"},
                          Keys{"Exif.Image.DateTime", "Exif.Photo.SubSecTime"}}) {
        const std::string text = text_of(exif, k.time);
        m.captured = capture_time(text, text_of(exif, k.sub));
        if (m.captured)
            break;
        if (m.odd_date.empty() &&
            text.find_first_of("123456789") != std::string::npos) // zeros: the clock was never set
            m.odd_date = is_utf8(text) ? text : "bytes that are no text";
    }
    if (m.captured)
        m.odd_date.clear();
}

std::optional<Fraction> fraction_of(const Exiv2::ExifData& exif, const char* key)
{
    const auto it = exif.findKey(Exiv2::ExifKey(key));
    if (it == exif.end() || it->count() < 1)
        return std::nullopt;
    const auto [num, den] = it->toRational();
    if (num <= 0 || den <= 0)
        return std::nullopt;
    return Fraction(num, den);
}

/// 0 where it is missing.
std::int64_t whole_of(const Exiv2::ExifData& exif, const char* key)
{
    const auto it = exif.findKey(Exiv2::ExifKey(key));
    return it == exif.end() || it->count() < 1 ? 0 : it->toLong();
}

/// All that can be read. A profile that Exiv2 refuses costs nothing but itself: what else was read stays. Returns
/// whether that was so.
bool read_with_bad_profile(Exiv2::Image& image)
{
    // Exiv2's readers of videos end the program at what is damaged, and no photo is one, whatever it is called.
    constexpr std::array videos{20, 21, 22, 24}; // RIFF, Matroska, QuickTime, ASF: its headers of them do not compile
    if (std::find(videos.begin(), videos.end(), image.imageType()) != videos.end())
        throw std::runtime_error("it is a video");
    try {
        image.readMetadata();
    } catch (const Exiv2::AnyError& error) {
        if (error.code() != Exiv2::kerInvalidIccProfile)
            throw;
        return true;
    }
    return false;
}

SourceColours colours_of(Exiv2::Image& image, bool bad_profile)
{
    SourceColours colours;
    if (bad_profile) {
        colours.icc = "no profile"; // which is what it is found to be
        return colours;
    }
    if (image.iccProfileDefined() && image.iccProfile() != nullptr)
        colours.icc.assign(reinterpret_cast<const char*>(image.iccProfile()->pData_),
                           static_cast<std::size_t>(image.iccProfile()->size_));
    colours.adobe_rgb = colours.icc.empty() && text_of(image.exifData(), "Exif.Iop.InteroperabilityIndex") == "R03";
    return colours;
}

int orientation_of(const Exiv2::ExifData& exif)
{
    const auto value = whole_of(exif, "Exif.Image.Orientation");
    return value >= 1 && value <= 8 ? static_cast<int>(value) : 1;
}

}

Result<Metadata> read_metadata(const std::filesystem::path& file)
{
    prepare_exiv2();
    try {
        const auto image = Exiv2::ImageFactory::open(file.native());
        const bool bad_profile = read_with_bad_profile(*image);
        const Exiv2::ExifData& exif = image->exifData();
        Metadata m;
        m.stored_size = {static_cast<int>(image->pixelWidth()), static_cast<int>(image->pixelHeight())};
        m.orientation = orientation_of(exif);
        take_capture_time(exif, m);
        m.camera = trimmed(text_of(exif, "Exif.Image.Make") + ' ' + text_of(exif, "Exif.Image.Model"));
        m.exposure.seconds = fraction_of(exif, "Exif.Photo.ExposureTime");
        m.exposure.f_number = fraction_of(exif, "Exif.Photo.FNumber");
        m.exposure.focal_mm = fraction_of(exif, "Exif.Photo.FocalLength");
        if (const auto iso = whole_of(exif, "Exif.Photo.ISOSpeedRatings"); iso > 0)
            m.exposure.iso = static_cast<int>(iso);
        m.colours = colours_of(*image, bad_profile);
        if (!bad_profile && (m.stored_size.width <= 0 || m.stored_size.height <= 0))
            return problem("the picture's size cannot be read", file, "Copy it from the card again");
        return m;
    } catch (const std::exception& error) { // its own, and what its safe arithmetic throws at sizes that cannot be
        return problem(std::string("the file's header cannot be read (") + error.what() + ")", file,
                       "Copy it from the card again");
    }
}

namespace {

/// Where the segments before the start of scan end; the whole where there is none.
std::size_t jpeg_header_size(std::string_view bytes)
{
    const auto byte = [&](std::size_t i) { return std::size_t(static_cast<unsigned char>(bytes[i])); };
    std::size_t at = 2;
    while (at + 4 <= bytes.size() && byte(at) == 0xFF && byte(at + 1) != 0xDA)
        at += 2 + byte(at + 2) * 256 + byte(at + 3);
    return std::min(at, bytes.size());
}

}

SourceColours colours_in(std::string_view bytes)
{
    // Most photos say nothing: that is seen without a library, whose reading takes longer than a small picture's
    // decoding.
    // In a JPEG the header ends where the picture's data begins (start of scan, ITU-T T.81).
    constexpr std::size_t most_header = 1 << 20;
    std::string_view first = bytes.substr(0, most_header);
    if (first.starts_with("\xFF\xD8"))
        first = first.substr(0, jpeg_header_size(first));
    const bool tiff = first.starts_with("II") || first.starts_with("MM"); // what it says may stand anywhere in it
    const auto has = [&](std::string_view mark) { return first.find(mark) != std::string_view::npos; };
    if (!tiff && !has("ICC_PROFILE") && !has("iCCP") && !has("ICCP") && !has("R03"))
        return {};
    prepare_exiv2();
    try {
        const auto image = Exiv2::ImageFactory::open(reinterpret_cast<const Exiv2::byte*>(bytes.data()),
                                                     static_cast<long>(bytes.size()));
        const bool bad_profile = read_with_bad_profile(*image);
        return colours_of(*image, bad_profile);
    } catch (const std::exception&) {
        return {}; // a header that cannot be read says nothing of colours; read_metadata tells what is wrong with it
    }
}

cv::Size seen_size(cv::Size stored, int orientation)
{
    return orientation >= 5 ? cv::Size(stored.height, stored.width) : stored;
}

ThumbnailBytes camera_thumbnail_bytes(const std::filesystem::path& file)
{
    prepare_exiv2();
    try {
        const auto image = Exiv2::ImageFactory::open(file.native());
        const bool bad_profile = read_with_bad_profile(*image);
        const Exiv2::ExifThumbC thumb(image->exifData());
        const Exiv2::DataBuf data = thumb.copy();
        return {{reinterpret_cast<const char*>(data.pData_), static_cast<std::size_t>(data.size_)},
                colours_of(*image, bad_profile)};
    } catch (const std::exception&) {
        return {}; // a photo without a readable header has no thumbnail; read_metadata says what is wrong with it
    }
}

}
