#pragma once
#include "core/picture/stages.h"
#include "core/project/project.h"

namespace frenlo {

/// A colour taken out of the photos of a shot: a blue, green or other even backdrop behind a figure becomes
/// transparent, with what of it lies on the figure's edges.
struct ColourOut
{
    Backdrop colour{0, 177, 64}; ///< R, G, B, sRGB, as picked on the picture
    double tolerance = 0.06;     ///< how much of the figure a pixel may seem to have and is still all backdrop, 0 to 1
    double solid = 0.05;         ///< how much it may seem to lack and is still all figure, 0 to 1
    double spill = 1;            ///< how much of the backdrop's tint is taken from the figure, 0 to 1
    bool operator==(const ColourOut&) const = default;
};

/// How much of each pixel is figure: by how far it has gone from the backdrop's colour to the figure's, both as they
/// are around it (the backdrop as a smooth surface fitted to what is surely backdrop, the figure's tint from what is
/// surely figure near by). For strong colours by the difference of the strongest channel from the next (common
/// practice, no source), for others by the distance of the colours. What is left of the backdrop is subtracted: of C =
/// a F + (1 - a) B remains a F (Porter, Duff 1984).
RowStage row_stage(const ColourOut& out, const StagePhoto& photo);

template <>
struct PhotoStage<ColourOut>
{
    static constexpr const char* key = "colour-out";
    static constexpr int order = stage_order::colour_out;
    static constexpr bool transparent = true;
};
template <>
struct ShotValue<ColourOut>
{
    static constexpr const char* key = "colour_out";
};
template <>
struct Fields<ColourOut>
{
    static constexpr FieldTable table{
        field("colour", &ColourOut::colour, "R, G, B, sRGB, as picked on the picture", {0, 255}),
        field("tolerance", &ColourOut::tolerance, "How far from the colour is still all backdrop", {0, 0.45}),
        field("solid", &ColourOut::solid, "How much of the colour is still all figure", {0, 0.45}),
        field("spill", &ColourOut::spill, "How much of its tint is taken from the figure", {0, 1}),
    };
};

}
