#pragma once
#include "core/picture/frame_stages.h"
#include "core/steps/frame/frame_values.h"

namespace frenlo {

/// What lies beyond the band of focus is out of focus as through a lens: each point spreads evenly over a disc that
/// grows with the distance from the band. What is in the band stays where it is: it does not bleed into the blur.
struct MiniatureLook
{
    Miniature look;
    bool operator==(const MiniatureLook&) const = default;
};
void frame_stage(const MiniatureLook& miniature, Canvas& frame);

/// The radius, in pixels, of the disc that the point at x, y of a frame of this size becomes; centres on integers.
double disc_radius(const Miniature& miniature, cv::Size frame, double x, double y);

template <>
struct FrameStage<MiniatureLook>
{
    static constexpr const char* key = "miniature";
    static constexpr int order = frame_order::miniature;
};
template <>
struct Fields<MiniatureLook>
{
    static constexpr FieldTable table{field("look", &MiniatureLook::look, "")};
};

}
