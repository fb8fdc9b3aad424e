#pragma once
#include "core/picture/stages.h"
#include "core/steps/flicker/flicker_values.h"

#include <opencv2/core/mat.hpp>

#include <span>
#include <utility>

namespace frenlo {

/// Linear light from 0 to 1 made brighter by a factor. A plain gain up to near white; from there smoothly to white,
/// which stays white: highlights neither clip nor turn grey. Rises everywhere.
double brightened(double linear, double factor);

/// The picture in corrected light. B G R, 8 or 16 bit, sRGB-encoded. part: what of the plane that a correction by place
/// covers the picture shows, in shares of it.
cv::Mat apply_correction(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part = {0, 0, 1, 1});

template <>
struct PhotoStage<Correction>
{
    static constexpr const char* key = "flicker";
    static constexpr int order = stage_order::flicker;
};
inline cv::Mat apply_stage(const Correction& correction, const cv::Mat& picture, const cv::Rect2d& part)
{
    return apply_correction(picture, correction, part);
}

/// Linear interpolation: between which two of the positions (ascending) x lies, and the share of the second; level
/// beyond.
struct Neighbours
{
    std::size_t first = 0, second = 0;
    double share = 0;
};
Neighbours neighbours_of(std::span<const double> positions, double x);
/// Positions of the columns, or rows, of a correction by place: middles of n cells, 0 to 1.
std::vector<double> cell_middles(int n);

}
