#include "core/source/decode_raw.h"

#include "core/source/decoders.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <libraw/libraw.h>

namespace frenlo {

namespace {

/// The file's own white balance, linear light of BT.709 primaries, the sensor's white is 1 and clips to white; nothing
/// of it depends on what the photo shows. Orientation as the file says.
void set_development(LibRaw& raw)
{
    auto& p = raw.imgdata.params;
    p.use_camera_wb = 1;
    p.output_color = 1; // sRGB's primaries
    p.output_bps = 16;
    p.gamm[0] = p.gamm[1] = 1;
    p.no_auto_bright = 1;
    p.adjust_maximum_thr = 0;
    p.highlight = 0;
}

bool begins(std::string_view first, std::string_view with, std::size_t at = 0)
{
    return first.substr(std::min(at, first.size()), with.size()) == with;
}

/// Most cameras keep raw photos in a TIFF of their own kind: the name tells it from another.
bool is_raw(std::string_view first)
{
    return begins(first, "CR", 8) || begins(first, "crx ", 8) || begins(first, "FUJIFILMCCD-RAW") ||
           begins(first, "IIRO") || begins(first, "IIRS") || begins(first, "MMOR") ||
           begins(first, std::string_view("IIU\0", 4)) || begins(first, std::string_view("II*\0", 4)) ||
           begins(first, std::string_view("MM\0*", 4));
}

/// Holds what the library made; it frees it.
struct FreeImage
{
    void operator()(libraw_processed_image_t* image) const { LibRaw::dcraw_clear_mem(image); }
};

cv::Size seen_size(LibRaw& raw)
{
    const auto& s = raw.imgdata.sizes;
    const cv::Size size(s.iwidth, s.iheight);
    return (s.flip & 4) != 0 ? cv::Size(size.height, size.width) : size;
}

Result<DecodedPhoto> decode_raw(std::string_view bytes, cv::Size at_least, const std::filesystem::path& file)
{
    LibRaw raw;
    set_development(raw);
    int error = raw.open_buffer(const_cast<char*>(bytes.data()), bytes.size());
    if (error != LIBRAW_SUCCESS)
        return unreadable(libraw_strerror(error), file);
    const cv::Size whole = seen_size(raw);
    if (auto too_large = size_problem(whole, file))
        return tl::unexpected(std::move(*too_large));
    raw.imgdata.params.half_size =
        !at_least.empty() && at_least.width <= whole.width / 2 && at_least.height <= whole.height / 2;
    if (error = raw.unpack(); error != LIBRAW_SUCCESS)
        return unreadable(libraw_strerror(error), file);
    if (error = raw.dcraw_process(); error != LIBRAW_SUCCESS)
        return unreadable(libraw_strerror(error), file);
    const std::unique_ptr<libraw_processed_image_t, FreeImage> image(raw.dcraw_make_mem_image(&error));
    if (!image || image->type != LIBRAW_IMAGE_BITMAP || image->bits != 16 || (image->colors != 3 && image->colors != 1))
        return unreadable(error != LIBRAW_SUCCESS ? libraw_strerror(error) : "this kind of raw is not known", file);
    cv::Mat pixels(image->height, image->width, CV_32FC3);
    const auto* from = reinterpret_cast<const std::uint16_t*>(image->data);
    for (int y = 0; y < pixels.rows; ++y)
        for (int x = 0; x < pixels.cols; ++x, from += image->colors)
            for (int c = 0; c < 3; ++c)
                pixels.at<cv::Vec3f>(y, x)[2 - c] = float(from[image->colors == 3 ? c : 0]) / 65'535.0F;
    return DecodedPhoto{pixels, {}};
}

std::string look_into_raw(PhotoFile& photo, bool)
{
    LibRaw raw;
    if (const int error = raw.open_file(photo.file.c_str()); error != LIBRAW_SUCCESS)
        return libraw_strerror(error);
    photo.size = seen_size(raw);
    photo.orientation = 1; // the library turns the picture
    photo.alpha = false;
    return {};
}

}

std::string raw_preview(const std::filesystem::path& file, int& orientation)
{
    LibRaw raw;
    if (raw.open_file(file.c_str()) != LIBRAW_SUCCESS || raw.unpack_thumb() != LIBRAW_SUCCESS ||
        raw.imgdata.thumbnail.tformat != LIBRAW_THUMBNAIL_JPEG)
        return {};
    switch (raw.imgdata.sizes.flip) { // to Exif's orientation
    case 3:
        orientation = 3;
        break;
    case 5:
        orientation = 8;
        break;
    case 6:
        orientation = 6;
        break;
    default:
        orientation = 1;
    }
    return {raw.imgdata.thumbnail.thumb, raw.imgdata.thumbnail.tlength};
}

Decoder raw_decoder()
{
    return {.format = PhotoFormat::raw,
            .name = "camera raw",
            .endings = {".dng", ".cr2", ".cr3", ".nef", ".nrw", ".arw", ".srf", ".sr2", ".raf", ".orf", ".rw2",
                        ".pef", ".srw", ".raw", ".rwl", ".iiq", ".3fr", ".erf", ".mef", ".mrw", ".kdc", ".dcr"},
            .knows = is_raw,
            .decode = decode_raw,
            .look_into = look_into_raw};
}

}
