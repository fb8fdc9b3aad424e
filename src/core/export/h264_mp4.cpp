#include "core/export/format.h"
#include "core/export/muxer.h"

#include <array>
#include <cmath>

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

/// Constant frame rate, 4:2:0, limited range, converted with and tagged as BT.709 (Rec. ITU-R BT.709-6).
class FilmSink : public FrameSink
{
public:
    explicit FilmSink(const Writing& w)
        : muxer_(*w.file, "mp4"), track_(muxer_.add_track("libx264")), to_video_(w.size), frame_(av_frame_alloc())
    {
        const cv::Size size = w.size;
        const Rate rate = w.rate;
        AVCodecContext& c = track_.context();
        c.width = size.width;
        c.height = size.height;
        c.pix_fmt = AV_PIX_FMT_YUV420P;
        c.framerate = rational(rate.value());
        c.time_base = av_inv_q(c.framerate);
        c.gop_size = 2 * rate.nominal(); // a player can jump to every second second
        c.thread_count = w.threads;
        c.color_range = AVCOL_RANGE_MPEG;
        c.colorspace = AVCOL_SPC_BT709;
        c.color_primaries = AVCOL_PRI_BT709;
        c.color_trc = AVCOL_TRC_BT709;
        c.chroma_sample_location = AVCHROMA_LOC_LEFT;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "preset", "medium", 0);
        av_dict_set_int(&options, "crf", crf_for_quality(w.preset->quality), 0);
        AVDictionary* mp4 = nullptr;
        av_dict_set(&mp4, "movflags", "+faststart", 0); // web pages start before all is loaded
        track_.open(&options);
        muxer_.begin(&mp4);
        av_dict_free(&options);
        av_dict_free(&mp4);

        if (!to_video_.ready())
            throw Failure({"the film's size cannot be converted", w.file->target(), "Choose another size"});
        frame_->format = AV_PIX_FMT_YUV420P;
        frame_->width = size.width;
        frame_->height = size.height;
        frame_->color_range = AVCOL_RANGE_MPEG;
        frame_->colorspace = AVCOL_SPC_BT709;
        check(av_frame_get_buffer(frame_.get(), 0), "there is too little memory for the film", w.file->target());
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        check(av_frame_make_writable(frame_.get()), "there is too little memory for the film", {});
        to_video_.convert(picture.picture, *frame_);
        for (FrameIndex f = begin; f < end; ++f) {
            job.check();
            frame_->pts = f.value;
            frame_->pict_type = AV_PICTURE_TYPE_NONE;
            track_.encode(*frame_);
        }
    }

    void finish() override { muxer_.finish(); }

private:
    libav::Muxer muxer_;
    libav::Track& track_;
    ToVideo to_video_;
    Owned<AVFrame> frame_;
};

}

Format h264_in_mp4()
{
    return {.key = "h264-mp4",
            .name = "film",
            .kind = Format::Kind::film,
            .endings = {".mp4"},
            .quality = true,
            .side_multiple = 2, // 4:2:0
            .most_side = 8192,  // H.264, level 6.2; what few players reach
            .bytes =
                [](const Preset& p, const Amount& a) { // held pictures cost next to nothing
                    return a.pixels * double(a.pictures) * 0.10 * std::exp2((18 - crf_for_quality(p.quality)) / 6.0) +
                           10'000;
                },
            .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<FilmSink>(w); }};
}

}
