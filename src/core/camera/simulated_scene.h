#pragma once
#include <opencv2/core/mat.hpp>
#include <opencv2/core/types.hpp>

#include <array>
#include <optional>

namespace frenlo {

/// How the figure of the simulated camera stands: a tinsmith with a watering can, of joints. Lengths are shares of the
/// picture's height; angles in degrees, 0 hanging down, clockwise as seen.
struct Pose
{
    enum Joint
    {
        body, ///< of its hips, against upright
        head,
        left_arm,
        left_hand, ///< its elbow
        right_arm,
        right_hand,
        left_leg,
        left_foot, ///< its knee
        right_leg,
        right_foot,
        joints
    };
    cv::Point2d hips{0.62, 0.60}; ///< x in shares of the picture's height, too
    std::array<double, joints> degrees{0, 0, 28, 16, -30, -40, 9, 0, -9, 0};
    bool operator==(const Pose&) const = default;
};

/// Where a joint's part ends: the hand, the foot, the top of the head; of the body: the hips. In the pose's lengths.
cv::Point2d end_of(const Pose& pose, Pose::Joint joint);

/// The part that ends or lies at this place; nothing where there is none. As end_of.
std::optional<Pose::Joint> part_at(const Pose& pose, cv::Point2d place);

/// The pose after that part was pulled to a place: it turns at its joint to point there; the body's hips are moved.
Pose pulled(const Pose& pose, Pose::Joint part, cv::Point2d to);

/// The pose at this photo of a walk to and fro by itself.
Pose walking_pose(int photo);

/// The scene as it is, without light or camera: linear, 0 to 1, float B G R, Rec. ITU-R BT.709.
cv::Mat draw_scene(const Pose& pose, cv::Size size);

}
