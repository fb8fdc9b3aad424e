#pragma once
#include <filesystem>
#include <span>

namespace frenlo {

/// One side of sound as RIFF WAVE, PCM of 16 bit (Microsoft and IBM, Multimedia Programming Interface, 1991). A file
/// that has the name stays and is a Failure.
void write_new_wav(const std::filesystem::path& file, std::span<const float> samples, int rate);

}
