#pragma once
// Sequences of photos with known truth, made from real photographic texture (Debian's opencv-doc): what is measured on
// them can be compared with what was done to them.
#include "core/base/transform.h"

#include <opencv2/core/mat.hpp>

#include <array>
#include <utility>
#include <vector>

namespace frenlo::bench {

struct Sequence
{
    std::vector<cv::Mat> photos;     ///< B G R, 8 bit
    std::vector<Transform> truth;    ///< from the first photo to each
    std::vector<Transform> intended; ///< walked: the path without its jitter
};

struct Wishes
{
    int photos = 48;
    cv::Size size{1200, 800};
    double shift_sigma = 0; ///< px, each photo anew
    double turn_sigma = 0;  ///< degrees
    double size_sigma = 0;  ///< share
    double foreground = 0;  ///< share of the frame that something else covers, which moves on its own
    double light_stops = 0; ///< how much the light changes over the sequence
    double noise = 2.5;     ///< of 255
    bool walked = false;    ///< a smooth path with jitter of shift_sigma on it
    int seed = 1;
};

/// Photos with known light: what was added, and the same photos without it.
struct LightSequence
{
    std::vector<cv::Mat> clean;               ///< B G R, 8 bit: with the day's light, and a subject that moves
    std::vector<cv::Mat> photos;              ///< with flicker
    std::vector<std::array<double, 3>> added; ///< stops of linear R, G, B
};
struct LightSequenceWishes
{
    int photos = 120;
    cv::Size size{960, 640};
    double trend_stops = 1.2;                      ///< how much the light goes down, and partly up again
    double flicker_sigma = 0.12;                   ///< stops
    double colour_sigma = 0;                       ///< stops, each colour by itself
    std::vector<std::pair<int, double>> steps{};   ///< from this photo on so many stops more
    std::vector<std::pair<int, double>> flashes{}; ///< this photo alone
    int seed = 1;
};
LightSequence make_light_sequence(const LightSequenceWishes& options);

/// Throws std::runtime_error where opencv-doc is not installed.
Sequence make_sequence(const Wishes& options);

}
