#include "core/export/film_sink.h"

#include "core/export/sound_track.h"

extern "C" {
#include <libavutil/pixdesc.h>
}

#include <array>
#include <optional>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

AVRational rational(Fraction f)
{
    return {static_cast<int>(f.num()), static_cast<int>(f.den())};
}

bool is_rgb(AVPixelFormat f)
{
    return (av_pix_fmt_desc_get(f)->flags & AV_PIX_FMT_FLAG_RGB) != 0;
}

AVPixelFormat format_of_pixels(const cv::Mat& m)
{
    const bool deep = m.depth() == CV_16U, alpha = m.channels() == 4;
    return deep ? (alpha ? AV_PIX_FMT_BGRA64LE : AV_PIX_FMT_BGR48LE) : alpha ? AV_PIX_FMT_BGRA : AV_PIX_FMT_BGR24;
}

/// Pixels as render() gives them, into those of the encoder.
class Conversion
{
public:
    Conversion(cv::Size size, AVPixelFormat to, const FilmCodec& codec)
        : size_(size), to_(to), full_range_(codec.full_range), matrix_(codec.matrix)
    {
    }

    bool run(const cv::Mat& pixels, AVFrame& frame)
    {
        const AVPixelFormat from = format_of_pixels(pixels);
        if (!scaler_ || from != from_) {
            from_ = from;
            scaler_.reset(sws_getContext(size_.width, size_.height, from, size_.width, size_.height, to_,
                                         SWS_BICUBIC | SWS_ACCURATE_RND | SWS_FULL_CHR_H_INP, nullptr, nullptr,
                                         nullptr));
            if (!scaler_)
                return false;
            constexpr int full = 1, neutral = 1 << 16;
            sws_setColorspaceDetails(scaler_.get(), sws_getCoefficients(SWS_CS_DEFAULT), full,
                                     sws_getCoefficients(matrix_), full_range_ || is_rgb(to_) ? 1 : 0, 0, neutral,
                                     neutral);
        }
        const std::array<const std::uint8_t*, 4> data{pixels.data};
        const std::array<int, 4> stride{static_cast<int>(pixels.step)};
        return sws_scale(scaler_.get(), data.data(), stride.data(), 0, pixels.rows, frame.data, frame.linesize) ==
               pixels.rows;
    }

private:
    cv::Size size_;
    AVPixelFormat to_, from_ = AV_PIX_FMT_NONE;
    bool full_range_;
    int matrix_; ///< ITU-T H.273 and the library count alike
    Owned<SwsContext> scaler_;
};

AVPixelFormat pixels_for(const FilmCodec& codec, const Writing& w)
{
    const bool deep = w.preset->depth == Depth::sixteen && codec.deep != AV_PIX_FMT_NONE;
    if (w.alpha && deep && codec.deep_with_alpha != AV_PIX_FMT_NONE)
        return codec.deep_with_alpha;
    if (w.alpha && codec.with_alpha != AV_PIX_FMT_NONE)
        return codec.with_alpha;
    return deep ? codec.deep : codec.pixels;
}

class FilmSink : public FrameSink
{
public:
    FilmSink(const Writing& w, const FilmCodec& codec)
        : target_(w.file->target()), rate_(w.rate), muxer_(*w.file, codec.muxer),
          track_(muxer_.add_track(codec.encoder)), pixels_(pixels_for(codec, w)), conversion_(w.size, pixels_, codec),
          frame_(av_frame_alloc())
    {
        AVCodecContext& c = track_.context();
        c.width = w.size.width;
        c.height = w.size.height;
        c.pix_fmt = pixels_;
        c.framerate = rational(w.rate.value());
        c.time_base = av_inv_q(c.framerate);
        c.gop_size = 2 * w.rate.nominal(); // a player can jump to every second second
        c.thread_count = w.threads;
        const bool rgb = is_rgb(pixels_), full = rgb || codec.full_range;
        c.color_range = full ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
        c.colorspace = rgb ? AVCOL_SPC_RGB : codec.matrix;
        c.color_primaries = AVCOL_PRI_BT709;
        c.color_trc = AVCOL_TRC_BT709;
        if (av_pix_fmt_desc_get(pixels_)->log2_chroma_w > 0)
            c.chroma_sample_location = AVCHROMA_LOC_LEFT;
        AVDictionary *encoder = nullptr, *muxer = nullptr;
        if (codec.set_up)
            codec.set_up(*w.preset, w.alpha, c, &encoder, &muxer);
        track_.open(&encoder);
        if (w.alpha && codec.with_alpha == AV_PIX_FMT_YUVA420P)
            track_.say("alpha_mode", "1"); // of WebM
        if (w.sound && codec.sound)
            sound_.emplace(muxer_, codec.sound, *w.sound, target_);
        for (std::size_t i = 0; i < w.chapters.size(); ++i) {
            const Seconds end =
                i + 1 < w.chapters.size() ? w.chapters[i + 1].at : length_of(w.runs.back().end.value, w.rate);
            muxer_.add_chapter(w.chapters[i].at, end, w.chapters[i].title);
        }
        muxer_.begin(&muxer);
        av_dict_free(&encoder);
        av_dict_free(&muxer);
        frame_->format = pixels_;
        frame_->width = w.size.width;
        frame_->height = w.size.height;
        frame_->color_range = c.color_range;
        frame_->colorspace = c.colorspace;
        frame_->color_primaries = c.color_primaries;
        frame_->color_trc = c.color_trc;
        check(av_frame_get_buffer(frame_.get(), 0), "there is too little memory for the film", target_);
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        check(av_frame_make_writable(frame_.get()), "there is too little memory for the film", {});
        if (!conversion_.run(picture.picture, *frame_))
            throw Failure({"the film's pictures cannot be converted", target_, "Choose another size or format"});
        for (FrameIndex f = begin; f < end; ++f) {
            job.check();
            frame_->pts = f.value;
            frame_->pict_type = AV_PICTURE_TYPE_NONE;
            track_.encode(*frame_);
            if (sound_)
                sound_->write_until(length_of(f.value + 1, rate_));
        }
    }

    void finish() override { muxer_.finish(); }

private:
    std::filesystem::path target_;
    Rate rate_;
    libav::Muxer muxer_;
    libav::Track& track_;
    AVPixelFormat pixels_;
    Conversion conversion_;
    Owned<AVFrame> frame_;
    std::optional<SoundTrack> sound_;
};

}

std::unique_ptr<FrameSink> film_sink(const Writing& writing, const FilmCodec& codec)
{
    return std::make_unique<FilmSink>(writing, codec);
}

}
