#pragma once
#include "core/base/transform.h"
#include "core/picture/region.h"

#include <opencv2/core/mat.hpp>

#include <vector>

namespace frenlo {

/// A photo made ready for registration: brightness and contrast evened out locally, so that flicker, exposure and slow
/// shadows drop out, with the points that can be followed well. As many points as cells of the frame have
/// one: what has the most texture has no more say than its area.
struct Prepared
{
    cv::Size size;                ///< of the picture that was given
    cv::Mat evened;               ///< 8 bit
    std::vector<cv::Mat> pyramid; ///< of it, as the flow wants it, made once for all photos that it is compared with
    std::vector<cv::Point2f> points;
    [[nodiscard]] bool blank() const; ///< too little to follow: a black frame, an empty wall
};

/// pixels: B G R or B G R A, 8 or 16 bit, about 1200 pixels wide.
Prepared prepare(const cv::Mat& pixels, const Region& region = {});

/// How one photo lies against another.
struct Link
{
    Transform transform = Transform::eye(); ///< from the first photo to the second
    double residual_px = 0;                 ///< root mean square of what the trusted points still miss
    double inliers = 0;                     ///< share of the points that agree, 0 to 1
    int points = 0;                         ///< trusted points
    std::vector<cv::Point2f> trusted;       ///< where they are in the first photo
    [[nodiscard]] bool holds() const { return points >= 12 && inliers >= 0.2 && residual_px <= 1.0; }
};

/// Follows the points of the first photo into the second and finds the movement that the largest part of the frame
/// shares. Coarse to fine; shifts of up to a fifth of the frame are found. Sub-pixel. Pyramidal Lucas-Kanade flow
/// (Bouguet 2000) on evened pictures, RANSAC over cells, then weighted least squares with Geman-McClure weights. guess:
/// where the second photo is thought to lie; with a good one less is searched.
Link register_photos(const Prepared& from, const Prepared& to, Movement movement, const Transform* guess = nullptr);

/// The points to follow within a box, in shares of width and height; closer together than those of the whole photo.
std::vector<cv::Point2f> points_within(const Prepared& photo, const cv::Rect2d& box);

/// Follows the points of a small part, starting from where it is thought to be; shift, turn and size. Only what is near
/// there is found.
Link register_target(const Prepared& target, const Prepared& photo, const Transform& guess);

}
