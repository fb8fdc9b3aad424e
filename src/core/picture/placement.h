#pragma once
#include "core/base/transform.h"

namespace frenlo {

/// Where a photo does not reach and the frame is not cropped.
enum class Edges
{
    go_on, ///< its outermost pixels go on
    mirrored,
};

/// A part of the film's plane, seen through this photo.
struct Placement
{
    Transform from_film =
        Transform::eye(); ///< of points of the film's plane to points of the photo as seen, pixels at full size
    cv::Size plane;       ///< the film's, pixels
    cv::Rect crop;        ///< what of it is seen
    Edges edges = Edges::go_on;
    bool operator==(const Placement&) const = default;
};

template <>
struct Words<Edges>
{
    static constexpr std::array<std::string_view, 2> words{"go-on", "mirrored"};
};
template <>
struct Fields<Placement>
{
    static constexpr FieldTable table{
        field("from_film", &Placement::from_film, ""),
        field("plane", &Placement::plane, ""),
        field("crop", &Placement::crop, ""),
        field("edges", &Placement::edges, ""),
    };
};

}
