#pragma once
#include "core/picture/stages.h"
#include "core/steps/retouch/retouch_values.h"

#include <opencv2/core/mat.hpp>

#include <optional>
#include <vector>

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
    std::optional<AreaMask> within{}; ///< it is healed only there
    bool operator==(const HealedMark&) const = default;
};

/// A part of the picture that another photo shows: the clean plate, or a thing as it was at its time.
struct ShownArea
{
    AreaMask where{};
    PhotoPtr from{};
    Transform from_to_plane = Transform::eye(); ///< of shares of its picture to shares of the plane
    Lens lens{};                                ///< taken out of that photo
};
bool operator==(const ShownArea& a, const ShownArea& b);

/// What is healed in one photo.
struct Healing
{
    std::vector<HealedMark> marks{};
    PhotoPtr plate{};                            ///< none: marks that want one stay
    Transform plate_to_plane = Transform::eye(); ///< of shares of the plate's picture to shares of the plane
    Lens plate_lens{};                           ///< taken out of the plate's photo
    std::int64_t grain = 0;                      ///< seed of what is added where the plate is smoother
    std::vector<ShownArea> areas{};              ///< below the marks, the lowest first
};
bool operator==(const Healing& a, const Healing& b);

/// Each mark's pixels from elsewhere. From the photo around it: its texture is that of the source, and how the picture
/// differs from the source round the mark is predicted inside it (conditional simulation, Journel 1974; kriging.h).
/// From the clean plate: brought to the light of what lies round the mark: the difference on the ring about it is
/// carried inside smoothly, as in Pérez, Gangnet, Blake: Poisson Image Editing, SIGGRAPH 2003, but from its low
/// frequencies only, so that the texture stays that of the plate. An area that another photo shows is brought to the
/// light round it by a gain of each colour, carried inside in the same way; one that is all of the picture is that
/// photo as it is.
RowStage row_stage(const Healing& healing, const StagePhoto& photo);

/// Beyond a mark's radius, share of it: what lies farther out is trusted to be the scene, though a soft edge heals it a
/// little. (A little, for what is marked may be blurred or marked too close.)
inline constexpr double trusted_edge = 0.1;
/// How much of each pixel of this box is healed, 0 to 1. points, radius: pixels.
cv::Mat1f mark_shares(const std::vector<cv::Point2d>& points, double radius, double soft, const cv::Rect& box);
/// The pixels that a mark and the ring about it can reach.
cv::Rect mark_box(const std::vector<cv::Point2d>& points, double radius, double soft);

template <>
struct PhotoStage<Healing>
{
    static constexpr const char* key = "healing";
    static constexpr int order = stage_order::retouch;
    /// Where another photo shows an area, light may be carried over all of it.
    static bool in_places(const Healing& healing) { return healing.areas.empty(); }
    static std::vector<PhotoPtr> others(const Healing& healing);
};
template <>
struct Fields<HealedMark>
{
    static constexpr FieldTable table{
        field("points", &HealedMark::points, ""), field("radius", &HealedMark::radius, ""),
        field("soft", &HealedMark::soft, ""),     field("on_photo", &HealedMark::on_photo, ""),
        field("from", &HealedMark::from, ""),     field("offset", &HealedMark::offset, ""),
        field("within", &HealedMark::within, ""),
    };
};
template <>
struct Fields<ShownArea>
{
    static constexpr FieldTable table{
        field("where", &ShownArea::where, ""),
        field("from", &ShownArea::from, ""),
        field("from_to_plane", &ShownArea::from_to_plane, ""),
        field("lens", &ShownArea::lens, ""),
    };
};
template <>
struct Fields<Healing>
{
    static constexpr FieldTable table{
        field("marks", &Healing::marks, ""),
        field("plate", &Healing::plate, ""),
        field("plate_to_plane", &Healing::plate_to_plane, ""),
        field("plate_lens", &Healing::plate_lens, ""),
        field("grain", &Healing::grain, ""),
        field("areas", &Healing::areas, ""),
    };
};

}
