#pragma once
// Private to export/: which settings give the best file below a size.
#include "core/export/export.h"

#include <functional>
#include <vector>

namespace frenlo {

/// Settings of a preset from the ones that were asked for down to the least that is worth writing, each giving a file
/// that is a little smaller than the one before: first quality or colours go, then the side, then more of them.
/// natural: the size of the pictures as the preset has them.
class Ladder
{
public:
    Ladder(const Preset& preset, cv::Size natural);
    [[nodiscard]] std::size_t size() const { return steps_.size(); }
    [[nodiscard]] const Preset& at(std::size_t step) const { return steps_.at(step); }

private:
    std::vector<Preset> steps_;
};

/// What a search asks for, both of a step.
struct SizesOfSteps
{
    std::function<std::uintmax_t(std::size_t)> written; ///< writes it and says its size
    /// About what would be written, in a fraction of the time: off by a share that is nearly the same for all. Empty:
    /// nothing can be said before it is written.
    std::function<double(std::size_t)> guessed{};
};

struct Tried
{
    std::size_t step = 0;
    std::uintmax_t bytes = 0;
};
struct Search
{
    std::vector<Tried> tried;     ///< were written; the chosen one last
    std::vector<Tried> guessed{}; ///< and what was only guessed, put right by what was written
    bool found = false;           ///< none is chosen where even the last is too large
};

/// The highest step of a ladder of so many whose file is not larger than limit, or one that is nearly as large as that.
/// Sizes fall from step to step but for a little. Asks for few of them.
Search best_below(std::size_t steps, std::uintmax_t limit, const SizesOfSteps& sizes);

}
