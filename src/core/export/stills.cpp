#include "core/export/deep_stills.h"
#include "core/export/format.h"
#include "core/export/still_profile.h"
#include "core/source/decode.h"

#include <cerrno>
#include <cmath>
#include <cstring>
#include <fcntl.h>
#include <unistd.h>

namespace frenlo {

namespace {

/// With the system's own calls: what fails is told at the file that it fails at.
void write_bytes(const std::filesystem::path& file, std::string_view bytes)
{
    const int fd = ::open(file.c_str(), O_CREAT | O_TRUNC | O_WRONLY | O_CLOEXEC, 0666);
    int error = fd < 0 ? errno : 0;
    while (error == 0 && !bytes.empty()) {
        const ssize_t n = ::write(fd, bytes.data(), bytes.size());
        if (n >= 0)
            bytes.remove_prefix(std::size_t(n));
        else if (errno != EINTR)
            error = errno;
    }
    if (fd >= 0 && ::close(fd) != 0 && error == 0)
        error = errno;
    if (error != 0)
        throw Failure({std::string("the still cannot be written (") + std::strerror(error) + ")", file,
                       "Make room on the disk or choose another folder"});
}

class StillsSink : public FrameSink
{
public:
    using Encode = std::string (*)(const cv::Mat& picture, const Preset& preset);

    StillsSink(const Writing& w, Encode encode)
        : folder_(w.folder), names_(w.names.value()), first_(w.first_number), preset_(*w.preset), encode_(encode)
    {
    }

    [[nodiscard]] PreparedPicture prepare(cv::Mat picture) const override { return {{}, encode_(picture, preset_)}; }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        for (FrameIndex f = begin; f < end; ++f) {
            job.check();
            write_bytes(folder_ / names_.name(f.value + first_), picture.bytes);
        }
    }

    void finish() override {}

private:
    std::filesystem::path folder_;
    StillNames names_;
    std::int64_t first_;
    Preset preset_;
    Encode encode_;
};

std::string as_png(const cv::Mat& picture, const Preset&)
{
    constexpr int effort = 4; // zlib: half the time of its usual 6 for 2% more bytes
    return png_with_profile(encode_png(picture, effort));
}

std::string as_jpeg(const cv::Mat& picture, const Preset& preset)
{
    return jpeg_with_profile(encode_jpeg(picture, preset.quality, preset.quality >= 90));
}

std::string as_tiff(const cv::Mat& picture, const Preset&)
{
    return encode_tiff(picture);
}

std::string as_exr(const cv::Mat& picture, const Preset&)
{
    return encode_exr(picture);
}

}

Format tiff_stills()
{
    return {
        .key = "tiff",
        .name = "TIFF",
        .kind = Format::Kind::stills,
        .endings = {".tif", ".tiff"},
        .alpha = true,
        .sixteen = true,
        .bytes = [](const Preset& p,
                    const Amount& a) { return a.pixels * double(a.frames) * (p.depth == Depth::sixteen ? 5 : 2.2); },
        .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> {
            return std::make_unique<StillsSink>(w, as_tiff);
        }};
}

Format exr_stills()
{
    return {.key = "exr",
            .name = "OpenEXR",
            .kind = Format::Kind::stills,
            .endings = {".exr"},
            .alpha = true,
            .sixteen = true,
            .bytes = [](const Preset&, const Amount& a) { return a.pixels * double(a.frames) * 4; },
            .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> {
                return std::make_unique<StillsSink>(w, as_exr);
            }};
}

Format png_stills()
{
    return {
        .key = "png",
        .name = "PNG",
        .kind = Format::Kind::stills,
        .endings = {".png"},
        .alpha = true,
        .sixteen = true,
        .bytes = [](const Preset& p,
                    const Amount& a) { return a.pixels * double(a.frames) * (p.depth == Depth::sixteen ? 4.5 : 1.8); },
        .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> {
            return std::make_unique<StillsSink>(w, as_png);
        }};
}

Format jpeg_stills()
{
    return {
        .key = "jpeg",
        .name = "JPEG",
        .kind = Format::Kind::stills,
        .endings = {".jpg", ".jpeg"},
        .quality = true,
        .bytes = [](const Preset& p,
                    const Amount& a) { return a.pixels * double(a.frames) * 0.2 * std::exp2((p.quality - 80) / 10.0); },
        .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> {
            return std::make_unique<StillsSink>(w, as_jpeg);
        }};
}

}
