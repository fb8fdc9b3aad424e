#pragma once
// What is known of a shot's light and what is done to it, as values.
#include "core/base/fields.h"

#include <array>
#include <cstddef>
#include <optional>
#include <vector>

namespace frenlo {

/// Colours in the order R, G, B. Stops are log2 of linear light, scene white 1 (sRGB: IEC 61966-2-1).
using Stops3 = std::array<double, 3>;

/// Where a correction by tone has its values, stops; linear between, level beyond.
inline constexpr std::array<double, 5> tone_knots{-7, -5, -3.5, -2, -0.7};

/// A correction by place has its values in the middles of so many cells over the picture; linear between, level beyond.
inline constexpr int place_columns = 4, place_rows = 3;

/// What is done to the light of a picture, in stops of linear light. All parts add up.
struct Correction
{
    Stops3 gain{};
    std::vector<double> by_tone{};  ///< at tone_knots, where the flicker is more than a gain; none: nothing
    std::vector<double> by_place{}; ///< row by row, where the light is uneven over the picture; none: nothing
    [[nodiscard]] bool nothing() const { return *this == Correction(); }
    bool operator==(const Correction&) const = default;
};

/// The light changes at once and stays so.
struct LightJump
{
    enum class Cause
    {
        scene,
        camera
    };
    double stops = 0; ///< how much brighter it is from there on, as shot
    Cause cause = Cause::scene;
    bool kept = true; ///< in the film; else it is taken out
    bool operator==(const LightJump&) const = default;
};

struct LightStep
{
    std::size_t photo = 0; ///< the first one with the new light
    LightJump jump;
};

/// What kind of flicker a shot has (flicker_kind.h).
struct FlickerKind
{
    enum class Tones
    {
        all,
        highlights,
        shadows,
        apart
    };
    double size = 0;        ///< of what is quick in the shared brightness, a standard deviation, stops; 0: not measured
    double period = 0;      ///< photos, where most of it comes again after so many; 0: it does not
    int settings = 0;       ///< how often the camera's settings changed by thirds or halves to and fro
    bool by_colour = false; ///< R, G and B each go their own way
    Tones tones = Tones::all; ///< which of them flicker
    bool by_place = false;    ///< parts of the picture go their own way
    bool operator==(const FlickerKind&) const = default;
};

/// Which corrections are made beside that of the shared brightness.
struct Corrected
{
    bool each_colour = false;  ///< R, G and B by themselves, for flicker in colour
    bool by_tone = false;      ///< darks and lights apart, where flicker is not a plain gain
    bool by_place = false;     ///< each part of the picture by itself, where it is lit unevenly
    bool camera_steps = false; ///< what the camera's settings made is taken out
    bool operator==(const Corrected&) const = default;
};

/// How light is to be evened. Corrections without a value: as suits the kind of flicker.
struct DeflickerOptions
{
    double window_s = 0; ///< changes that take longer stay; 0: as the photos say (adaptive_course.h)
    double strength = 1; ///< of what is taken out, 0 to 1
    std::optional<bool> each_colour{};
    std::optional<bool> by_tone{};
    std::optional<bool> by_place{};
    std::optional<bool> camera_steps{};
    bool leave_out_moving = true;   ///< what moves through the picture does not count
    std::vector<LightStep> steps{}; ///< what was decided about steps found before, by photo
};

/// What was found out about the light of one photo, and what is to be done to it.
struct LightChange
{
    /// Its brightness as shot, by what its cells share with those of the other photos: that of the whole would jump
    /// whenever a window begins to clip and its pixels are left out.
    double stops = 0;
    double target = 0; ///< what it is to be
    Correction correction;
    double steps = 0; ///< the part of the gain that takes out steps, stops; the rest is flicker
    bool outlier =
        false; ///< all or a large part of it is much darker or brighter than in those around it: a flash, a shadow
    bool operator==(const LightChange&) const = default;
};

/// How much of each kind of flicker there is, stops (NUMBERS: root mean square about the slow course).
struct FlickerFigures
{
    double shared = 0;    ///< by all of the picture
    double by_colour = 0; ///< what red, green and blue do beside that
    double by_tone = 0;   ///< what darks and lights do beside that
    double by_place = 0;  ///< what parts of the picture do beside that
    bool operator==(const FlickerFigures&) const = default;
};

inline constexpr Limits in_stops{-40, 40};

template <>
struct Fields<Correction>
{
    static constexpr FieldTable table{
        field("gain", &Correction::gain, "Stops of R, G, B", in_stops),
        field("by_tone", &Correction::by_tone,
              "Stops at -7, -5, -3.5, -2 and -0.7 stops of linear light; absent: nothing",
              {-40, 40, tone_knots.size()}),
        field("by_place", &Correction::by_place, "Stops in the middles of 4 x 3 cells, row by row; absent: nothing",
              {-40, 40, std::size_t(place_columns) * place_rows}),
    };
};

template <>
struct Words<LightJump::Cause>
{
    static constexpr std::array<std::string_view, 2> words{"scene", "camera"};
};
template <>
struct Fields<LightJump>
{
    static constexpr FieldTable table{
        field("stops", &LightJump::stops, "How much brighter it is from there on, as shot", in_stops),
        field("cause", &LightJump::cause, ""),
        field("kept", &LightJump::kept, "In the film; else it is taken out"),
    };
};

template <>
struct Words<FlickerKind::Tones>
{
    static constexpr std::array<std::string_view, 4> words{"all", "highlights", "shadows", "apart"};
};
template <>
struct Fields<FlickerKind>
{
    static constexpr FieldTable table{
        field("size", &FlickerKind::size, "Of what is quick in the shared brightness, a standard deviation, stops",
              {0, 40}),
        field("period", &FlickerKind::period, "Photos after which it comes again; 0: it does not", {0, 1e6}),
        field("settings", &FlickerKind::settings, "How often the camera's settings changed to and fro", {0, 1e9}),
        field("by_colour", &FlickerKind::by_colour, ""),
        field("tones", &FlickerKind::tones, ""),
        field("by_place", &FlickerKind::by_place, ""),
    };
};

template <>
struct Fields<Corrected>
{
    static constexpr FieldTable table{
        field("each_colour", &Corrected::each_colour, "R, G and B by themselves"),
        field("by_tone", &Corrected::by_tone, "Darks and lights apart"),
        field("by_place", &Corrected::by_place, "Each part of the picture by itself"),
        field("camera_steps", &Corrected::camera_steps, "What the camera's settings made is taken out"),
    };
};

template <>
struct Fields<LightChange>
{
    static constexpr FieldTable table{
        field("stops", &LightChange::stops, "Brightness as shot", in_stops),
        field("target", &LightChange::target, "What it is to be, stops", in_stops),
        field("correction", &LightChange::correction, ""),
        field("steps", &LightChange::steps, "The part of the gain that takes out steps, stops", in_stops),
        field("suspect", &LightChange::outlier, "Much darker or brighter than the photos around it"),
    };
};

template <>
struct Fields<FlickerFigures>
{
    static constexpr FieldTable table{
        field("shared", &FlickerFigures::shared, "Stops, by all of the picture", {0, 40}),
        field("by_colour", &FlickerFigures::by_colour, "Stops, beside that", {0, 40}),
        field("by_tone", &FlickerFigures::by_tone, "Stops, beside that", {0, 40}),
        field("by_place", &FlickerFigures::by_place, "Stops, beside that", {0, 40}),
    };
};

}
