#pragma once
#include "core/picture/canvas.h"

#include <opencv2/core/mat.hpp>

#include <span>

namespace frenlo {

/// How alike two places of a texture are, by how far one lies from the other: the autocovariance of its colours,
/// summed. At (y, x) of what is returned: of places so many rows and columns apart, both modulo its size, so that (0,
/// 0) is the variance and negative ways stand at the end. Never an indefinite one. Pixels that are not known (0) are
/// left out, and the middle of the picture counts most. range: in pixels, beyond which nothing is alike. After Cressie,
/// Statistics for Spatial Data, 1993, 2.4; made definite in the frequencies as in Hall, Patil 1994.
cv::Mat1f autocovariance(const Canvas& picture, const cv::Mat1b& known, double range);

/// What a texture is learned from.
struct Texture
{
    Canvas picture;
    cv::Mat1b known;  ///< 0: not of the texture
    cv::Point corner; ///< of what is continued, in the picture
};

/// Continues values into the pixels that are not known (0), in place: of what is known near by the linear prediction
/// with the least error for such a texture, as it is near there, on a level or a slope; each channel by itself.
/// Universal kriging: Matheron 1969; Cressie 1993, 3.4. Where nothing is known they stay as they are.
/// radius: of what is missing, about its half width in pixels; so far is looked, and so much is made at one go.
/// Of several values that are known at the same places all are worked out together.
void krige(std::span<Canvas* const> values, const cv::Mat1b& known, const Texture& texture, double radius);
void krige(Canvas& values, const cv::Mat1b& known, const Texture& texture, double radius);

}
