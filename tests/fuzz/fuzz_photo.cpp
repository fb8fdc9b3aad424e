// A photo of any bytes: decoded small and whole, its Exif read. Must give a picture or a problem.
#include "core/source/decode.h"
#include "core/source/decode_raw.h"
#include "core/source/metadata.h"

#include <cstdint>
#include <cstdlib>
#include <fcntl.h>
#include <string>
#include <sys/mman.h>
#include <unistd.h>

using namespace frenlo;

namespace {

/// A file in memory with a path, since Exiv2 is given files.
std::string memory_file(const std::uint8_t* data, std::size_t size)
{
    static const int fd = memfd_create("photo", 0);
    if (fd < 0 || ftruncate(fd, 0) != 0 || pwrite(fd, data, size, 0) != ssize_t(size))
        std::abort();
    return "/proc/self/fd/" + std::to_string(fd);
}

/// Larger pictures are refused or only take long: neither is what is looked for.
bool small_enough(const std::string& file)
{
    const auto m = read_metadata(file);
    return !m || std::int64_t(m->stored_size.width) * m->stored_size.height < 1 << 22;
}

}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    const std::string file = memory_file(data, size);
    (void)camera_thumbnail_bytes(file);
    int turned = 1;
    (void)raw_preview(file, turned);
    if (!small_enough(file))
        return 0;
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const int orientation = size > 0 ? data[size - 1] % 8 + 1 : 1;
    for (const cv::Size at_least : {cv::Size(), cv::Size(16, 16)})
        if (const auto decoded = decode_bytes(bytes, orientation, at_least, file))
            if (decoded->pixels.empty())
                std::abort();
    return 0;
}
