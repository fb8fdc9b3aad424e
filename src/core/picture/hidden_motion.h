#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// What the other picture does not show, since something moves over it, moves as what it belongs to: from around it
/// motion is carried in, first where the picture changes least, so that it ends at the outlines of things. In place.
/// motion: of each pixel, pixels; hidden: not 0; picture: what these pixels show. All of one size.
/// Flooding as in Meyer: Topographic distance and watershed lines (1994).
void fill_hidden(cv::Mat2f& motion, const cv::Mat1b& hidden, const cv::Mat3b& picture);

}
