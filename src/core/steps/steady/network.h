#pragma once
#include "core/steps/steady/registration.h"

#include <span>
#include <vector>

namespace frenlo {

/// What was measured between two photos, by their position in the shot's film.
struct Measured
{
    std::size_t from = 0;
    std::size_t to = 0;
    Transform transform = Transform::eye(); ///< of points of from to points of to
    double weight = 1;                      ///< how much it is trusted
};

struct Solved
{
    std::vector<Transform> from_reference; ///< one a photo
    std::vector<double>
        disagreement_px;         ///< of each photo: how far its links miss the solution, weighted; 0 without links
    std::vector<bool> connected; ///< whether links lead from the reference to the photo
};

/// The transforms that agree best with all links at once: least squares over the network, links that contradict the
/// others lose their weight. Photos that no link leads to take the transform of the nearest that one leads to. size: of
/// the photos. movement: what the result is limited to.
Solved solve_network(std::size_t photos, std::size_t reference, std::span<const Measured> links, Movement movement,
                     cv::Size size);

}
