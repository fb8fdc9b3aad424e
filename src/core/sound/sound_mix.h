#pragma once
#include "core/base/job.h"
#include "core/base/problem.h"
#include "core/project/sounds.h"
#include "core/sound/sound_reader.h"

#include <memory>
#include <span>
#include <vector>

namespace frenlo {

/// All sounds of a soundtrack together, at any place, as pairs (sound_reader.h). Files that cannot be read are silent,
/// and told. One thread at a time.
class SoundMix
{
public:
    explicit SoundMix(const Soundtrack& track);
    ~SoundMix();
    SoundMix(SoundMix&&) noexcept;
    SoundMix& operator=(SoundMix&&) noexcept;

    /// From this position of the Reel on. A sound whose tempo is changed is worked out whole at its first read; that
    /// asks the job. Throws Stopped.
    void read(std::int64_t at, std::span<float> out, const Job& job = {});
    /// What was found while it was read.
    [[nodiscard]] const std::vector<Problem>& problems() const { return problems_; }

private:
    class Voice;
    std::vector<std::unique_ptr<Voice>> voices_;
    std::vector<Problem> problems_;
};

/// How long all of it is heard: to the end of the last sound that is not muted.
Seconds sound_length(const Soundtrack& track);

/// Pairs at another tempo with the same pitch (Rubber Band). tempo: 1/4 to 4 times as fast; as many pairs come out as
/// the length is, rounded.
std::vector<float> at_tempo(std::span<const float> pairs, Fraction tempo, const Job& job);

}
