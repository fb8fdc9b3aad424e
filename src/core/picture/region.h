#pragma once
#include "core/base/opencv_values.h"

#include <opencv2/core/types.hpp>

#include <vector>

namespace frenlo {

/// What may be looked at: parts of the photo in shares of its width and height, 0 to 1. Nothing: all of it.
struct Region
{
    std::vector<cv::Rect2d> look_at; ///< none: everywhere
    std::vector<cv::Rect2d> leave_out;
    bool operator==(const Region&) const = default;
};

/// Cells of a grid over the frame, row by row, joined to boxes: a brushed area as a region holds it.
std::vector<cv::Rect2d> boxes_of(const std::vector<bool>& cells, int columns);

template <>
struct Fields<Region>
{
    static constexpr FieldTable table{
        field("look_at", &Region::look_at, "Boxes x, y, width, height in shares; none: everywhere", {0, 1}),
        field("leave_out", &Region::leave_out, "", {0, 1}),
    };
};

}
