#include "core/photo/decode.h"

#include "core/base/atomic_file.h"

#include <opencv2/core/utils/logger.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <turbojpeg.h>

#include <algorithm>
#include <array>
#include <mutex>

namespace frenlo {

namespace {

constexpr std::size_t most_bytes = (std::size_t(1) << 31) - 1;
constexpr std::int64_t most_pixels = std::int64_t(1) << 29; // 1.6 GB of 8-bit pixels: beyond it the machine suffers

struct CloseJpeg
{
    void operator()(void* handle) const { tjDestroy(handle); }
};
using JpegHandle = std::unique_ptr<void, CloseJpeg>;

/// The stronger of 1/8, 1/4, 1/2, 1 that still leaves at_least. Other factors that libjpeg offers are not vectorised
/// and take longer than they save.
tjscalingfactor reduction_for(cv::Size stored, cv::Size at_least)
{
    if (at_least.width <= 0 || at_least.height <= 0)
        return {1, 1};
    for (const int denom : {8, 4, 2}) {
        const tjscalingfactor f{1, denom};
        if (TJSCALED(stored.width, f) >= at_least.width && TJSCALED(stored.height, f) >= at_least.height)
            return f;
    }
    return {1, 1};
}

cv::Mat oriented(cv::Mat m, int orientation)
{
    // Exif 2.32, tag Orientation: where row 0 and column 0 of the stored picture are seen.
    cv::Mat out;
    switch (orientation) {
    case 2:
        cv::flip(m, out, 1);
        return out;
    case 3:
        cv::rotate(m, out, cv::ROTATE_180);
        return out;
    case 4:
        cv::flip(m, out, 0);
        return out;
    case 5:
        cv::transpose(m, out);
        return out;
    case 6:
        cv::rotate(m, out, cv::ROTATE_90_CLOCKWISE);
        return out;
    case 7:
        cv::transpose(m, out);
        cv::rotate(out, m, cv::ROTATE_180);
        return m;
    case 8:
        cv::rotate(m, out, cv::ROTATE_90_COUNTERCLOCKWISE);
        return out;
    default:
        return m;
    }
}

cv::Mat bgr_from_inverted_cmyk(const cv::Mat& cmyk)
{
    // Cameras do not write CMYK, layout programs do, with inverted values: 255 is no ink.
    cv::Mat bgr(cmyk.size(), CV_8UC3);
    cmyk.forEach<cv::Vec4b>([&](const cv::Vec4b& p, const int* at) {
        const auto mixed = [&](int i) { return static_cast<std::uint8_t>((p[i] * p[3] + 127) / 255); };
        bgr.at<cv::Vec3b>(at[0], at[1]) = {mixed(2), mixed(1), mixed(0)};
    });
    return bgr;
}

/// libjpeg warns of harmless things too; only what costs picture content is a flaw.
std::string flaw_from(std::string_view warning)
{
    if (warning.find("extraneous bytes") != std::string_view::npos)
        return {};
    if (warning.find("Premature end") != std::string_view::npos)
        return "the file is cut off";
    return "the picture is damaged (" + std::string(warning) + ")";
}

Result<DecodedPhoto> decode_jpeg(std::string_view bytes, int orientation, cv::Size at_least,
                                 const std::filesystem::path& file)
{
    const JpegHandle jpeg(tjInitDecompress());
    const auto* data = reinterpret_cast<const unsigned char*>(bytes.data());
    const auto error = [&] {
        return problem(std::string("the photo cannot be read (") + tjGetErrorStr2(jpeg.get()) + ")", file,
                       "Copy it from the card again, or leave it out");
    };
    cv::Size stored;
    int subsampling = 0, colours = 0;
    if (tjDecompressHeader3(jpeg.get(), data, bytes.size(), &stored.width, &stored.height, &subsampling, &colours) != 0)
        return error();
    if (orientation >= 5)
        std::swap(at_least.width, at_least.height);
    const tjscalingfactor f = reduction_for(stored, at_least);
    const cv::Size scaled(TJSCALED(stored.width, f), TJSCALED(stored.height, f));
    if (std::int64_t(scaled.width) * scaled.height > most_pixels)
        return problem("the photo has more than 500 megapixels", file, "Make a smaller copy of it");
    const bool cmyk = colours == TJCS_CMYK || colours == TJCS_YCCK;
    cv::Mat pixels(scaled, cmyk ? CV_8UC4 : CV_8UC3);
    DecodedPhoto result;
    if (tjDecompress2(jpeg.get(), data, bytes.size(), pixels.data, scaled.width, static_cast<int>(pixels.step),
                      scaled.height, cmyk ? TJPF_CMYK : TJPF_BGR, 0) != 0) {
        if (tjGetErrorCode(jpeg.get()) != TJERR_WARNING)
            return error();
        result.flaw = flaw_from(tjGetErrorStr2(jpeg.get()));
    }
    result.pixels = oriented(cmyk ? bgr_from_inverted_cmyk(pixels) : pixels, orientation);
    return result;
}

Result<DecodedPhoto> decode_other(std::string_view bytes, int orientation, const std::filesystem::path& file)
{
    static std::once_flag quiet;
    std::call_once(quiet, [] { cv::utils::logging::setLogLevel(cv::utils::logging::LOG_LEVEL_SILENT); });
    const auto unreadable = [&](const std::string& why) {
        return problem("the photo cannot be read" + why, file, "Copy it from the card again, or leave it out");
    };
    cv::Mat pixels;
    try {
        const cv::Mat data(1, static_cast<int>(bytes.size()), CV_8UC1, const_cast<char*>(bytes.data()));
        pixels = cv::imdecode(data, cv::IMREAD_UNCHANGED);
    } catch (const cv::Exception& e) {
        return unreadable(" (" + e.err + ")");
    }
    if (pixels.empty())
        return unreadable(": it is damaged or cut off");
    if (pixels.depth() != CV_8U && pixels.depth() != CV_16U)
        return problem("the photo has neither 8 nor 16 bits a channel", file, "Write it out again with 8 or 16 bits");
    if (pixels.channels() == 1)
        cv::cvtColor(pixels, pixels, cv::COLOR_GRAY2BGR);
    if (pixels.channels() != 3 && pixels.channels() != 4)
        return problem("the photo has an unusual number of channels", file, "Write it out again as RGB");
    return DecodedPhoto{oriented(pixels, orientation), {}};
}

}

std::optional<PhotoFormat> sniff(std::string_view b)
{
    using namespace std::string_view_literals;
    if (b.starts_with("\xFF\xD8\xFF"sv))
        return PhotoFormat::jpeg;
    if (b.starts_with("\x89PNG\r\n\x1A\n"sv))
        return PhotoFormat::png;
    if (b.starts_with("II*\0"sv) || b.starts_with("MM\0*"sv))
        return PhotoFormat::tiff;
    if (b.starts_with("RIFF"sv) && b.size() >= 12 && b.substr(8, 4) == "WEBP"sv)
        return PhotoFormat::webp;
    return std::nullopt;
}

bool has_photo_extension(const std::filesystem::path& file)
{
    std::string e = file.extension().native();
    std::transform(e.begin(), e.end(), e.begin(), [](unsigned char c) { return std::tolower(c); });
    static constexpr std::array known{".jpg", ".jpeg", ".png", ".tif", ".tiff", ".webp"};
    return std::find(known.begin(), known.end(), e) != known.end();
}

Result<DecodedPhoto> decode_bytes(std::string_view bytes, int orientation, cv::Size at_least,
                                  const std::filesystem::path& file)
{
    if (bytes.empty())
        return problem("the file is empty", file, "Copy it from the card again, or leave it out");
    const auto format = sniff(bytes);
    if (!format)
        return problem("this is not a photo that can be read", file, "JPEG, PNG, TIFF and WebP can be");
    return *format == PhotoFormat::jpeg ? decode_jpeg(bytes, orientation, at_least, file)
                                        : decode_other(bytes, orientation, file);
}

Result<DecodedPhoto> decode(const PhotoFile& photo, cv::Size at_least)
{
    try {
        cv::Mat bytes; // memory of pictures, for the file too: it is as large as one
        const std::size_t size = read_whole_file(photo.file, [&](std::size_t wanted) {
            if (wanted > most_bytes)
                throw Failure({"the file is larger than 2 GB", photo.file, "Make a smaller copy of it"});
            bytes.create(1, static_cast<int>(wanted), CV_8U);
            return reinterpret_cast<char*>(bytes.data);
        });
        return decode_bytes({reinterpret_cast<const char*>(bytes.data), size}, photo.orientation, at_least, photo.file);
    } catch (const Failure& failure) {
        return tl::unexpected(failure.problem());
    }
}

std::string encode_jpeg(const cv::Mat& pixels, int quality, bool full_colour)
{
    CV_Assert(pixels.type() == CV_8UC3);
    const JpegHandle jpeg(tjInitCompress());
    unsigned char* data = nullptr;
    unsigned long size = 0;
    const int failed = tjCompress2(jpeg.get(), pixels.data, pixels.cols, static_cast<int>(pixels.step), pixels.rows,
                                   TJPF_BGR, &data, &size, full_colour ? TJSAMP_444 : TJSAMP_420, quality, 0);
    const std::unique_ptr<unsigned char, void (*)(unsigned char*)> owned(data, tjFree);
    if (failed != 0)
        throw Failure({std::string("a JPEG cannot be made (") + tjGetErrorStr2(jpeg.get()) + ")", {}, ""});
    return {reinterpret_cast<const char*>(data), size};
}

std::string encode_png(const cv::Mat& pixels, int effort)
{
    std::vector<unsigned char> bytes;
    if (!cv::imencode(".png", pixels, bytes, {cv::IMWRITE_PNG_COMPRESSION, effort}))
        throw Failure({"a PNG cannot be made", {}, ""});
    return {bytes.begin(), bytes.end()};
}

}
