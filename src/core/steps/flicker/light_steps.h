#pragma once
#include "core/steps/flicker/brightness.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// A change of the camera's settings: from which photo on, by how much by Exif, and by how much the pictures say it
/// was.
struct CameraStep
{
    std::size_t photo = 0;
    double set = 0;        ///< stops, exact thirds or halves
    double true_stops = 0; ///< what lens and shutter did
};

/// Where settings change. exposures: stops (exposure_steps.h), where they are known. Refined on the pictures: the ways
/// on from both sides meet in the middle of the step. x: seconds, ascending; y: brightness as shot, stops; one a photo
/// each.
std::vector<CameraStep> camera_steps(std::span<const double> x, std::span<const double> y,
                                     std::span<const std::optional<double>> exposures);

/// Photos from which on the light is another one: the courses before and behind, each by a line, miss each other by far
/// more than photos do among themselves, and most of it happens between two photos. Ascending.
std::vector<std::size_t> sudden_steps(std::span<const double> x, std::span<const double> y);

/// Whether what happened between two photos looks like a change of the camera's settings: so many thirds or halves of a
/// stop, the same in all of the picture.
bool looks_like_settings(const Brightness& before, const Brightness& after, double stops);

}
