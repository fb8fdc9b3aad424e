#include "core/source/colour_profile.h"
#include "core/source/decoders.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <libheif/heif.h>
#include <memory>

namespace frenlo {

namespace {

struct FreeHeif
{
    void operator()(heif_context* c) const { heif_context_free(c); }
    void operator()(const heif_image_handle* h) const { heif_image_handle_release(h); }
    void operator()(heif_image* i) const { heif_image_release(i); }
    void operator()(heif_color_profile_nclx* n) const { heif_nclx_color_profile_free(n); }
};
template <class T>
using OwnHeif = std::unique_ptr<T, FreeHeif>;

/// The file's main picture, opened.
struct HeifPicture
{
    OwnHeif<heif_context> context;
    OwnHeif<const heif_image_handle> handle;
    std::string wrong; ///< why there is none

    explicit HeifPicture(std::string_view bytes) : context(heif_context_alloc())
    {
        const auto fails = [&](const heif_error& e) {
            if (e.code != heif_error_Ok)
                wrong = e.message ? e.message : "it is damaged";
            return e.code != heif_error_Ok;
        };
        if (fails(heif_context_read_from_memory_without_copy(context.get(), bytes.data(), bytes.size(), nullptr)))
            return;
        heif_image_handle* main = nullptr;
        if (!fails(heif_context_get_primary_image_handle(context.get(), &main)))
            handle.reset(main);
    }
    [[nodiscard]] cv::Size size() const
    {
        return {heif_image_handle_get_width(handle.get()), heif_image_handle_get_height(handle.get())};
    }
    [[nodiscard]] bool alpha() const { return heif_image_handle_has_alpha_channel(handle.get()) != 0; }
};

SourceColours colours_of(const heif_image_handle* handle)
{
    SourceColours colours;
    if (const std::size_t size = heif_image_handle_get_raw_color_profile_size(handle); size > 0) {
        colours.icc.resize(size);
        if (heif_image_handle_get_raw_color_profile(handle, colours.icc.data()).code == heif_error_Ok)
            return colours;
        colours.icc.clear();
    }
    heif_color_profile_nclx* said = nullptr;
    if (heif_image_handle_get_nclx_color_profile(handle, &said).code != heif_error_Ok)
        return colours;
    const OwnHeif<heif_color_profile_nclx> nclx(said);
    if (nclx->color_primaries == heif_color_primaries_SMPTE_EG_432_1 ||
        nclx->color_primaries == heif_color_primaries_ITU_R_BT_2020_2_and_2100_0)
        colours.icc =
            icc_of_primaries({nclx->color_primary_red_x, nclx->color_primary_red_y, nclx->color_primary_green_x,
                              nclx->color_primary_green_y, nclx->color_primary_blue_x, nclx->color_primary_blue_y});
    return colours;
}

/// As decode.h says; more than 8 bits become 16.
cv::Mat pixels_of(const heif_image* image, cv::Size size, bool alpha, int bits)
{
    int stride = 0;
    const std::uint8_t* plane = heif_image_get_plane_readonly(image, heif_channel_interleaved, &stride);
    if (!plane)
        return {};
    const int channels = alpha ? 4 : 3;
    cv::Mat stored(size, CV_MAKETYPE(bits > 8 ? CV_16U : CV_8U, channels), const_cast<std::uint8_t*>(plane),
                   std::size_t(stride));
    cv::Mat pixels;
    cv::cvtColor(stored, pixels, alpha ? cv::COLOR_RGBA2BGRA : cv::COLOR_RGB2BGR);
    if (bits > 8 && bits < 16)
        pixels.convertTo(pixels, CV_16U, 65'535.0 / ((1 << bits) - 1));
    return pixels;
}

Result<DecodedPhoto> decode_heif(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    const HeifPicture picture(bytes);
    if (!picture.handle)
        return unreadable(picture.wrong, file);
    if (auto too_large = size_problem(picture.size(), file))
        return tl::unexpected(std::move(*too_large));
    if (auto lie = claim_problem(picture.size(), bytes.size(), file))
        return tl::unexpected(std::move(*lie));
    const int bits = heif_image_handle_get_luma_bits_per_pixel(picture.handle.get());
    const bool alpha = picture.alpha(), deep = bits > 8;
    const heif_chroma wanted = deep ? (alpha ? heif_chroma_interleaved_RRGGBBAA_LE : heif_chroma_interleaved_RRGGBB_LE)
                                    : (alpha ? heif_chroma_interleaved_RGBA : heif_chroma_interleaved_RGB);
    heif_image* made = nullptr;
    const heif_error error = heif_decode_image(picture.handle.get(), &made, heif_colorspace_RGB, wanted, nullptr);
    const OwnHeif<heif_image> image(made);
    if (error.code != heif_error_Ok)
        return unreadable(error.message ? error.message : "it is damaged", file);
    const cv::Size size(heif_image_get_width(image.get(), heif_channel_interleaved),
                        heif_image_get_height(image.get(), heif_channel_interleaved));
    const int stored_bits = deep ? heif_image_get_bits_per_pixel_range(image.get(), heif_channel_interleaved) : 8;
    DecodedPhoto decoded{pixels_of(image.get(), size, alpha, stored_bits), {}};
    if (decoded.pixels.empty())
        return unreadable("it is damaged", file);
    decoded.colours = colours_of(picture.handle.get());
    return decoded;
}

/// The decoder turns the picture by what stands in the file; Exif's orientation repeats it.
std::string look_into_heif(PhotoFile& photo, bool)
{
    const std::string bytes = whole_file(photo.file);
    const HeifPicture picture(bytes);
    if (!picture.handle)
        return picture.wrong;
    photo.size = picture.size();
    photo.alpha = picture.alpha();
    photo.orientation = 1;
    return {};
}

}

Decoder heif_decoder()
{
    return {.format = PhotoFormat::heif,
            .name = "HEIF and AVIF",
            .endings = {".heic", ".heif", ".hif", ".avif"},
            .knows =
                [](std::string_view first) { // ISO/IEC 14496-12, 4.3; the brands of ISO/IEC 23008-12 and of AVIF
                    if (first.size() < 12 || first.substr(4, 4) != "ftyp")
                        return false;
                    constexpr std::array<std::string_view, 7> brands{"heic", "heix", "heim", "heis",
                                                                     "mif1", "avif", "miaf"};
                    return std::find(brands.begin(), brands.end(), first.substr(8, 4)) != brands.end();
                },
            .decode = decode_heif,
            .look_into = look_into_heif};
}

}
