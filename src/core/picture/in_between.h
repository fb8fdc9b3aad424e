#pragma once
#include "core/picture/canvas.h"
#include "core/picture/moving_layer.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// Where what one picture shows lies in another, for every pixel, both ways, and what both look like; of the part in
/// which the two differ, at the size that it was looked for in: half of the pictures', where that is not below 480 or
/// above 960 on their longer side. (In half of the size it is as exact over films, and takes about half of the time.)
struct DenseMotion
{
    cv::Rect part; ///< of the pictures, that maps cover; elsewhere they differ by noise at most; empty: all of it does
    double changes = 0; ///< the share of the pictures that differs, 0 to 1
    cv::Mat2f forth;    ///< of each pixel of the first: how far it goes until the second, pixels
    cv::Mat2f back;     ///< of each of the second: how far back to the first
    cv::Mat3b first, second;
    cv::Mat1b first_only, second_only; ///< not 0: what the other one does not show
    // What follows from these, and is asked for at every t; differences 0 to 255.
    cv::Mat1f forth_off; ///< how far each pixel of the first looks other than what it becomes
    cv::Mat1f back_off;  ///< and of the second
    cv::Mat1f unmoved;   ///< how far the two are apart around each place where nothing is carried
    MovingLayer layer;   ///< what moves over what stands still
};

/// By the inverse search of Kroeger, Timofte, Dai, Van Gool: Fast Optical Flow using Dense Inverse Search (2016), as
/// OpenCV has it. Two pictures of the same size.
DenseMotion dense_motion(const Canvas& first, const Canvas& second);

/// A picture between two.
struct InBetween
{
    Canvas picture;
    double mixed = 0; ///< of what differs between the two, the share that could only be mixed, 0 to 1
};

/// What lies at t (0 to 1, both not included) of the way from the first to the second. Each pixel is taken from where
/// it was and from where it will be; what only one of them shows, because something moves over it or past the border,
/// from that one; and where the movement is not to be trusted, since the two then differ more than unmoved, both are
/// mixed. Occlusion and projection to t as in Baker et al.: A Database and Evaluation Methodology for Optical Flow
/// (2011), section 3.3.2; what is trusted: common practice, no source.
InBetween in_between(const Canvas& first, const Canvas& second, const DenseMotion& motion, double t);

}
