#pragma once
#include <opencv2/core/mat.hpp>

namespace frenlo {

/// What stands where in a photo, seen small, whatever the light: local contrast of the logarithm of linear light,
/// evened out over the frame, so that lamps, clouds, flashes and dusk change little of it. For telling whether two
/// photos were taken from the same place in the same direction.
struct SceneView
{
    cv::Mat colour;       ///< 48x32, 8-bit CIE Lab as OpenCV codes it
    cv::Mat map;          ///< 96x64, 8 bit signed; 40 is one standard deviation of what is around
    cv::Mat half;         ///< the map, half as large: where views are laid on each other first
    double structure = 0; ///< share of the frame in which there is anything to compare, 0 to 1
    double middle = 0; ///< how much there is in the middle half of the frame, 1 for as much as noise-free structure has
    double whole = 0;  ///< the same of the whole frame
    [[nodiscard]] bool empty() const { return map.empty(); }
};

/// pixels: B G R, 8 bit, of any size.
SceneView scene_view_of(const cv::Mat& pixels);

/// How two views lie on each other.
struct SceneMatch
{
    double agreement = 0; ///< correlation where they overlap, -1 to 1
    double share = 0;     ///< of the parts of the frame with structure in either, those that agree, 0 to 1
    cv::Point shift;      ///< of b against a, in pixels of the map
};

/// The best of all shifts up to a tenth of the frame, as far as a camera is moved between two photos of a walk, from
/// the one that is expected.
SceneMatch match_scenes(const SceneView& a, const SceneView& b, cv::Point expected = {});

/// How much of a scene is hidden in b that a shows, or the reverse, as something held before the lens hides it; light
/// alone hides nothing.
struct Hidden
{
    double structure = 0; ///< share of the places with structure where it does not agree, 0 to 1
    double colour = 0;    ///< share of the frame that has another colour or brightness, the exposure evened out, 0 to 1
    [[nodiscard]] double sum() const { return structure + colour; }
};
Hidden hidden_between(const SceneView& a, const SceneView& b);

/// The best of the views turned by quarters: 1 to 3 where b shows a when turned so many quarters clockwise, 0 where it
/// does as it is or not at all.
int quarters_between(const SceneView& a, const SceneView& b);

}
