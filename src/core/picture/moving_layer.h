#pragma once
#include "core/picture/layer_matte.h"

#include <cstddef>

namespace frenlo {

struct DenseMotion;

/// What moves over a background that stands still, as a layer of its own: each is put where it is at t without bringing
/// along anything of the other at its edge. Maps cover the part of the pictures in which they differ, at their full
/// size.
struct MovingLayer
{
    cv::Mat2f way;                       ///< pixels from first to second; beyond the layer, as it would go on
    cv::Mat1f alpha_first, alpha_second; ///< how much of each pixel is the layer, 0 to 1
    Background background;
    cv::Mat1f explained; ///< how sure it is that all that changes in the first is this layer's moving, 0 to 1

    [[nodiscard]] bool empty() const { return way.empty(); } ///< nothing moves so, or what lies behind moves too
    [[nodiscard]] std::size_t bytes() const;
};

/// The layer's motion is the dense motion well inside of it, carried on beyond its edges. first, second: what lies in
/// the motion's part; motion: with all but its layer.
MovingLayer moving_layer(const Canvas& first, const Canvas& second, const DenseMotion& motion);

/// Puts what lies at t (0 to 1, both not included) over a picture of it, as far as it is sure; all three of the
/// motion's part. Returns how far that is, of each pixel; empty where there is no layer.
cv::Mat1f put_layer(const MovingLayer& layer, const Canvas& first, const Canvas& second, double t, Canvas& made);

}
