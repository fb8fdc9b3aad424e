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

/// The highest step of the ladder whose file is not larger than limit: bytes(step) writes it and says its size, which
/// falls from step to step but for a little. Asks for few of them. All that were tried, the chosen one last; none is
/// chosen where even the last is too large.
struct Tried
{
    std::size_t step = 0;
    std::uintmax_t bytes = 0;
};
struct Search
{
    std::vector<Tried> tried;
    bool found = false;
};
Search best_below(std::size_t steps, std::uintmax_t limit, const std::function<std::uintmax_t(std::size_t)>& bytes);

}
