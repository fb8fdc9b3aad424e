#pragma once
#include "core/base/job.h"
#include "core/project/sounds.h"

#include <functional>
#include <span>
#include <vector>

namespace frenlo {

/// Pairs (sound_reader.h) from a position on: a file's, a mix's.
using ReadSound = std::function<void(std::int64_t at, std::span<float> out)>;

/// As heard by ITU-R BS.1770-4 (libebur128).
struct Loudness
{
    double integrated = 0; ///< LUFS; -infinity for silence
    double true_peak = 0;  ///< dBTP; -infinity for silence
};

/// samples: from position 0. Throws Stopped.
Loudness loudness_of(const ReadSound& read, std::int64_t samples, const Job& job);

inline constexpr double most_true_peak = -1; ///< dBTP that no sound is brought above (EBU R 128, 2020)

/// What brings a sound to a loudness: a gain, and, where peaks would go above most_true_peak, a limiter. It looks
/// ahead, so a sample depends on those around it alone, and any part can be made by itself.
class Mastering
{
public:
    Mastering() = default; ///< leaves it as it is, but for what is above full scale

    /// Measures first. lufs: that it should have; silence stays silent. Throws Stopped.
    static Mastering to_loudness(const ReadSound& read, std::int64_t samples, double lufs, const Job& job);

    [[nodiscard]] double gain_db() const { return gain_db_; }
    [[nodiscard]] bool limits() const { return ceiling_ < no_ceiling; }
    void read(const ReadSound& source, std::int64_t at, std::span<float> out) const;

private:
    static constexpr float no_ceiling = 1e9F;
    double gain_db_ = 0;
    float ceiling_ = no_ceiling; ///< of samples, after the gain
};

}
