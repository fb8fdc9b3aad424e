#include "core/export/frame_sink.h"
#include "core/source/decode.h"

#include <cerrno>
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
    StillsSink(std::filesystem::path folder, StillNames names, const Preset& preset)
        : folder_(std::move(folder)), names_(std::move(names)), preset_(preset)
    {
    }

    [[nodiscard]] PreparedPicture prepare(cv::Mat picture) const override
    {
        constexpr int effort = 4; // zlib: half the time of its usual 6 for 2% more bytes
        std::string bytes = preset_.format == MediaFormat::stills_png
                                ? encode_png(picture, effort)
                                : encode_jpeg(picture, preset_.quality, preset_.quality >= 90);
        return {{}, std::move(bytes)};
    }

    void write(const PreparedPicture& picture, FrameIndex begin, FrameIndex end, const Job& job) override
    {
        for (FrameIndex f = begin; f < end; ++f) {
            job.check();
            write_bytes(folder_ / names_.name(f.value + 1), picture.bytes);
        }
    }

    void finish() override {}

private:
    std::filesystem::path folder_;
    StillNames names_;
    Preset preset_;
};

}

std::unique_ptr<FrameSink> stills_sink(const std::filesystem::path& folder, StillNames names, const Preset& preset)
{
    return std::make_unique<StillsSink>(folder, std::move(names), preset);
}

}
