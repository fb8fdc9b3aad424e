#pragma once
// What looking at photos says: which fill the frame with something else, where another scene begins, whether the
// viewpoint travels. Everything is judged against how much neighbours differ there anyway.
#include "core/steps/sort/find_shots.h"

#include <span>
#include <vector>

namespace frenlo {

/// Photos [begin, end), counted among the usable ones, that look drastically different from those before and after.
struct OddRun
{
    std::size_t begin = 0;
    std::size_t end = 0;
    std::vector<std::size_t>
        marker_cards{};     ///< those of them in which one thing fills the frame: a hand, a slate, a cloth
    bool separates = false; ///< a shot ends there; else it is an accident inside a shot
};

/// usable: positions of the photos that can be read, in order.
std::vector<OddRun> odd_runs(std::span<const Candidate> photos, const std::vector<std::size_t>& usable);

/// Whether hardly anything stays in its place over a shot while neighbours show the same things.
bool viewpoint_travels(std::span<const Candidate> photos);

}
