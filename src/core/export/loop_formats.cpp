// Loops with every colour: animated PNG and WebP. Each picture lasts as long as its hold, to 1/1000 s.
#include "core/export/film_sink.h"

#include <opencv2/imgproc.hpp>

#include <fstream>
#include <webp/encode.h>
#include <webp/mux.h>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

constexpr int thousand = 1000;

/// W3C PNG, third edition: 8 or 16 bit, alpha.
class PngLoop : public FrameSink
{
public:
    explicit PngLoop(const Writing& w)
        : target_(w.file->target()), muxer_(*w.file, "apng"), track_(muxer_.add_track("apng")),
          deep_(w.preset->depth == Depth::sixteen), alpha_(w.alpha), frame_(av_frame_alloc())
    {
        AVCodecContext& c = track_.context();
        c.width = w.size.width;
        c.height = w.size.height;
        c.pix_fmt = pixels();
        c.time_base = {1, thousand};
        c.thread_count = w.threads;
        AVDictionary *encoder = nullptr, *muxer = nullptr;
        av_dict_set(&encoder, "pred", "mixed", 0);
        av_dict_set_int(&muxer, "plays", 0, 0); // for ever
        if (!w.runs.empty()) {
            const auto last = w.runs.back().end - w.runs.back().begin;
            const std::string delay = std::to_string(last) + "/" + std::to_string(thousand);
            av_dict_set(&muxer, "final_delay", delay.c_str(), 0);
        }
        track_.open(&encoder);
        muxer_.begin(&muxer);
        av_dict_free(&encoder);
        av_dict_free(&muxer);
        frame_->format = c.pix_fmt;
        frame_->width = c.width;
        frame_->height = c.height;
        check(av_frame_get_buffer(frame_.get(), 0), "there is too little memory for the loop", target_);
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex, const Job& job) override
    {
        job.check();
        check(av_frame_make_writable(frame_.get()), "there is too little memory for the loop", target_);
        cv::Mat to(picture.picture.size(), CV_MAKETYPE(deep_ ? CV_16U : CV_8U, alpha_ ? 4 : 3), frame_->data[0],
                   std::size_t(frame_->linesize[0]));
        cv::Mat from = picture.picture;
        const bool has = from.channels() == 4;
        cv::cvtColor(from, to,
                     has ? (alpha_ ? cv::COLOR_BGRA2RGBA : cv::COLOR_BGRA2RGB)
                         : (alpha_ ? cv::COLOR_BGR2RGBA : cv::COLOR_BGR2RGB));
        if (deep_) // PNG's numbers begin with the larger half
            for (int y = 0; y < to.rows; ++y) {
                auto* p = to.ptr<std::uint16_t>(y);
                for (int i = 0; i < to.cols * to.channels(); ++i)
                    p[i] = std::uint16_t(p[i] << 8U | p[i] >> 8U);
            }
        frame_->pts = begin.value;
        track_.encode(*frame_);
    }

    void finish() override { muxer_.finish(); }

private:
    [[nodiscard]] AVPixelFormat pixels() const
    {
        return deep_    ? (alpha_ ? AV_PIX_FMT_RGBA64BE : AV_PIX_FMT_RGB48BE)
               : alpha_ ? AV_PIX_FMT_RGBA
                        : AV_PIX_FMT_RGB24;
    }

    std::filesystem::path target_;
    libav::Muxer muxer_;
    libav::Track& track_;
    bool deep_, alpha_;
    Owned<AVFrame> frame_;
};

