#include "core/source/decoders.h"

#include <bit>
#include <csetjmp>
#include <png.h>
#include <vector>

namespace frenlo {

namespace {

constexpr const char* no_more = "there is no more of it";

/// libpng ends with a jump, over which no object may be made: all that it takes lives here.
struct Reading
{
    std::string_view bytes;
    std::size_t at = 0;
    std::string error;
    png_structp png = nullptr;
    png_infop info = nullptr;
    cv::Size size;
    int type = 0;
    cv::Mat pixels;
    std::vector<png_bytep> rows;
    png_uint_32 rows_begun = 0;

    explicit Reading(std::string_view b) : bytes(b)
    {
        png = png_create_read_struct(PNG_LIBPNG_VER_STRING, this, failed, [](png_structp, png_const_charp) {});
        info = png ? png_create_info_struct(png) : nullptr;
    }
    ~Reading() { png_destroy_read_struct(&png, &info, nullptr); }
    Reading(const Reading&) = delete;
    Reading& operator=(const Reading&) = delete;

    static Reading& of(png_structp png) { return *static_cast<Reading*>(png_get_io_ptr(png)); }

    [[noreturn]] static void failed(png_structp png, png_const_charp message)
    {
        static_cast<Reading*>(png_get_error_ptr(png))->error = message;
        png_longjmp(png, 1);
    }

    static void take(png_structp png, png_bytep to, std::size_t count)
    {
        Reading& r = of(png);
        if (r.bytes.size() - r.at < count)
            png_error(png, no_more);
        std::copy_n(r.bytes.data() + r.at, count, reinterpret_cast<char*>(to));
        r.at += count;
    }
};

/// 8 or 16 bit, B G R or B G R A with straight alpha: palettes, greys and a colour that stands for "see-through"
/// expanded.
bool read_header(Reading& r)
{
    if (setjmp(png_jmpbuf(r.png)) != 0)
        return false;
    png_set_read_fn(r.png, &r, Reading::take);
    png_read_info(r.png, r.info);
    png_set_expand(r.png);
    png_set_gray_to_rgb(r.png);
    png_set_bgr(r.png);
    if (std::endian::native == std::endian::little)
        png_set_swap(r.png);
    png_set_interlace_handling(r.png);
    png_read_update_info(r.png, r.info);
    r.size = {static_cast<int>(png_get_image_width(r.png, r.info)),
              static_cast<int>(png_get_image_height(r.png, r.info))};
    r.type = CV_MAKETYPE(png_get_bit_depth(r.png, r.info) == 16 ? CV_16U : CV_8U, png_get_channels(r.png, r.info));
    return true;
}

bool read_rows(Reading& r)
{
    if (setjmp(png_jmpbuf(r.png)) != 0)
        return false;
    png_set_read_status_fn(r.png, [](png_structp png, png_uint_32 row, int) { Reading::of(png).rows_begun = row; });
    png_read_image(r.png, r.rows.data());
    png_read_end(r.png, nullptr);
    return true;
}

}

namespace {

Result<DecodedPhoto> decode_png(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    Reading r(bytes);
    if (!r.info)
        return unreadable("there is too little memory", file);
    if (!read_header(r))
        return unreadable(r.error, file);
    if (auto problem = size_problem(r.size, file))
        return tl::unexpected(std::move(*problem));
    if (auto problem = claim_problem(r.size, bytes.size(), file))
        return tl::unexpected(std::move(*problem));
    r.pixels = cv::Mat::zeros(r.size, r.type);
    for (int y = 0; y < r.size.height; ++y)
        r.rows.push_back(r.pixels.ptr(y));
    if (read_rows(r))
        return DecodedPhoto{r.pixels, {}};
    if (r.rows_begun == 0)
        return unreadable(r.error, file);
    return DecodedPhoto{r.pixels, r.error == no_more ? cut_off_flaw : "the picture is damaged (" + r.error + ")"};
}

}

Decoder png_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::png,
            .name = "PNG",
            .endings = {".png"},
            .knows = [](std::string_view first) { return first.starts_with("\x89PNG\r\n\x1A\n"sv); },
            .decode = decode_png,
            .looks_whole = [](std::string_view, std::string_view last,
                              std::uintmax_t) { return last.find("IEND") != std::string_view::npos; },
            .says_alpha = [](std::string_view first) { // PNG, third edition, 11.2.1 and 11.3.1.1
                const int colour_type = byte_at(first, 25);
                return colour_type == 4 || colour_type == 6 || first.find("tRNS") != std::string_view::npos;
            }};
}

}
