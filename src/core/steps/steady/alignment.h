#pragma once
#include "core/base/transform.h"
#include "core/source/seen_photo.h"

#include <optional>
#include <string>

namespace frenlo {

/// How one photo lies in the plane of the film: that of the reference photo where the shot is held still, that of the
/// smoothed path where it was walked. Pixels of the photos at full size, as seen.
struct Alignment
{
    Transform from_film = Transform::eye(); ///< of points of the film's plane to points of this photo
    std::optional<Transform>
        from_before{};                   ///< walked: of points of the photo before to points of this one, as measured
    std::optional<cv::Point2d> target{}; ///< walked with a target: where it was seen
    double residual_px = 0;              ///< what the trusted points miss
    double inliers = 0;                  ///< share of the points that agree, 0 to 1
    double left_px = 0;     ///< of its movement: what different measurements disagree by, or what is left of the jitter
    bool reference = false; ///< it is the reference photo itself
    Lens lens{};            ///< that was taken out of the photo when it was measured
    std::string doubt;      ///< why it should be looked at; mostly empty
    bool operator==(const Alignment&) const = default;
};

/// The doubt of one whose photo has another lens taken out since.
inline constexpr const char* another_lens = "it was measured before its lens was set";

/// Of a matrix: no photo lies further off, and what is computed from it stays finite.
inline constexpr Limits in_matrix{-1e7, 1e7};

template <>
struct Fields<Alignment>
{
    static constexpr FieldTable table{
        field("matrix", &Alignment::from_film,
              "Of points of the film's plane to points of this photo: 3x3 by rows, pixels", in_matrix),
        field("from_before", &Alignment::from_before, "Walked: of points of the photo before to points of this one",
              in_matrix),
        field("target", &Alignment::target, "Walked with a target: where it was seen, pixels", {-1e6, 1e6}),
        field("residual_px", &Alignment::residual_px, "What the trusted points miss", {0, 1e7}),
        field("inliers", &Alignment::inliers, "Share of the points that agree", {0, 1e7}),
        field("left_px", &Alignment::left_px, "Of its movement", {0, 1e7}),
        field("reference", &Alignment::reference, "It is the reference photo itself"),
        field("lens", &Alignment::lens, "That was taken out of the photo when it was measured"),
        field("doubt", &Alignment::doubt, "Why it should be looked at"),
    };
};

inline std::size_t heap_of(const Alignment& a)
{
    return a.doubt.capacity();
}

}
