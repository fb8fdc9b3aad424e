#pragma once
#include "core/steps/shoot/shoot_values.h"

#include <opencv2/core/mat.hpp>

#include <span>

namespace frenlo {

/// A photo as movement is measured in it, and how much smaller that is.
struct SmallPhoto
{
    cv::Mat1f light; ///< encoded, 0 to 1
    double scale = 1;
    [[nodiscard]] bool empty() const { return light.empty(); }
};
/// pixels: as decode.h says, 8 or 16 bit.
SmallPhoto small_photo(const cv::Mat& pixels);

/// What changed from one photo to the next of one set. The camera's own movement is what most of the picture agrees on
/// (phase correlation, Kuglin and Hines 1975, in tiles, their median); what changed is what differs then beyond noise;
/// how far that moved is found by dense flow (DIS, as OpenCV has it). Nothing where their sizes differ.
std::optional<SetMovement> movement_between(const SmallPhoto& before, const SmallPhoto& now);

/// What is to be said of a photo's movement.
enum class MovementNews
{
    as_before,
    nothing_moved, ///< was the figure forgotten?
    camera_moved,  ///< by more than half a pixel of 640 across
    too_far,       ///< much farther than on the photos before
    light_changed  ///< by more than a tenth of a stop
};

/// earlier: of the photos before, the newest last. width: of the photo, pixels.
MovementNews news_of(const SetMovement& moved, std::span<const SetMovement> earlier, int width);

/// Those of a shot's photos that were taken here and are in the film, in order.
std::vector<SetMovement> movements_of(const Shot& shot);

/// Whether there is nothing on it: the cap is on the lens, or the lamp went out.
bool is_black(const cv::Mat& pixels);

}
