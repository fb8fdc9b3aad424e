#pragma once
#include "core/base/job.h"
#include "core/base/transform.h"
#include "core/picture/region.h"
#include "core/source/seen_photo.h"
#include "core/steps/flicker/flicker_values.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// One cell of the grid that brightness is measured in.
struct LightCell
{
    double stops = 0; ///< of luminance: Rec. ITU-R BT.709 weights of linear light
    Stops3 colours{};
    std::array<double, 3>
        tones{};       ///< the luminance below which a tenth, a half and nine tenths of its usable pixels are
    double usable = 0; ///< share of its pixels that are neither clipped nor black, 0 to 1
};

/// The brightness of one photo.
struct Brightness
{
    int columns = 0;
    int rows = 0;
    std::vector<LightCell> cells; ///< row by row
    double stops = 0;             ///< of the luminance of all usable pixels; of all pixels where none is usable
    Stops3 colours{};             ///< the same of R, G, B
    double usable = 0;            ///< share of all pixels
    [[nodiscard]] bool empty() const { return cells.empty(); }
};

/// pixels: B G R or B G R A, 8 or 16 bit, some hundred pixels wide; what is transparent does not count. region: in
/// shares of the picture.
Brightness brightness_of(const cv::Mat& pixels, const Region& region = {});

/// The photos as seen through their transforms from the film's plane (none: as shot), their longer sides so many
/// pixels (small_picture.h). Those that cannot be read are empty. Throws
/// Stopped.
std::vector<cv::Mat> small_photos(const std::vector<SeenPhoto>& photos, const std::vector<Transform>& from_film,
                                  int side, const PhotoSource& source, const Job& job);

/// So large that the brightness of a photo is told to a thousandth of a stop, and all of them fit into half a gigabyte.
int measuring_side(std::size_t photos);

/// The brightness of each, corrected so; corrections: one a photo, or none. Throws Stopped.
std::vector<Brightness> brightness_of_all(const std::vector<cv::Mat>& photos,
                                          const std::vector<Correction>& corrections, const Region& region,
                                          const Job& job);

}
