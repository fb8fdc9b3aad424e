#pragma once
#include "app/theme/colours.h"

#include <opencv2/core/mat.hpp>
#include <QImage>

#include <array>
#include <chrono>
#include <optional>

namespace frenlo::app {

/// What of a live picture is to be made, besides the picture.
struct LiveWish
{
    cv::Size size{1280, 720};         ///< no larger than this, device pixels
    std::optional<Colours> clipped{}; ///< what has no detail left is marked in these; none: it is not
    bool histogram = false;
    QImage compared; ///< what differs from this one is made where it is as large as the picture; null: nothing
    double gain = 1; ///< of what differs
    bool magnifier = false;
    cv::Point2d magnified{0.5, 0.5}; ///< the middle of what the magnifier shows, shares of the picture
};

/// A picture of the camera as it is now, ready to be painted.
struct LivePicture
{
    QImage image;
    cv::Size full;        ///< of the camera's live picture
    QImage difference;    ///< from what it is compared with; null where that has another size
    QImage clipped;       ///< over the image: what has lost its detail, in the lights and in the darks
    QImage magnified;     ///< a part of it, each pixel twice as large
    double sharpness = 0; ///< of that part: the mean square of its slopes, to be compared with itself only
    std::array<int, 64> histogram{};
    double bright_share = 0, dark_share = 0; ///< of the picture that is clipped
    std::chrono::steady_clock::time_point arrived{};
};

/// picture: 8 bit B G R, not empty. On a worker.
LivePicture live_picture(const cv::Mat& picture, const LiveWish& wish);

}
