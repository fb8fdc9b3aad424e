#pragma once
#include "core/base/job.h"
#include "core/time/rate.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <span>

namespace frenlo {

// Sound everywhere is 48,000 samples a second of left and right, floats, full scale ±1, side by side in memory: L R L
// R. A position counts samples of a side from the start of what is spoken of.

inline constexpr int sound_rate = 48'000;
inline constexpr int sound_sides = 2;

inline std::int64_t sample_at(Seconds time)
{
    return (time.value * Fraction(sound_rate)).rounded();
}

/// How a file's rate becomes ours.
enum class Resampling
{
    fine,
    quick ///< for looking at: what lies above 16 kHz is not kept clean
};

/// The sound of a file: WAV, FLAC, MP3, Ogg, Opus, AAC, or that of a video, whatever its rate and its channels; found
/// at any place to the sample, where the file says places that exactly, and else by counting from its start. One thread
/// at a time.
class SoundReader
{
public:
    /// Throws Failure where there is no sound in it.
    explicit SoundReader(const std::filesystem::path& file, Resampling resampling = Resampling::fine);
    ~SoundReader();
    SoundReader(SoundReader&&) noexcept;
    SoundReader& operator=(SoundReader&&) noexcept;

    /// From this position on; silence before the start and behind the end. out: pairs. What is damaged in the middle is
    /// silence, too. Quick where it goes on from where the last call ended. How many pairs from at on there are: fewer
    /// than asked for at the end.
    std::int64_t read(std::int64_t at, std::span<float> out);

    /// As the container has it, which may be wrong where it was cut off; 0 where it says none.
    [[nodiscard]] Seconds stated_length() const;
    /// Reads to the end and counts. Throws Stopped.
    Seconds counted_length(const Job& job);

private:
    class Decoding;
    std::unique_ptr<Decoding> decoding_;
};

}
