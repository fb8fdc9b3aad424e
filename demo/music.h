#pragma once
#include <filesystem>

namespace frenlo::demo {

/// What is heard at the harbour, made of tones: a slow tune of plucked strings over the water, 96 beats a minute, and a
/// gull. WAV files in the folder.
void write_tune(const std::filesystem::path& file);
void write_gull(const std::filesystem::path& file);

}
