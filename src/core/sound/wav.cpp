#include "core/sound/wav.h"

#include "core/base/atomic_file.h"
#include "core/base/problem.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <fstream>
#include <string>

namespace frenlo {

void write_new_wav(const std::filesystem::path& file, std::span<const float> samples, int rate)
{
    std::string bytes;
    bytes.reserve(44 + samples.size() * 2);
    const auto number = [&](std::uint32_t n, unsigned size) {
        for (unsigned i = 0; i < size; ++i)
            bytes += static_cast<char>((n >> (8 * i)) & 255U);
    };
    const auto data = std::uint32_t(samples.size() * 2);
    bytes += "RIFF";
    number(36 + data, 4);
    bytes += "WAVEfmt ";
    number(16, 4);
    number(1, 2); // PCM
    number(1, 2); // one channel
    number(std::uint32_t(rate), 4);
    number(std::uint32_t(rate) * 2, 4);
    number(2, 2);
    number(16, 2);
    bytes += "data";
    number(data, 4);
    constexpr float most = 32'767;
    for (const float v : samples)
        number(std::uint16_t(std::int16_t(std::lround(std::clamp(v, -1.0F, 1.0F) * most))), 2);
    AtomicFile target(file);
    std::ofstream out(target.path(), std::ios::binary);
    out.write(bytes.data(), std::streamsize(bytes.size()));
    out.close();
    if (!out)
        throw Failure({"the recording cannot be written", file, "Make room on the disk or choose another folder"});
    target.commit_new();
}

}
