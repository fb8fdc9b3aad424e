#include "core/source/clip_pixels.h"

#include "core/base/libav.h"
#include "core/base/problem.h"
#include "core/base/zimg_memory.h"

extern "C" {
#include <libavutil/pixdesc.h>
}

#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <cstdlib>
#include <memory>
#include <vector>
#include <zimg.h>

namespace frenlo {

namespace {

using zimg::alignment, zimg::FreeGraph, zimg::Memory, zimg::memory_of;

[[noreturn]] void cannot(const char* what)
{
    throw Failure({std::string("its pixels are of a kind that cannot be converted (") + what + ")",
                   {},
                   "Write the clip out again in another format"});
}

bool is_high_range(AVColorTransferCharacteristic t)
{
    return t == AVCOL_TRC_SMPTE2084 || t == AVCOL_TRC_ARIB_STD_B67;
}

bool full_range(const AVFrame& f)
{
    return f.color_range == AVCOL_RANGE_JPEG || f.format == AV_PIX_FMT_YUVJ420P || f.format == AV_PIX_FMT_YUVJ422P ||
           f.format == AV_PIX_FMT_YUVJ444P;
}

bool known_matrix(AVColorSpace s)
{
    return s != AVCOL_SPC_RGB && s != AVCOL_SPC_UNSPECIFIED && s != AVCOL_SPC_RESERVED && s <= AVCOL_SPC_BT2020_NCL;
}

bool known_primaries(AVColorPrimaries p)
{
    return p == AVCOL_PRI_BT709 || (p >= AVCOL_PRI_BT470M && p <= AVCOL_PRI_SMPTE432) || p == AVCOL_PRI_EBU3213;
}

/// The planes of the picture as the library wants them: copied where they are not aligned.
class Planes
{
public:
    Planes(const AVFrame& f, const AVPixFmtDescriptor& d, int count)
    {
        buffer_.version = ZIMG_API_VERSION;
        for (int i = 0; i < count; ++i) {
            const bool chroma = i == 1 || i == 2;
            const int rows = chroma ? AV_CEIL_RSHIFT(f.height, d.log2_chroma_h) : f.height;
            const int columns = chroma ? AV_CEIL_RSHIFT(f.width, d.log2_chroma_w) : f.width;
            const std::size_t bytes = std::size_t(columns) * (d.comp[0].depth > 8 ? 2 : 1);
            auto& plane = buffer_.plane[i];
            plane.mask = ZIMG_BUFFER_MAX;
            plane.data = f.data[i];
            plane.stride = f.linesize[i];
            if (reinterpret_cast<std::uintptr_t>(f.data[i]) % alignment == 0 && plane.stride > 0 &&
                std::size_t(plane.stride) % alignment == 0)
                continue;
            const std::size_t step = (bytes / alignment + 1) * alignment;
            own_.push_back(memory_of(step * std::size_t(rows)));
            for (int y = 0; y < rows; ++y)
                std::copy_n(f.data[i] + std::ptrdiff_t(y) * f.linesize[i], bytes,
                            own_.back().get() + std::size_t(y) * step);
            plane.data = own_.back().get();
            plane.stride = std::ptrdiff_t(step);
        }
    }
    [[nodiscard]] const zimg_image_buffer_const& buffer() const { return buffer_; }

private:
    zimg_image_buffer_const buffer_{};
    std::vector<Memory> own_;
};

zimg_image_format format_of(const AVFrame& f, const AVPixFmtDescriptor& d)
{
    zimg_image_format in;
    zimg_image_format_default(&in, ZIMG_API_VERSION);
    in.width = unsigned(f.width);
    in.height = unsigned(f.height);
    in.pixel_type = d.comp[0].depth > 8 ? ZIMG_PIXEL_WORD : ZIMG_PIXEL_BYTE;
    in.depth = unsigned(d.comp[0].depth);
    in.subsample_w = d.log2_chroma_w;
    in.subsample_h = d.log2_chroma_h;
    const bool large = f.height >= 720 || f.width >= 1280;
    in.color_family = ZIMG_COLOR_YUV;
    in.matrix_coefficients = known_matrix(f.colorspace) ? zimg_matrix_coefficients_e(f.colorspace)
                             : large                    ? ZIMG_MATRIX_BT709
                                                        : ZIMG_MATRIX_ST170_M;
    in.pixel_range = full_range(f) ? ZIMG_RANGE_FULL : ZIMG_RANGE_LIMITED;
    in.color_primaries =
        known_primaries(f.color_primaries) ? zimg_color_primaries_e(f.color_primaries) : ZIMG_PRIMARIES_BT709;
    in.transfer_characteristics =
        is_high_range(f.color_trc) ? zimg_transfer_characteristics_e(f.color_trc) : ZIMG_TRANSFER_IEC_61966_2_1;
    in.chroma_location = f.chroma_location == AVCHROMA_LOC_UNSPECIFIED
                             ? ZIMG_CHROMA_LEFT
                             : zimg_chroma_location_e(int(f.chroma_location) - 1);
    return in;
}

cv::Mat interleaved(const zimg_image_buffer& planes, cv::Size size, int type)
{
    cv::Mat out;
    std::array<cv::Mat, 3> channels; // R G B as the library gives them
    for (std::size_t i = 0; i < 3; ++i)
        channels[2 - i] = cv::Mat(size, type, planes.plane[i].data, std::size_t(planes.plane[i].stride));
    cv::merge(channels.data(), channels.size(), out);
    return out;
}

cv::Mat colours_of(const AVFrame& f, const AVPixFmtDescriptor& d)
{
    const zimg_image_format in = format_of(f, d);
    zimg_image_format out;
    zimg_image_format_default(&out, ZIMG_API_VERSION);
    out.width = in.width;
    out.height = in.height;
    out.color_family = ZIMG_COLOR_RGB;
    out.matrix_coefficients = ZIMG_MATRIX_RGB;
    out.pixel_range = ZIMG_RANGE_FULL;
    out.color_primaries = ZIMG_PRIMARIES_BT709;
    const bool wide = is_high_range(f.color_trc);
    out.transfer_characteristics = wide ? ZIMG_TRANSFER_LINEAR : ZIMG_TRANSFER_IEC_61966_2_1;
    out.pixel_type = wide ? ZIMG_PIXEL_FLOAT : d.comp[0].depth > 8 ? ZIMG_PIXEL_WORD : ZIMG_PIXEL_BYTE;
    const int value_bytes = wide ? 4 : d.comp[0].depth > 8 ? 2 : 1;
    out.depth = unsigned(8 * value_bytes);
    zimg_graph_builder_params params;
    zimg_graph_builder_params_default(&params, ZIMG_API_VERSION);
    params.resample_filter_uv = ZIMG_RESIZE_BICUBIC;
    params.cpu_type = ZIMG_CPU_AUTO_64B;
    params.nominal_peak_luminance = 203;
    const std::unique_ptr<zimg_filter_graph, FreeGraph> graph(zimg_filter_graph_build(&in, &out, &params));
    std::size_t bytes = 0;
    if (!graph || zimg_filter_graph_get_tmp_size(graph.get(), &bytes) != 0)
        cannot(d.name);
    const Planes source(f, d, 3);
    const cv::Size size(f.width, f.height);
    const std::size_t step = (std::size_t(size.width) * std::size_t(value_bytes) / alignment + 2) * alignment;
    const Memory memory = memory_of(3 * step * std::size_t(size.height));
    zimg_image_buffer target{};
    target.version = ZIMG_API_VERSION;
    for (std::size_t i = 0; i < 3; ++i)
        target.plane[i] = {memory.get() + i * step * std::size_t(size.height), std::ptrdiff_t(step), ZIMG_BUFFER_MAX};
    const Memory work = memory_of(bytes);
    if (zimg_filter_graph_process(graph.get(), &source.buffer(), &target, work.get(), nullptr, nullptr, nullptr,
                                  nullptr) != 0)
        cannot(d.name);
    return interleaved(target, size, wide ? CV_32F : value_bytes == 2 ? CV_16U : CV_8U);
}

/// The last plane, to the depth of these pixels.
void add_alpha(cv::Mat& pixels, const AVFrame& f, const AVPixFmtDescriptor& d)
{
    const int depth = d.comp[3].depth;
    const cv::Mat stored(f.height, f.width, depth > 8 ? CV_16U : CV_8U, f.data[3], std::size_t(f.linesize[3]));
    const double most = pixels.depth() == CV_32F ? 1 : pixels.depth() == CV_16U ? 65'535 : 255;
    cv::Mat alpha;
    stored.convertTo(alpha, pixels.depth(), most / double((1 << depth) - 1));
    std::array<cv::Mat, 4> channels;
    cv::split(pixels, channels.data());
    channels[3] = alpha;
    cv::merge(channels.data(), channels.size(), pixels);
}

/// Of R G B, grey, palettes and packed kinds: in the library's own conversion nothing but the layout changes.
cv::Mat repacked(const AVFrame& f, const AVPixFmtDescriptor& d)
{
    const bool alpha = (d.flags & AV_PIX_FMT_FLAG_ALPHA) != 0 || (d.flags & AV_PIX_FMT_FLAG_PAL) != 0;
    const bool deep = d.comp[0].depth > 8;
    const AVPixelFormat to = deep    ? (alpha ? AV_PIX_FMT_BGRA64LE : AV_PIX_FMT_BGR48LE)
                             : alpha ? AV_PIX_FMT_BGRA
                                     : AV_PIX_FMT_BGR24;
    const libav::Owned<SwsContext> sws(sws_getContext(
        f.width, f.height, AVPixelFormat(f.format), f.width, f.height, to,
        SWS_BICUBIC | SWS_ACCURATE_RND | SWS_FULL_CHR_H_INT | SWS_FULL_CHR_H_INP, nullptr, nullptr, nullptr));
    if (!sws)
        cannot(d.name);
    const bool large = f.height >= 720 || f.width >= 1280;
    const int matrix = known_matrix(f.colorspace) ? int(f.colorspace) : large ? SWS_CS_ITU709 : SWS_CS_ITU601;
    sws_setColorspaceDetails(sws.get(), sws_getCoefficients(matrix), full_range(f) ? 1 : 0,
                             sws_getCoefficients(SWS_CS_DEFAULT), 1, 0, 1 << 16, 1 << 16);
    // The library writes some bytes beyond a row; memory of its own has room for them.
    const int values = alpha ? 4 : 3, value_bytes = deep ? 2 : 1;
    const int step = (f.width * values * value_bytes / int(alignment) + 2) * int(alignment);
    const Memory memory = memory_of(std::size_t(step) * std::size_t(f.height));
    std::array<std::uint8_t*, 4> planes{memory.get()};
    const std::array<int, 4> steps{step};
    if (sws_scale(sws.get(), f.data, f.linesize, 0, f.height, planes.data(), steps.data()) != f.height)
        cannot(d.name);
    return cv::Mat(f.height, f.width, CV_MAKETYPE(deep ? CV_16U : CV_8U, values), memory.get(), std::size_t(step))
        .clone();
}

}

cv::Mat clip_pixels(const AVFrame& frame)
{
    const auto* d = av_pix_fmt_desc_get(AVPixelFormat(frame.format));
    if (!d)
        cannot("none");
    constexpr auto others = AV_PIX_FMT_FLAG_RGB | AV_PIX_FMT_FLAG_PAL | AV_PIX_FMT_FLAG_BITSTREAM |
                            AV_PIX_FMT_FLAG_HWACCEL | AV_PIX_FMT_FLAG_BE | AV_PIX_FMT_FLAG_FLOAT;
    const bool planar = (d->flags & AV_PIX_FMT_FLAG_PLANAR) != 0 && d->nb_components >= 3 && d->comp[1].plane == 1 &&
                        d->comp[2].plane == 2 && d->comp[0].shift == 0 && (d->flags & others) == 0;
    if (!planar)
        return repacked(frame, *d);
    cv::Mat pixels = colours_of(frame, *d);
    if ((d->flags & AV_PIX_FMT_FLAG_ALPHA) != 0)
        add_alpha(pixels, frame, *d);
    return pixels;
}

}
