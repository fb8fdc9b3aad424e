#pragma once
// What the step keeps in the project.
#include "core/picture/region.h"
#include "core/project/project.h"
#include "core/steps/flicker/flicker_values.h"

namespace frenlo {

/// What is done about a photo that stands out from those around it.
enum class LightRemedy
{
    undecided, ///< evened as the others are; still to be looked at
    evened,    ///< it was looked at: the brightness of its neighbours
    as_shot,   ///< its flash or shadow stays
    mixed,     ///< its neighbours, mixed, stand in for it
};

/// The light of a photo, as it was measured and evened.
struct PhotoLight
{
    LightChange change;
    double after = 0; ///< measured again after the change, stops
    LightRemedy remedy = LightRemedy::undecided;
    std::optional<LightJump> jump{}; ///< the light changes with this photo
    bool operator==(const PhotoLight&) const = default;
};

/// How a shot's light is evened. The photos' changes are theirs.
struct Deflicker
{
    double window_s = 0;       ///< changes that take longer stay; 0: as the photos say
    double found_window_s = 0; ///< what they said, where it was measured so
    double strength = 1;
    std::optional<bool> each_colour{}; ///< set by hand; else as the photos say, and so on
    std::optional<bool> by_tone{};
    std::optional<bool> by_place{};
    std::optional<bool> camera_steps{};
    bool leave_out_moving = true; ///< what moves through the picture does not count
    FlickerKind kind{};           ///< as measured
    Corrected corrected{};        ///< what was done: as set by hand, or as suits the kind
    FlickerFigures before{};      ///< as measured
    FlickerFigures after{};
    bool operator==(const Deflicker&) const = default;
};

/// Where is measured, of the film's plane.
struct LightRegion : Region
{
};

template <>
struct PhotoValue<PhotoLight>
{
    static constexpr const char* key = "light";
};
template <>
struct ShotValue<Deflicker>
{
    static constexpr const char* key = "lighting";
};
template <>
struct ShotValue<LightRegion>
{
    static constexpr const char* key = "light_region";
};

/// Null where it was not measured.
inline const PhotoLight* light_of(const ShotPhoto& photo)
{
    return photo.steps.find<PhotoLight>();
}
/// Null for a shot that is as shot.
inline const Deflicker* deflicker_of(const Shot& shot)
{
    return shot.steps.find<Deflicker>();
}
/// Everything where nothing was said; stays until the shot is changed.
inline const LightRegion& light_region(const Shot& shot)
{
    static const LightRegion everywhere;
    const LightRegion* region = shot.steps.find<LightRegion>();
    return region ? *region : everywhere;
}
inline std::size_t heap_of(const PhotoLight& l)
{
    return (l.change.correction.by_tone.capacity() + l.change.correction.by_place.capacity()) * sizeof(double);
}

template <>
struct Words<LightRemedy>
{
    static constexpr std::array<std::string_view, 4> words{"undecided", "evened", "as_shot", "mixed"};
};
template <>
struct Fields<PhotoLight>
{
    static constexpr FieldTable table{
        field("change", &PhotoLight::change, ""),
        field("after", &PhotoLight::after, "Measured again after the change, stops", in_stops),
        field("remedy", &PhotoLight::remedy, "What was decided about a photo that stands out"),
        field("jump", &PhotoLight::jump, "The light changes with this photo"),
    };
};
template <>
struct Fields<Deflicker>
{
    static constexpr FieldTable table{
        field("window_s", &Deflicker::window_s,
              "Changes that take longer stay, seconds; 0: as fast as the photos say, at each of them", {0, 1e6}),
        field("found_window_s", &Deflicker::found_window_s,
              "Where window_s is 0: what takes longer than about so many seconds stayed", {0, 1e6}),
        field("strength", &Deflicker::strength, "Of what is taken out", {0, 1}),
        field("each_colour", &Deflicker::each_colour, "Set by hand; absent, and so on: as suits the kind of flicker"),
        field("by_tone", &Deflicker::by_tone, "Darks and lights apart"),
        field("by_place", &Deflicker::by_place, "Each part of the picture by itself"),
        field("camera_steps", &Deflicker::camera_steps, "What the camera's settings made is taken out"),
        field("leave_out_moving", &Deflicker::leave_out_moving, "What moves through the picture does not count"),
        field("kind", &Deflicker::kind, "The kind of flicker, as measured"),
        field("corrected", &Deflicker::corrected, "What was done: as set by hand, or as suits the kind"),
        field("before", &Deflicker::before, "As measured, as shot"),
        field("after", &Deflicker::after, "As measured, evened"),
    };
};
template <>
struct Fields<LightRegion> : Fields<Region>
{
};

}
