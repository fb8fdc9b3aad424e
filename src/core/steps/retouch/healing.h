#pragma once
#include "core/picture/stages.h"
#include "core/steps/retouch/retouch_values.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

/// One mark in one photo.
struct HealedMark
{
    std::vector<cv::Point2d> points{}; ///< shares of the film's plane, or of the photo
    double radius = 0;                 ///< share of its width
    double soft = 0;                   ///< share of the radius
    bool on_photo = false;
    HealFrom from = HealFrom::around;
    cv::Point2d offset{};
    bool operator==(const HealedMark&) const = default;
};

/// What is healed in one photo.
struct Healing
{
    std::vector<HealedMark> marks{};
    PhotoPtr plate{};                            ///< none: marks that want one stay
    Transform plate_to_plane = Transform::eye(); ///< of shares of the plate's picture to shares of the plane
    std::int64_t grain = 0;                      ///< seed of what is added where the plate is smoother
};
bool operator==(const Healing& a, const Healing& b);

/// Each mark's pixels from elsewhere, from the photo around it or from the clean plate, brought to the light of what
/// lies round the mark: the difference on the ring about it is carried inside smoothly, as in Pérez, Gangnet, Blake:
/// Poisson Image Editing, SIGGRAPH 2003, but from its low frequencies only, so that the texture stays that of the
/// source.
RowStage row_stage(const Healing& healing, const StagePhoto& photo);

/// How much of each pixel of this box is healed, 0 to 1. points, radius: pixels.
cv::Mat1f mark_shares(const std::vector<cv::Point2d>& points, double radius, double soft, const cv::Rect& box);
/// The pixels that a mark and the ring about it can reach.
cv::Rect mark_box(const std::vector<cv::Point2d>& points, double radius, double soft);

template <>
struct PhotoStage<Healing>
{
    static constexpr const char* key = "healing";
    static constexpr int order = stage_order::retouch;
};
template <>
struct Fields<HealedMark>
{
    static constexpr std::tuple table{
        field("points", &HealedMark::points, ""), field("radius", &HealedMark::radius, ""),
        field("soft", &HealedMark::soft, ""),     field("on_photo", &HealedMark::on_photo, ""),
        field("from", &HealedMark::from, ""),     field("offset", &HealedMark::offset, ""),
    };
};
template <>
struct Fields<Healing>
{
    static constexpr std::tuple table{
        field("marks", &Healing::marks, ""),
        field("plate", &Healing::plate, ""),
        field("plate_to_plane", &Healing::plate_to_plane, ""),
        field("grain", &Healing::grain, ""),
    };
};

}
