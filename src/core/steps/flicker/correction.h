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

template <>
struct PhotoStage<Correction>
{
    static constexpr const char* key = "flicker";
    static constexpr int order = stage_order::flicker;
};
RowStage row_stage(const Correction& correction, const StagePhoto& photo);

/// The same on a small picture that is measured: B G R, or B G R A with straight alpha, 8 or 16 bit, sRGB-encoded.
/// part: what of the plane that a correction by place covers the picture shows, in shares of it.
cv::Mat apply_correction(const cv::Mat& picture, const Correction& correction, const cv::Rect2d& part = {0, 0, 1, 1});

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
