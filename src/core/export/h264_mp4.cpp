#include "core/export/frame_sink.h"
#include "core/export/muxed_encoder.h"

#include <array>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

AVRational rational(Fraction f)
{
    return {static_cast<int>(f.num()), static_cast<int>(f.den())};
}

/// sRGB to limited-range Y'CbCr of BT.709. Its transfer function differs from sRGB's; as everywhere in the trade, code
/// values are kept and tagged BT.709, so that players show the colours of the photos.
class ToVideo
{
public:
    explicit ToVideo(cv::Size size)
        : scaler_(sws_getContext(size.width, size.height, AV_PIX_FMT_BGR24, size.width, size.height, AV_PIX_FMT_YUV420P,
                                 SWS_BICUBIC | SWS_ACCURATE_RND | SWS_FULL_CHR_H_INP, nullptr, nullptr, nullptr))
    {
        constexpr int full = 1, limited = 0, neutral = 1 << 16;
        if (scaler_)
            sws_setColorspaceDetails(scaler_.get(), sws_getCoefficients(SWS_CS_DEFAULT), full,
                                     sws_getCoefficients(SWS_CS_ITU709), limited, 0, neutral, neutral);
    }

    void convert(const cv::Mat& bgr, AVFrame& frame) const
    {
        const std::array<const std::uint8_t*, 1> data{bgr.data};
        const std::array<int, 1> stride{static_cast<int>(bgr.step)};
        sws_scale(scaler_.get(), data.data(), stride.data(), 0, bgr.rows, frame.data, frame.linesize);
    }

    [[nodiscard]] bool ready() const { return scaler_ != nullptr; }

private:
    Owned<SwsContext> scaler_;
};

class FilmSink : public FrameSink
{
public:
    FilmSink(const AtomicFile& file, cv::Size size, Rate rate, int quality, int threads)
        : encoder_(file, "mp4", "libx264"), to_video_(size), frame_(av_frame_alloc())
    {
        AVCodecContext& c = encoder_.context();
        c.width = size.width;
        c.height = size.height;
        c.pix_fmt = AV_PIX_FMT_YUV420P;
        c.framerate = rational(rate.value());
        c.time_base = av_inv_q(c.framerate);
        c.gop_size = 2 * rate.nominal(); // a player can jump to every second second
        c.thread_count = threads;
        c.color_range = AVCOL_RANGE_MPEG;
        c.colorspace = AVCOL_SPC_BT709;
        c.color_primaries = AVCOL_PRI_BT709;
        c.color_trc = AVCOL_TRC_BT709;
        c.chroma_sample_location = AVCHROMA_LOC_LEFT;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "preset", "medium", 0);
        av_dict_set_int(&options, "crf", crf_for_quality(quality), 0);
        AVDictionary* mp4 = nullptr;
        av_dict_set(&mp4, "movflags", "+faststart", 0); // web pages start before all is loaded
        encoder_.open(&options, &mp4);
        av_dict_free(&options);
        av_dict_free(&mp4);

        if (!to_video_.ready())
            throw Failure({"the film's size cannot be converted", file.target(), "Choose another size"});
        frame_->format = AV_PIX_FMT_YUV420P;
        frame_->width = size.width;
        frame_->height = size.height;
        frame_->color_range = AVCOL_RANGE_MPEG;
        frame_->colorspace = AVCOL_SPC_BT709;
        check(av_frame_get_buffer(frame_.get(), 0), "there is too little memory for the film", file.target());
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        check(av_frame_make_writable(frame_.get()), "there is too little memory for the film", {});
        to_video_.convert(picture.picture, *frame_);
        for (FrameIndex f = begin; f < end; ++f) {
            job.check();
            frame_->pts = f.value;
            frame_->pict_type = AV_PICTURE_TYPE_NONE;
            encoder_.encode(*frame_);
        }
    }

    void finish() override { encoder_.finish(); }

private:
    libav::MuxedEncoder encoder_;
    ToVideo to_video_;
    Owned<AVFrame> frame_;
};

}

std::unique_ptr<FrameSink> film_sink(const AtomicFile& file, cv::Size size, Rate rate, int quality, int threads)
{
    return std::make_unique<FilmSink>(file, size, rate, quality, threads);
}

}