/// RFC 9649, by its own library.
class WebpLoop : public FrameSink
{
public:
    WebpLoop(const Writing& w, bool lossless)
        : target_(w.file->target()), path_(w.file->path()), size_(w.size), alpha_(w.alpha)
    {
        WebPAnimEncoderOptions options;
        WebPAnimEncoderOptionsInit(&options);
        options.anim_params.loop_count = 0; // for ever
        encoder_.reset(WebPAnimEncoderNew(size_.width, size_.height, &options));
        if (!encoder_ || WebPConfigInit(&config_) == 0)
            fail("the WebP library does not start");
        config_.lossless = lossless ? 1 : 0;
        config_.quality = lossless ? 60 : float(w.preset->quality);
        config_.method = lossless ? 3 : 4;
        config_.exact = lossless ? 1 : 0; // what lies under wholly transparent pixels stays, too
        config_.thread_level = 1;
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        job.check();
        WebPPicture p;
        if (WebPPictureInit(&p) == 0)
            fail("the WebP library does not start");
        const Picture owner{&p};
        p.use_argb = 1;
        p.width = size_.width;
        p.height = size_.height;
        const cv::Mat& m = picture.picture;
        const bool has_alpha = m.channels() == 4 && alpha_;
        const int taken = has_alpha           ? WebPPictureImportBGRA(&p, m.data, int(m.step))
                          : m.channels() == 4 ? WebPPictureImportBGRX(&p, m.data, int(m.step))
                                              : WebPPictureImportBGR(&p, m.data, int(m.step));
        if (taken == 0 || WebPAnimEncoderAdd(encoder_.get(), &p, int(begin.value), &config_) == 0)
            fail(WebPAnimEncoderGetError(encoder_.get()));
        end_ = end;
    }

    void finish() override
    {
        if (WebPAnimEncoderAdd(encoder_.get(), nullptr, int(end_.value), nullptr) == 0)
            fail(WebPAnimEncoderGetError(encoder_.get()));
        WebPData data;
        WebPDataInit(&data);
        const bool made = WebPAnimEncoderAssemble(encoder_.get(), &data) != 0;
        if (made) {
            std::ofstream out(path_, std::ios::binary | std::ios::trunc);
            out.write(reinterpret_cast<const char*>(data.bytes), std::streamsize(data.size));
            out.close();
            WebPDataClear(&data);
            if (!out)
                throw Failure(
                    {"the loop cannot be written", target_, "Make room on the disk or choose another folder"});
            return;
        }
        WebPDataClear(&data);
        fail(WebPAnimEncoderGetError(encoder_.get()));
    }

private:
    struct Picture
    {
        WebPPicture* p;
        ~Picture() { WebPPictureFree(p); }
    };
    struct Free
    {
        void operator()(WebPAnimEncoder* e) const { WebPAnimEncoderDelete(e); }
    };
    [[noreturn]] void fail(const char* why) const
    {
        throw Failure({std::string("the loop cannot be made (") + (why && *why ? why : "too little memory") + ")",
                       target_, "Choose a smaller size"});
    }

    std::filesystem::path target_, path_;
    cv::Size size_;
    bool alpha_;
    std::unique_ptr<WebPAnimEncoder, Free> encoder_;
    WebPConfig config_{};
    FrameIndex end_{0};
};

}

Format png_loop()
{
    return {.key = "apng",
            .name = "PNG loop",
            .kind = Format::Kind::loop,
            .endings = {".apng"},
            .alpha = true,
            .sixteen = true,
            .clock = Rate(thousand),
            .bytes =
                [](const Preset& p, const Amount& a) {
                    return a.pixels * double(a.pictures) * (p.depth == Depth::sixteen ? 4.5 : 1.6);
                },
            .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<PngLoop>(w); }};
}

Format webp_loop()
{
    return {
        .key = "webp",
        .name = "WebP loop",
        .kind = Format::Kind::loop,
        .endings = {".webp"},
        .alpha = true,
        .quality = true,
        .clock = Rate(thousand),
        .merges_alike = true,
        .most_side = 16'383,
        .bytes =
            [](const Preset& p, const Amount& a) {
                return a.pixels * double(a.pictures) * 0.12 * std::exp2((p.quality - 75) / 12.0);
            },
        .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<WebpLoop>(w, false); }};
}

Format webp_loop_lossless()
{
    Format f = webp_loop();
    f.key = "webp-lossless";
    f.name = "lossless WebP loop";
    f.quality = false;
    f.bytes = [](const Preset&, const Amount& a) { return a.pixels * double(a.pictures) * 1.2; };
    f.writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<WebpLoop>(w, true); };
    return f;
}

}
