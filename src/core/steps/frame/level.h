#pragma once
#include <opencv2/core/mat.hpp>

#include <optional>

namespace frenlo {

/// By how many degrees a photo must be turned clockwise so that its long lines are level and upright: the turn that
/// most of their length agrees on, within 20 degrees. Lines are found by Grompone von Gioi, Jakubowicz, Morel, Randall
/// 2010 (LSD, OpenCV's). Nothing where there are too few that agree. bgr: 8 bit.
std::optional<double> find_level(const cv::Mat& bgr);

/// How a photo is made upright: turned clockwise, and drawn apart at its top (FrameView).
struct Upright
{
    double turn = 0; ///< degrees
    double uprights = 0;
};

/// From its long lines that are nearly upright: what most of their length leads to one point with. Lines as above;
/// which belong together by trying two at a time (Fischler, Bolles 1981), then least squares. Nothing where too few
/// agree, or all lie on one side, so that a turn cannot be told from leaning together.
std::optional<Upright> find_uprights(const cv::Mat& bgr);

}
