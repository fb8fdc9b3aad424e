#pragma once
// How the tone of a shot is set, as values.
#include "core/base/fields.h"
#include "core/picture/areas.h"
#include "core/project/project.h"

#include <optional>
#include <vector>

namespace frenlo {

/// The colour temperature of the light that looks white as it is: that of CIE standard illuminant D65, sRGB's white.
inline constexpr double daylight_kelvin = 6504;

/// What is done to the tone of a photo. Stops are log2 of linear light around middle grey, 0.18 of scene white; percent
/// go from -100 to 100, 0 being nothing.
struct Tone
{
    double exposure = 0;             ///< stops
    double contrast = 0;             ///< percent: the slope at middle grey is 2 to the power of it (tone_curve.h)
    double toe = 0;                  ///< stops by which the lower end is raised
    double shoulder = 0;             ///< stops by which the upper end is raised
    double warmth = daylight_kelvin; ///< kelvin of the light that is to look white; a higher one is warmer
    double green_magenta = 0;        ///< percent: greener below 0 (white_balance.h)
    double colour = 0;               ///< percent of chroma more
    double local_contrast = 0;       ///< percent (local_contrast.h)
    double corners = 0;              ///< stops by which they are lifted

    [[nodiscard]] bool nothing() const { return *this == Tone(); }
    bool operator==(const Tone&) const = default;
};

/// One of them.
using ToneValue = double Tone::*;

inline constexpr double middle_grey = 0.18;
inline constexpr Limits tone_percent{-100, 100};
inline constexpr Limits tone_exposure{-8, 8}, tone_end{-3, 3}, tone_kelvin{2000, 25'000}, tone_corners{-2, 3};

/// A photo that was toned by hand.
struct ToneAnchor
{
    Tone tone;
    bool operator==(const ToneAnchor&) const = default;
};

/// How bright a photo is before it is toned, mean luminance in stops of linear light, for tone that follows the light.
struct ToneLight
{
    double stops = 0;
    std::int64_t seen =
        0; ///< 32 bits that stand for what was done to it before (flicker): others, to be measured again
    bool operator==(const ToneLight&) const = default;
};

/// What tone follows from one anchor photo to the next.
enum class ToneBlend
{
    time, ///< the order of the photos
    light ///< how bright they are
};

/// Where a tone holds: in an area, in a state, in an area while it is in a state; or everywhere and always.
struct ToneWhere
{
    std::optional<AreaId> area{};
    std::optional<StateId> state{};

    [[nodiscard]] bool everywhere() const { return !area && !state; }
    bool operator==(const ToneWhere&) const = default;
};

/// A tone on top of that of the photo.
struct PartTone
{
    ToneWhere where{};
    Tone tone{};
    bool operator==(const PartTone&) const = default;
};

/// The tone of a shot. The anchors' own are theirs.
struct Toning
{
    Tone tone{}; ///< of all photos where there is no anchor
    ToneBlend blend = ToneBlend::time;
    std::vector<PartTone> parts{}; ///< one after the other, on top of it; no two in the same place
    bool operator==(const Toning&) const = default;
};

template <>
struct PhotoValue<ToneAnchor>
{
    static constexpr const char* key = "tone_anchor";
};
template <>
struct PhotoValue<ToneLight>
{
    static constexpr const char* key = "tone_light";
};
template <>
struct ShotValue<Toning>
{
    static constexpr const char* key = "tone";
};

/// Null where it is none.
inline const ToneAnchor* anchor_of(const ShotPhoto& photo)
{
    return photo.steps.find<ToneAnchor>();
}
/// Null for a shot that was never toned.
inline const Toning* toning_of(const Shot& shot)
{
    return shot.steps.find<Toning>();
}

template <>
struct Words<ToneBlend>
{
    static constexpr std::array<std::string_view, 2> words{"time", "light"};
};
template <>
struct Fields<Tone>
{
    static constexpr FieldTable table{
        field("exposure", &Tone::exposure, "Stops", tone_exposure),
        field("contrast", &Tone::contrast, "Percent; the slope at middle grey is 2 to the power of it", tone_percent),
        field("toe", &Tone::toe, "Stops by which the lower end is raised", tone_end),
        field("shoulder", &Tone::shoulder, "Stops by which the upper end is raised", tone_end),
        field("warmth", &Tone::warmth, "Kelvin of the light that is to look white", tone_kelvin),
        field("green_magenta", &Tone::green_magenta, "Percent, greener below 0", tone_percent),
        field("colour", &Tone::colour, "Percent of chroma more", tone_percent),
        field("local_contrast", &Tone::local_contrast, "Percent", tone_percent),
        field("corners", &Tone::corners, "Stops by which they are lifted", tone_corners),
    };
};
template <>
struct Fields<ToneAnchor>
{
    static constexpr FieldTable table{field("tone", &ToneAnchor::tone, "Set by hand on this photo")};
};
template <>
struct Fields<ToneLight>
{
    static constexpr FieldTable table{
        field("stops", &ToneLight::stops, "Mean luminance before it is toned", {-40, 40}),
        field("seen", &ToneLight::seen, "Stands for what was done to it before", {0, 4294967295.0}),
    };
};
template <>
struct Fields<ToneWhere>
{
    static constexpr FieldTable table{
        field("area", &ToneWhere::area, "Absent: all of the picture"),
        field("state", &ToneWhere::state, "Absent: in all"),
    };
};
template <>
struct Fields<PartTone>
{
    static constexpr FieldTable table{
        required("where", &PartTone::where, ""),
        required("tone", &PartTone::tone, "On top of that of the photo"),
    };
};
template <>
struct Fields<Toning>
{
    static constexpr FieldTable table{
        field("tone", &Toning::tone, "Of all photos where there is no anchor photo"),
        field("blend", &Toning::blend, "What tone follows from one anchor photo to the next"),
        field("parts", &Toning::parts, "Of areas and states, one after the other"),
    };
};

}
