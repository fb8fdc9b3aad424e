#pragma once
#include "core/base/job.h"
#include "core/steady/alignment.h"
#include "core/steady/registration.h"

#include <opencv2/core/mat.hpp>

#include <array>
#include <vector>

namespace frenlo {

/// Colours in the order R, G, B. Stops are log2 of linear light, scene white 1 (sRGB: IEC 61966-2-1).
using Stops3 = std::array<double, 3>;

/// One cell of the grid that brightness is measured in.
struct LightCell
{
    double stops = 0; ///< of luminance: Rec. ITU-R BT.709 weights of linear light
    Stops3 colours{};
    double usable = 0; ///< share of its pixels that are neither clipped nor black, 0 to 1
};

/// The brightness of one photo.
struct Brightness
{
    int columns = 0;
    int rows = 0;
    std::vector<LightCell> cells; ///< row by row
    double stops = 0; ///< of the luminance of all usable pixels; of all pixels where none is usable
    double usable = 0; ///< share of all pixels
    [[nodiscard]] bool empty() const { return cells.empty(); }
};

/// pixels: B G R or B G R A, 8 or 16 bit, some hundred pixels wide. region: in shares of the picture.
Brightness brightness_of(const cv::Mat& pixels, const Region& region = {});

struct LightWishes
{
    std::vector<Stops3> gains{}; ///< measured as it is after these; empty: as shot
    Region region{}; ///< in the film's plane where the photos are aligned
};

/// The brightness of every photo, from decodes as small as the decoder makes them. Those that cannot be read are empty.
/// alignments: one a photo, through which the region stays on the scene; none: as shot. Throws Stopped.
std::vector<Brightness> measure_brightness(const std::vector<SeenPhoto>& photos, const std::vector<Alignment>& alignments, const LightWishes& wishes,
                                           const PhotoSource& source, const Job& job);

}
