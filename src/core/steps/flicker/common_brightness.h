#pragma once
#include "core/steps/flicker/brightness.h"

#include <array>
#include <span>
#include <vector>

namespace frenlo {

/// How the light of photos differs by what most parts of the picture share, one value a photo, stops.
struct CommonBrightness
{
    std::vector<double> luminance;
    std::array<std::vector<double>, 3> colours; ///< R, G, B
    std::vector<std::vector<double>> by_tone;   ///< at each of tone_knots, beside the luminance
    std::vector<std::vector<double>> by_place;  ///< at each place of a correction, beside the luminance
};

struct Sharing
{
    bool leave_out_moving = true;
    bool tone_beside_place = false; ///< what is uneven over the picture is not taken for a matter of tone as well
};

/// From differences between near photos, robust over the cells of the grid, brought together by least squares: a
/// subject that moves through the picture does not count, and what clips in one photo and not in the other does not,
/// either. Without leave_out_moving the luminance and colours are those of all usable pixels. photos: those that could
/// be measured, in order.
CommonBrightness common_brightness(std::span<const Brightness* const> photos, const Sharing& sharing);

}
