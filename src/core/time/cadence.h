#pragma once
#include "core/time/rate.h"

#include <cstdint>
#include <string>
#include <vector>

namespace frenlo {

/// What happens to the frames of one rate when they are delivered at another in the same clock time, frames repeated or
/// left out: the pattern that comes again and again.
struct Cadence
{
    std::int64_t paced = 1;     ///< frames of the pacing rate in one pattern
    std::int64_t delivered = 1; ///< frames of the delivery rate in the same time
    /// How many delivered frames each paced frame fills, 0 where it is left out; the first of the pattern where that is
    /// longer than most_shown.
    std::vector<int> pattern;

    static constexpr std::int64_t most_shown = 60;
    /// Each frame fills the same number of frames.
    [[nodiscard]] bool even() const { return delivered % paced == 0; }
    bool operator==(const Cadence&) const = default;
};

/// Boundaries are rounded as a schedule rounds them (schedule.h).
Cadence cadence(Rate paced_at, Rate delivered_at);

/// In words: "every frame twice", "one frame in 4 is repeated: 1 1 1 2", "one frame in 5 is left out", "the same
/// frames". Plain English; for the command line and for tests.
std::string cadence_text(const Cadence& cadence);

}
