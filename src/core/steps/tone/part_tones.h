#pragma once
#include "core/picture/stages.h"
#include "core/steps/tone/tone_values.h"

namespace frenlo {

/// Tones of parts of one photo, as a value: each over what those before it leave.
struct PartTones
{
    struct One
    {
        AreaMask where{};
        Tone tone{};
        bool operator==(const One&) const = default;
    };
    std::vector<One> all{};
    bool operator==(const PartTones&) const = default;
};

template <>
struct PhotoStage<PartTones>
{
    static constexpr const char* key = "part_tones";
    static constexpr int order = stage_order::tone + 1;
};

/// Those that hold in this photo: of areas that are in it, and of the state that it is in.
PartTones part_tones_of(const Shot& shot, PhotoIndex photo);

/// Each tone, mixed with what is below it by how far a pixel is in its area, in linear light.
RowStage row_stage(const PartTones& tones, const StagePhoto& photo);

/// The tone that is set there; as shot where none is.
Tone part_tone(const Shot& shot, const ToneWhere& where);

template <>
struct Fields<PartTones::One>
{
    static constexpr FieldTable table{
        field("where", &PartTones::One::where, ""),
        field("tone", &PartTones::One::tone, ""),
    };
};
template <>
struct Fields<PartTones>
{
    static constexpr FieldTable table{field("all", &PartTones::all, "")};
};

}
