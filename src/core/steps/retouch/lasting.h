#pragma once
#include "core/base/job.h"

#include <opencv2/core.hpp>

#include <optional>
#include <vector>

namespace frenlo {

/// How much each pixel of photo after photo differs from what is expected there.
struct Differences
{
    static constexpr int none = -128;           ///< nobody knows
    static constexpr double stops = 0.35 / 127; ///< one step of them; what differs more counts as the most
    std::vector<cv::Mat_<schar>> photos{};      ///< of one size
};

/// Light in stops below white, of encoded grey.
cv::Mat1f stops_of(const cv::Mat1b& grey);
/// In steps of Differences::stops; what is not a number: Differences::none.
cv::Mat_<schar> in_steps(const cv::Mat1f& stops);

/// From what lies around it, this wide (pixels): what is far larger is gone.
/// greys: one size, encoded.
Differences from_surround(const std::vector<cv::Mat1b>& greys, int wide, const Job& job);

/// From the same place of the scene as other photos show it, which moved by more than `wide` pixels: of the scene
/// nothing is left, of what goes with the camera all. None where the scene stands still, or no two photos show the same
/// scene.
/// greys: one size, encoded.
std::optional<Differences> from_scene(const std::vector<cv::Mat1b>& greys, int wide, const Job& job);

/// The mean of them, as if it were one photo; unknown where fewer than half of them tell.
Differences mean_of(const Differences& differences);

/// The share of the differences' power that stays from photo to photo, 0 to 1: of n photos that have nothing to do with
/// each other 1/n. The median over parts of the picture.
double staying(const Differences& differences);

}
