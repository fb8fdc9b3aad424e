// Loops as AV1 image sequences (AVIF 1.0, Alliance for Open Media): each picture lasts as long as its hold, to 1/1000
// s.
#include "core/export/format.h"

#include <algorithm>
#include <avif/avif.h>
#include <cmath>
#include <fstream>
#include <memory>

namespace frenlo {

namespace {

constexpr int thousand = 1000;

struct Free
{
    void operator()(avifEncoder* e) const { avifEncoderDestroy(e); }
    void operator()(avifImage* i) const { avifImageDestroy(i); }
};

class AvifLoop : public FrameSink
{
public:
    explicit AvifLoop(const Writing& w)
        : target_(w.file->target()), path_(w.file->path()), size_(w.size), alpha_(w.alpha),
          deep_(w.preset->depth == Depth::sixteen), quality_(w.preset->quality), encoder_(avifEncoderCreate())
    {
        if (!encoder_)
            fail(AVIF_RESULT_OUT_OF_MEMORY);
        // The library's quantizer goes from 63, the worst, to 0: a point of quality is about one of it.
        const int quantizer = std::clamp(int(std::lround((100 - quality_) * 63 / 60.0)), 0, 63);
        encoder_->minQuantizer = std::max(0, quantizer - 4);
        encoder_->maxQuantizer = std::min(63, quantizer + 4);
        encoder_->minQuantizerAlpha = encoder_->minQuantizer;
        encoder_->maxQuantizerAlpha = encoder_->maxQuantizer;
        encoder_->speed = 6; // half the time of 5 for some hundredths of the bytes
        encoder_->timescale = thousand;
        encoder_->maxThreads = std::max(1, w.threads);
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        job.check();
        if (waiting_)
            add(*waiting_, lasts_);
        waiting_ = image_of(picture.picture);
        lasts_ = end - begin;
    }

    void finish() override
    {
        if (waiting_ && added_ == 0 && lasts_ > 1) { // one alone would be a still, which lasts no time
            add(*waiting_, lasts_ / 2);
            lasts_ -= lasts_ / 2;
        }
        if (waiting_)
            add(*waiting_, lasts_);
        avifRWData data = AVIF_DATA_EMPTY;
        const avifResult made = avifEncoderFinish(encoder_.get(), &data);
        if (made == AVIF_RESULT_OK) {
            std::ofstream out(path_, std::ios::binary | std::ios::trunc);
            out.write(reinterpret_cast<const char*>(data.data), std::streamsize(data.size));
            out.close();
            avifRWDataFree(&data);
            if (!out)
                throw Failure(
                    {"the loop cannot be written", target_, "Make room on the disk or choose another folder"});
            return;
        }
        avifRWDataFree(&data);
        fail(made);
    }

private:
    using Image = std::unique_ptr<avifImage, Free>;

    /// 4:2:0, or 4:4:4 where quality is high, full range; sRGB's primaries and transfer (ITU-T H.273: 1, 13, 1).
    [[nodiscard]] Image image_of(const cv::Mat& m) const
    {
        constexpr int fine = 90;
        Image image(avifImageCreate(size_.width, size_.height, deep_ ? 10 : 8,
                                    quality_ >= fine ? AVIF_PIXEL_FORMAT_YUV444 : AVIF_PIXEL_FORMAT_YUV420));
        if (!image)
            fail(AVIF_RESULT_OUT_OF_MEMORY);
        image->yuvRange = AVIF_RANGE_FULL;
        image->colorPrimaries = AVIF_COLOR_PRIMARIES_BT709;
        image->transferCharacteristics = AVIF_TRANSFER_CHARACTERISTICS_SRGB;
        image->matrixCoefficients = AVIF_MATRIX_COEFFICIENTS_BT709;
        avifRGBImage rgb;
        avifRGBImageSetDefaults(&rgb, image.get());
        const bool four = m.channels() == 4;
        rgb.format = four ? AVIF_RGB_FORMAT_BGRA : AVIF_RGB_FORMAT_BGR;
        rgb.ignoreAlpha = four && alpha_ ? AVIF_FALSE : AVIF_TRUE;
        rgb.depth = m.depth() == CV_16U ? 16 : 8;
        rgb.pixels = m.data;
        rgb.rowBytes = std::uint32_t(m.step);
        if (const avifResult taken = avifImageRGBToYUV(image.get(), &rgb); taken != AVIF_RESULT_OK)
            fail(taken);
        return image;
    }

    void add(const avifImage& image, std::int64_t lasts)
    {
        const avifResult taken =
            avifEncoderAddImage(encoder_.get(), &image, std::uint64_t(lasts), AVIF_ADD_IMAGE_FLAG_NONE);
        if (taken != AVIF_RESULT_OK)
            fail(taken);
        ++added_;
    }

    [[noreturn]] void fail(avifResult why) const
    {
        throw Failure({std::string("the loop cannot be made (") + avifResultToString(why) + ")", target_,
                       "Choose a smaller size"});
    }

    std::filesystem::path target_, path_;
    cv::Size size_;
    bool alpha_, deep_;
    int quality_;
    std::unique_ptr<avifEncoder, Free> encoder_;
    Image waiting_; ///< until it is known whether it is the only one
    std::int64_t lasts_ = 0, added_ = 0;
};

}

Format avif_loop()
{
    return {.key = "avif",
            .name = "AVIF loop",
            .kind = Format::Kind::loop,
            .endings = {".avif"},
            .alpha = true,
            .sixteen = true,
            .quality = true,
            .clock = Rate(thousand),
            .merges_alike = true,
            .least_pictures = 2, // one alone would be a still
            .least = {16, 16},
            .most_side = 16'384,
            .bytes =
                [](const Preset& p, const Amount& a) {
                    return a.pixels * double(a.pictures) * 0.01 * std::exp2((p.quality - 75) / 12.0) + 2'000;
                },
            .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<AvifLoop>(w); }};
}

}
