#pragma once
#include "core/picture/frame_stages.h"
#include "core/steps/frame/frame_values.h"

#include <functional>

namespace frenlo {

/// Bars above and below, or at the sides, that leave a shape. Their edges are exact to parts of a pixel.
struct BarsLook
{
    double shape = 0; ///< width by height of what is left
    double share = 1; ///< how far they have come in
    bool operator==(const BarsLook&) const = default;
};
void frame_stage(const BarsLook& bars, Canvas& frame);

/// Grain as of film: of one size on a large and on a small picture, stronger in the middle tones, as much light as
/// before on average.
struct GrainLook
{
    double strength = 0;
    std::int64_t seed = 0;
    bool operator==(const GrainLook&) const = default;
};
void frame_stage(const GrainLook& grain, Canvas& frame);

/// A colour over all, in linear light.
struct FadeLook
{
    double share = 0; ///< of the colour
    Backdrop colour{0, 0, 0};
    bool operator==(const FadeLook&) const = default;
};
void frame_stage(const FadeLook& fade, Canvas& frame);

/// The looks of each frame of the film.
std::function<void(FrameIndex, FrameStages&)> looks_of(const Framing& framing, const Shot& shot,
                                                       const Schedule& schedule);

template <>
struct FrameStage<BarsLook>
{
    static constexpr const char* key = "bars";
    static constexpr int order = frame_order::bars;
};
template <>
struct FrameStage<GrainLook>
{
    static constexpr const char* key = "grain";
    static constexpr int order = frame_order::grain;
};
template <>
struct FrameStage<FadeLook>
{
    static constexpr const char* key = "fade";
    static constexpr int order = frame_order::fade;
};
template <>
struct Fields<BarsLook>
{
    static constexpr FieldTable table{field("shape", &BarsLook::shape, ""), field("share", &BarsLook::share, "")};
};
template <>
struct Fields<GrainLook>
{
    static constexpr FieldTable table{field("strength", &GrainLook::strength, ""), field("seed", &GrainLook::seed, "")};
};
template <>
struct Fields<FadeLook>
{
    static constexpr FieldTable table{field("share", &FadeLook::share, ""), field("colour", &FadeLook::colour, "")};
};

}
