#pragma once
#include <opencv2/core/mat.hpp>

#include <span>
#include <vector>

namespace frenlo {

/// How much moves in each column of a shot's photos, from left to right: of so many columns, 0 or more. pictures:
/// small, of one size, B G R, 8 bit, in the shot's order; a change of light alone moves nothing. Own measure, no
/// source.
std::vector<double> movement_by_column(std::span<const cv::Mat> pictures, int columns = 48);

/// Where a window of this share of the width shows the most of what moves: its left edge, 0 to 1 - share. In the middle
/// where nothing moves.
double moving_window(std::span<const double> by_column, double share);

}
