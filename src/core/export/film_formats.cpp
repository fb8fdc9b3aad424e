// Films for looking at: H.264, H.265, VP9, AV1.
#include "core/export/film_sink.h"

#include <cmath>
#include <string>

namespace frenlo {

namespace {

void start_early(AVDictionary** muxer)
{
    av_dict_set(muxer, "movflags", "+faststart", 0); // web pages start before all is loaded
}

void set_up_h264(const Preset& p, bool, AVCodecContext&, AVDictionary** encoder, AVDictionary** muxer)
{
    av_dict_set(encoder, "preset", "medium", 0);
    av_dict_set(encoder, "crf", std::to_string(crf_for_quality(p.quality)).c_str(), 0);
    start_early(muxer);
}

/// The same look at a higher factor, by experience.
void set_up_h265(const Preset& p, bool, AVCodecContext& c, AVDictionary** encoder, AVDictionary** muxer)
{
    av_dict_set(encoder, "preset", "medium", 0);
    av_dict_set(encoder, "crf", std::to_string(crf_for_quality(p.quality) + 3).c_str(), 0);
    av_dict_set(encoder, "x265-params", "log-level=none", 0);
    c.codec_tag = MKTAG('h', 'v', 'c', '1'); // what players of MP4 look for
    start_early(muxer);
}

void set_up_vp9(const Preset& p, bool alpha, AVCodecContext& c, AVDictionary** encoder, AVDictionary**)
{
    c.bit_rate = 0;
    av_dict_set_int(encoder, "crf", std::min(63L, std::lround(crf_for_quality(p.quality)) + 10), 0);
    av_dict_set(encoder, "deadline", "good", 0);
    av_dict_set_int(encoder, "cpu-used", 3, 0);
    av_dict_set_int(encoder, "row-mt", 1, 0);
    if (alpha) // frames that are not shown have no alpha beside them
        av_dict_set_int(encoder, "auto-alt-ref", 0, 0);
}

void set_up_av1(const Preset& p, bool, AVCodecContext& c, AVDictionary** encoder, AVDictionary**)
{
    c.bit_rate = 0;
    av_dict_set_int(encoder, "crf", std::min(63L, std::lround(crf_for_quality(p.quality)) + 8), 0);
    av_dict_set_int(encoder, "cpu-used", 6, 0);
    av_dict_set_int(encoder, "row-mt", 1, 0);
}

double film_bytes(const Preset& p, const Amount& a, double a_pixel)
{ // held pictures cost next to nothing
    return a.pixels * double(a.pictures) * a_pixel * std::exp2((18 - crf_for_quality(p.quality)) / 6.0) + 10'000;
}

constexpr FilmCodec h264{.encoder = "libx264",
                         .muxer = "mp4",
                         .pixels = AV_PIX_FMT_YUV420P,
                         .deep = AV_PIX_FMT_YUV420P10LE,
                         .sound = "aac",
                         .set_up = set_up_h264};
constexpr FilmCodec h264_mov{.encoder = "libx264",
                             .muxer = "mov",
                             .pixels = AV_PIX_FMT_YUV420P,
                             .deep = AV_PIX_FMT_YUV420P10LE,
                             .sound = "aac",
                             .set_up = set_up_h264};
constexpr FilmCodec h265{.encoder = "libx265",
                         .muxer = "mp4",
                         .pixels = AV_PIX_FMT_YUV420P,
                         .deep = AV_PIX_FMT_YUV420P10LE,
                         .sound = "aac",
                         .set_up = set_up_h265};
constexpr FilmCodec h265_mov{.encoder = "libx265",
                             .muxer = "mov",
                             .pixels = AV_PIX_FMT_YUV420P,
                             .deep = AV_PIX_FMT_YUV420P10LE,
                             .sound = "aac",
                             .set_up = set_up_h265};
constexpr FilmCodec vp9{.encoder = "libvpx-vp9",
                        .muxer = "webm",
                        .pixels = AV_PIX_FMT_YUV420P,
                        .deep = AV_PIX_FMT_YUV420P10LE,
                        .with_alpha = AV_PIX_FMT_YUVA420P,
                        .sound = "libopus",
                        .set_up = set_up_vp9};
constexpr FilmCodec av1{.encoder = "libaom-av1",
                        .muxer = "webm",
                        .pixels = AV_PIX_FMT_YUV420P,
                        .deep = AV_PIX_FMT_YUV420P10LE,
                        .sound = "libopus",
                        .set_up = set_up_av1};

template <const FilmCodec& codec>
std::unique_ptr<FrameSink> write(const Writing& w)
{
    return film_sink(w, codec);
}

}

Format h264_in_mp4()
{
    return {.key = "h264-mp4",
            .name = "film",
            .kind = Format::Kind::film,
            .endings = {".mp4"},
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .quality = true,
            .side_multiple = 2, // 4:2:0
            .most_side = 8192,  // H.264, level 6.2; what few players reach
            .bytes = [](const Preset& p, const Amount& a) { return film_bytes(p, a, 0.10); },
            .writer = write<h264>};
}

Format h264_in_mov()
{
    Format f = h264_in_mp4();
    f.key = "h264-mov";
    f.endings = {".mov"};
    f.writer = write<h264_mov>;
    return f;
}

Format h265_in_mp4()
{
    return {.key = "h265-mp4",
            .name = "H.265 film",
            .kind = Format::Kind::film,
            .endings = {".mp4"},
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .quality = true,
            .side_multiple = 2,
            .least = {64, 64}, // the library's coding unit
            .most_side = 8192,
            .bytes = [](const Preset& p, const Amount& a) { return film_bytes(p, a, 0.06); },
            .writer = write<h265>};
}

Format h265_in_mov()
{
    Format f = h265_in_mp4();
    f.key = "h265-mov";
    f.endings = {".mov"};
    f.writer = write<h265_mov>;
    return f;
}

Format vp9_in_webm()
{
    return {.key = "vp9-webm",
            .name = "VP9 film",
            .kind = Format::Kind::film,
            .endings = {".webm"},
            .alpha = true,
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .quality = true,
            .side_multiple = 2,
            .most_side = 16'384,
            .bytes = [](const Preset& p, const Amount& a) { return film_bytes(p, a, 0.07); },
            .writer = write<vp9>};
}

Format av1_in_webm()
{
    return {.key = "av1-webm",
            .name = "AV1 film",
            .kind = Format::Kind::film,
            .endings = {".webm"},
            .sound = true,
            .chapters = true,
            .sixteen = true,
            .quality = true,
            .side_multiple = 2,
            .least = {16, 16},
            .most_side = 16'384,
            .bytes = [](const Preset& p, const Amount& a) { return film_bytes(p, a, 0.05); },
            .writer = write<av1>};
}

}
