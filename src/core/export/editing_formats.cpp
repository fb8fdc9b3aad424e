// Films for other programs to go on with: lossless, intermediate, each picture by itself, uncompressed.
#include "core/export/film_sink.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

/// RFC 9043: version 3, sliced, each slice with its sum, so that damage is found.
void set_up_ffv1(const Preset&, bool, AVCodecContext& c, AVDictionary** encoder, AVDictionary**)
{
    c.level = 3;
    c.gop_size = 1;
    c.slices = 16;
    av_dict_set_int(encoder, "slicecrc", 1, 0);
}

/// SMPTE RDD 36: 4:2:2 at high quality, or 4:4:4 with alpha.
void set_up_rdd36(const Preset&, bool alpha, AVCodecContext&, AVDictionary** encoder, AVDictionary**)
{
    av_dict_set(encoder, "profile", alpha ? "4444" : "hq", 0);
    if (alpha)
        av_dict_set_int(encoder, "alpha_bits", 16, 0);
}

/// SMPTE ST 2019-1 of any size, 4:2:2, 10 bit.
void set_up_vc3(const Preset&, bool, AVCodecContext& c, AVDictionary** encoder, AVDictionary**)
{
    c.gop_size = 0;
    av_dict_set(encoder, "profile", "dnxhr_hqx", 0);
}

void set_up_motion_jpeg(const Preset& p, bool, AVCodecContext& c, AVDictionary**, AVDictionary**)
{
    c.flags |= AV_CODEC_FLAG_QSCALE;
    c.global_quality = FF_QP2LAMBDA * std::clamp(1 + (100 - p.quality) / 4, 1, 31);
}

double raw_bytes(const Amount& a, double a_pixel)
{
    return a.pixels * double(a.frames) * a_pixel;
}

constexpr FilmCodec ffv1{.encoder = "ffv1",
                         .muxer = "matroska",
                         .pixels = AV_PIX_FMT_0RGB32, // B G R and a byte beside them
                         .deep = AV_PIX_FMT_GBRP16LE,
                         .with_alpha = AV_PIX_FMT_RGB32,
                         .deep_with_alpha = AV_PIX_FMT_GBRAP16LE,
                         .sound = "flac",
                         .set_up = set_up_ffv1};
constexpr FilmCodec rdd36{.encoder = "prores_ks",
                          .muxer = "mov",
                          .pixels = AV_PIX_FMT_YUV422P10LE,
                          .deep = AV_PIX_FMT_YUV422P10LE,
                          .with_alpha = AV_PIX_FMT_YUVA444P10LE,
                          .deep_with_alpha = AV_PIX_FMT_YUVA444P10LE,
                          .sound = "pcm_s24le",
                          .set_up = set_up_rdd36};
constexpr FilmCodec vc3{.encoder = "dnxhd",
                        .muxer = "mov",
                        .pixels = AV_PIX_FMT_YUV422P10LE,
                        .deep = AV_PIX_FMT_YUV422P10LE,
                        .sound = "pcm_s24le",
                        .set_up = set_up_vc3};
constexpr FilmCodec motion_jpeg{.encoder = "mjpeg",
                                .muxer = "avi",
                                .pixels = AV_PIX_FMT_YUVJ444P,
                                .sound = "pcm_s16le",
                                .full_range = true,
                                .matrix = AVCOL_SPC_BT470BG, // of JPEG (ITU-T T.871)
                                .set_up = set_up_motion_jpeg};
constexpr FilmCodec plain_avi{.encoder = "rawvideo", .muxer = "avi", .pixels = AV_PIX_FMT_BGR24, .sound = "pcm_s16le"};
constexpr FilmCodec plain_mov{.encoder = "rawvideo", .muxer = "mov", .pixels = AV_PIX_FMT_RGB24, .sound = "pcm_s24le"};

template <const FilmCodec& codec>
std::unique_ptr<FrameSink> write(const Writing& w)
{
    return film_sink(w, codec);
}

}

Format ffv1_in_matroska()
{
    return {
        .key = "ffv1-mkv",
        .name = "lossless film",
        .kind = Format::Kind::film,
        .endings = {".mkv"},
        .alpha = true,
        .sound = true,
        .chapters = true,
        .sixteen = true,
        .bytes = [](const Preset& p, const Amount& a) { return raw_bytes(a, p.depth == Depth::sixteen ? 4.5 : 1.6); },
        .writer = write<ffv1>};
}

Format rdd36_in_mov()
{
    return {.key = "rdd36-mov",
            .name = "film for editing (RDD 36)",
            .kind = Format::Kind::film,
            .endings = {".mov"},
            .alpha = true,
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .side_multiple = 2,
            .least = {16, 16},
            .bytes = [](const Preset&, const Amount& a) { return raw_bytes(a, 0.45); },
            .writer = write<rdd36>};
}

Format vc3_in_mov()
{
    return {.key = "vc3-mov",
            .name = "film for editing (VC-3)",
            .kind = Format::Kind::film,
            .endings = {".mov"},
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .side_multiple = 2,
            .least = {256, 120},
            .bytes = [](const Preset&, const Amount& a) { return raw_bytes(a, 0.44); },
            .writer = write<vc3>};
}

Format motion_jpeg_in_avi()
{
    return {.key = "mjpeg-avi",
            .name = "film of single pictures (Motion JPEG)",
            .kind = Format::Kind::film,
            .endings = {".avi"},
            .sound = true,
            .quality = true,
            .bytes = [](const Preset& p,
                        const Amount& a) { return raw_bytes(a, 0.25 * std::exp2((p.quality - 80) / 10.0)); },
            .writer = write<motion_jpeg>};
}

Format plain_in_avi()
{
    return {.key = "raw-avi",
            .name = "uncompressed film",
            .kind = Format::Kind::film,
            .endings = {".avi"},
            .sound = true,
            .bytes = [](const Preset&, const Amount& a) { return raw_bytes(a, 3); },
            .writer = write<plain_avi>};
}

Format plain_in_mov()
{
    Format f = plain_in_avi();
    f.key = "raw-mov";
    f.chapters = true;
    f.endings = {".mov"};
    f.writer = write<plain_mov>;
    return f;
}

}
