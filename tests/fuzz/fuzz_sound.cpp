// A sound file of any bytes: read from its start, from its middle, before and behind it. Must give samples or a
// problem.
#include "core/base/problem.h"
#include "core/sound/sound_reader.h"

#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <fcntl.h>
#include <string>
#include <sys/mman.h>
#include <unistd.h>
#include <vector>

using namespace frenlo;

namespace {

/// A file in memory with a path, since FFmpeg is given files.
std::string memory_file(const std::uint8_t* data, std::size_t size)
{
    static const int fd = memfd_create("sound", 0);
    if (fd < 0 || ftruncate(fd, 0) != 0 || pwrite(fd, data, size, 0) != ssize_t(size))
        std::abort();
    return "/proc/self/fd/" + std::to_string(fd);
}

}

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    try {
        SoundReader reader(memory_file(data, size));
        std::vector<float> pairs(2 * 2'000);
        for (const std::int64_t at : {0, 24'000, 700, 100'000, -1'000}) {
            const std::int64_t there = reader.read(at, pairs);
            if (there < 0 || there > 2'000)
                std::abort();
        }
    } catch (const Failure&) { // what it is for
    }
    return 0;
}
