#include "core/source/webp_animation.h"

#include "core/source/decoders.h"

#include <string>
#include <webp/demux.h>

namespace frenlo {

namespace {

class WebpAnimation : public MovingFile
{
public:
    WebpAnimation(std::string bytes, std::filesystem::path file) : file_(std::move(file)), bytes_(std::move(bytes))
    {
        start_over();
        WebPAnimInfo info;
        if (WebPAnimDecoderGetInfo(decoder_.get(), &info) == 0)
            fail();
        size_ = {int(info.canvas_width), int(info.canvas_height)};
        count_ = std::min<std::int64_t>(info.frame_count, most_pictures);
        if (auto too_large = size_problem(size_, file_))
            throw Failure(std::move(*too_large));
    }
    [[nodiscard]] cv::Size size() const override { return size_; }
    [[nodiscard]] bool alpha() const override { return (byte_at(bytes_, 20) & 0x10) != 0; } // RFC 9649, 2.7
    PictureTimes times() override;
    DecodedPhoto picture(const WhichPicture& which) override;
    DecodedPhoto following() override { return picture({next_}); }

private:
    struct Free
    {
        void operator()(WebPAnimDecoder* d) const { WebPAnimDecoderDelete(d); }
        void operator()(WebPDemuxer* d) const { WebPDemuxDelete(d); }
    };
    [[nodiscard]] WebPData data() const
    {
        return {reinterpret_cast<const std::uint8_t*>(bytes_.data()), bytes_.size()};
    }
    [[noreturn]] void fail() const
    {
        throw Failure({"the animation cannot be read (it is damaged or cut off)", file_,
                       "Copy it from the card again, or leave it out"});
    }
    void start_over()
    {
        WebPAnimDecoderOptions options;
        WebPAnimDecoderOptionsInit(&options);
        options.color_mode = MODE_BGRA;
        const WebPData all = data();
        decoder_.reset(WebPAnimDecoderNew(&all, &options));
        if (!decoder_)
            fail();
        next_ = 0;
    }

    std::filesystem::path file_;
    std::string bytes_;
    std::unique_ptr<WebPAnimDecoder, Free> decoder_;
    cv::Size size_;
    std::int64_t count_ = 0;
    std::int64_t next_ = 0;
};

PictureTimes WebpAnimation::times()
{
    const WebPData all = data();
    const std::unique_ptr<WebPDemuxer, Free> demux(WebPDemux(&all));
    if (!demux)
        fail();
    PictureTimes t;
    std::int64_t at = 0;
    WebPIterator frame;
    for (int more = WebPDemuxGetFrame(demux.get(), 1, &frame); more != 0 && t.count < count_;
         more = WebPDemuxNextFrame(&frame)) {
        t.begins.push_back({Fraction(at, 1000)});
        at += frame.duration;
        ++t.count;
    }
    WebPDemuxReleaseIterator(&frame);
    t.end = {Fraction(at, 1000)};
    if (t.count == 0)
        fail();
    return t;
}

DecodedPhoto WebpAnimation::picture(const WhichPicture& which)
{
    if (which.number < next_)
        start_over();
    std::uint8_t* pixels = nullptr;
    int until = 0; // ms
    for (; next_ <= which.number; ++next_)
        if (WebPAnimDecoderGetNext(decoder_.get(), &pixels, &until) == 0)
            fail();
    if (!pixels) // the one that was shown last: there is no way to ask for it again
        fail();
    DecodedPhoto photo{cv::Mat(size_, CV_8UC4, pixels).clone(), {}};
    photo.colours = SourceColours();
    return photo;
}

}

std::unique_ptr<MovingFile> open_webp_animation(const std::filesystem::path& file)
{
    return std::make_unique<WebpAnimation>(whole_file(file), file);
}

Result<DecodedPhoto> first_of_webp_animation(std::string_view bytes, const std::filesystem::path& file)
{
    try {
        return WebpAnimation(std::string(bytes), file).picture({});
    } catch (const Failure& failure) {
        return tl::unexpected(failure.problem());
    }
}

}
