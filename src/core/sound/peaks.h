#pragma once
#include "core/base/job.h"

#include <array>
#include <cstdint>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

namespace frenlo {

/// What a waveform is drawn of: the lowest and the highest sample of both sides in each piece of time.
struct Peaks
{
    static constexpr int per_second = 200;
    std::vector<std::array<std::int8_t, 2>> pieces; ///< of 127
    std::int64_t samples = 0;                       ///< of the sound, counted
};

/// Reads all of the file, on all cores. shown: what there is by now, told from time to time from the thread that calls;
/// pieces not read yet are silent. Throws Failure, Stopped.
Peaks peaks_of(const std::filesystem::path& file, const Job& job, const std::function<void(const Peaks&)>& shown = {});

}
