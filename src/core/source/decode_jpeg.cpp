#include "core/source/colour_profile.h"
#include "core/source/decoders.h"

#include <opencv2/core.hpp>
#include <turbojpeg.h>

#include <memory>

namespace frenlo {

namespace {

struct CloseJpeg
{
    void operator()(void* handle) const { tjDestroy(handle); }
};
using JpegHandle = std::unique_ptr<void, CloseJpeg>;

/// Other factors that libjpeg offers are not vectorised and take longer than they save.
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

/// libjpeg warns of harmless things too; only what costs picture content is a flaw.
std::string flaw_from(std::string_view warning)
{
    if (warning.find("extraneous bytes") != std::string_view::npos)
        return {};
    if (warning.find("Premature end") != std::string_view::npos)
        return cut_off_flaw;
    return "the picture is damaged (" + std::string(warning) + ")";
}

}

namespace {

/// at_least: as stored. The stronger of 1/8, 1/4, 1/2, 1 that still leaves it.
Result<DecodedPhoto> decode_jpeg(std::string_view bytes, cv::Size at_least, const std::filesystem::path& file)
{
    const JpegHandle jpeg(tjInitDecompress());
    const auto* data = reinterpret_cast<const unsigned char*>(bytes.data());
    cv::Size stored;
    int subsampling = 0, colours = 0;
    if (tjDecompressHeader3(jpeg.get(), data, bytes.size(), &stored.width, &stored.height, &subsampling, &colours) != 0)
        return unreadable(tjGetErrorStr2(jpeg.get()), file);
    if (auto problem = size_problem(stored, file))
        return tl::unexpected(std::move(*problem));
    const tjscalingfactor f = reduction_for(stored, at_least);
    const cv::Size scaled(TJSCALED(stored.width, f), TJSCALED(stored.height, f));
    const bool cmyk = colours == TJCS_CMYK || colours == TJCS_YCCK;
    cv::Mat pixels(scaled, cmyk ? CV_8UC4 : CV_8UC3);
    DecodedPhoto result;
    if (tjDecompress2(jpeg.get(), data, bytes.size(), pixels.data, scaled.width, static_cast<int>(pixels.step),
                      scaled.height, cmyk ? TJPF_CMYK : TJPF_BGR, 0) != 0) {
        if (tjGetErrorCode(jpeg.get()) != TJERR_WARNING)
            return unreadable(tjGetErrorStr2(jpeg.get()), file);
        result.flaw = flaw_from(tjGetErrorStr2(jpeg.get()));
    }
    if (!cmyk) {
        result.pixels = pixels;
        return result;
    }
    cv::bitwise_not(pixels, pixels); // layout programs write 255 for no ink
    result.pixels = cmyk_into_srgb(pixels, colours_in(bytes));
    result.colours = SourceColours();
    return result;
}

}

Decoder jpeg_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::jpeg,
            .name = "JPEG",
            .endings = {".jpg", ".jpeg"},
            .knows = [](std::string_view first) { return first.starts_with("\xFF\xD8\xFF"sv); },
            .decode = decode_jpeg,
            .looks_whole =
                [](std::string_view, std::string_view last, std::uintmax_t) {
                    last = last.substr(0, last.find_last_not_of('\0') + 1); // some cameras pad with zeros
                    return last.ends_with("\xFF\xD9");
                }};
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

}
