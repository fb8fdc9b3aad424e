#include "core/base/problem.h"
#include "core/source/decode.h"

#include <array>
#include <bit>
#include <csetjmp>
#include <png.h>
#include <vector>
#include <zlib.h>

namespace frenlo {

namespace {

/// libpng ends with a jump, over which no object may be made: all that it takes lives here.
struct Writing
{
    std::string bytes;
    png_structp png = nullptr;
    png_infop info = nullptr;
    std::vector<png_bytep> rows;

    explicit Writing(const cv::Mat& pixels)
        : png(png_create_write_struct(
              PNG_LIBPNG_VER_STRING, this, [](png_structp p, png_const_charp) { png_longjmp(p, 1); },
              [](png_structp, png_const_charp) {})),
          info(png ? png_create_info_struct(png) : nullptr)
    {
        for (int y = 0; y < pixels.rows; ++y)
            rows.push_back(const_cast<png_bytep>(pixels.ptr(y))); // it only reads them
    }
    ~Writing() { png_destroy_write_struct(&png, &info); }
    Writing(const Writing&) = delete;
    Writing& operator=(const Writing&) = delete;
};

bool write(Writing& w, const cv::Mat& pixels, int effort)
{
    if (!w.info || setjmp(png_jmpbuf(w.png)) != 0)
        return false;
    const auto take = [](png_structp png, png_bytep from, std::size_t count) {
        static_cast<Writing*>(png_get_io_ptr(png))->bytes.append(reinterpret_cast<const char*>(from), count);
    };
    png_set_write_fn(w.png, &w, take, [](png_structp) {});
    if (effort <= 1) { // half the time of what the library takes by itself, and no larger
        png_set_filter(w.png, PNG_FILTER_TYPE_BASE, PNG_FILTER_SUB);
        png_set_compression_level(w.png, Z_BEST_SPEED);
        png_set_compression_strategy(w.png, Z_RLE);
    } else {
        png_set_compression_level(w.png, effort);
    }
    constexpr std::array colour{PNG_COLOR_TYPE_GRAY, PNG_COLOR_TYPE_GRAY, PNG_COLOR_TYPE_RGB, PNG_COLOR_TYPE_RGBA};
    png_set_IHDR(w.png, w.info, png_uint_32(pixels.cols), png_uint_32(pixels.rows), pixels.depth() == CV_16U ? 16 : 8,
                 colour.at(std::size_t(pixels.channels() - 1)), PNG_INTERLACE_NONE, PNG_COMPRESSION_TYPE_DEFAULT,
                 PNG_FILTER_TYPE_DEFAULT);
    png_write_info(w.png, w.info);
    png_set_bgr(w.png);
    if (std::endian::native == std::endian::little)
        png_set_swap(w.png);
    png_write_image(w.png, w.rows.data());
    png_write_end(w.png, w.info);
    return true;
}

}

std::string encode_png(const cv::Mat& pixels, int effort)
{
    Writing w(pixels);
    if (!write(w, pixels, effort))
        throw Failure({"a PNG cannot be made", {}, "Close other programs: there may be too little memory"});
    return std::move(w.bytes);
}

}
