#pragma once
#include "core/steps/retouch/lasting.h"

#include <opencv2/core.hpp>

#include <vector>

namespace frenlo {

/// A spot of one brightness that is in photo after photo.
struct Speck
{
    cv::Point2d at{};
    double radius = 0;   ///< pixels
    double strength = 0; ///< stops that it is darker than its surround
    double sure = 0;     ///< standard deviations that it lies beyond chance
};

/// What is looked for.
struct SpeckSearch
{
    double smallest = 3, largest = 30; ///< diameters, pixels
    double least_sure = 5.3;           ///< what is lighter than its surround must be surer
    double most_of_one = 3;            ///< standard deviations that one photo counts at most
};

/// Round blobs that are in photo after photo: at each size the response of the Laplacian of Gaussians (Lindeberg 1998)
/// of each photo, weighed by how much there is round it in that photo (inverse variances: where a photo shows plain
/// sky it tells much, where it shows leaves little), added up. The strongest first, none over another.
std::vector<Speck> specks_in(const Differences& differences, const SpeckSearch& search, const Job& job);

}
