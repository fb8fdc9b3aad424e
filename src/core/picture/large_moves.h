#pragma once
#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// Moves of whole things that a search from coarse to fine does not find, since they are farther than the things are
/// large: small parts that don't fit where the motion says are looked for round about, and what several agree on is a
/// move. The most agreed on first.
/// first, second: one size, encoded; off: of each pixel of the first, how far it looks other than where it moves to, 0
/// to 255; reach: how far a move may go across and down. Pixels.
std::vector<cv::Vec2f> large_moves(const cv::Mat3b& first, const cv::Mat3b& second, const cv::Mat1f& off, int reach);

/// Takes each of these moves where it fits far better than the motion does.
void take_moves(cv::Mat2f& motion, const cv::Mat1f& off, const cv::Mat3b& first, const cv::Mat3b& second,
                const std::vector<cv::Vec2f>& moves);

}
