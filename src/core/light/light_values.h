#pragma once
// What is known of a shot's light and what is done to it, as values.
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
    std::vector<double> by_tone{}; ///< at tone_knots, where the flicker is more than a gain; none: nothing
    std::vector<double> by_place{}; ///< row by row, where the light is uneven over the picture; none: nothing
    [[nodiscard]] bool nothing() const { return *this == Correction(); }
    bool operator==(const Correction&) const = default;
};

/// The light changes at once and stays so.
struct LightJump
{
    enum class Cause { scene, camera };
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
    enum class Tones { all, highlights, shadows, apart };
    double size = 0; ///< of what is quick in the shared brightness, a standard deviation, stops; 0: not measured
    double period = 0; ///< photos, where most of it comes again after so many; 0: it does not
    int settings = 0; ///< how often the camera's settings changed by thirds or halves to and fro
    bool by_colour = false; ///< R, G and B each go their own way
    Tones tones = Tones::all; ///< which of them flicker
    bool by_place = false; ///< parts of the picture go their own way
    bool operator==(const FlickerKind&) const = default;
};

/// Which corrections are made beside that of the shared brightness.
struct Corrected
{
    bool each_colour = false; ///< R, G and B by themselves, for flicker in colour
    bool by_tone = false; ///< darks and lights apart, where flicker is not a plain gain
    bool by_place = false; ///< each part of the picture by itself, where it is lit unevenly
    bool camera_steps = false; ///< what the camera's settings made is taken out
    bool operator==(const Corrected&) const = default;
};

/// How light is to be evened. Corrections without a value: as suits the kind of flicker.
struct EveningWishes
{
    double window_s = 0; ///< changes that take longer stay; 0: as the photos say (adaptive_course.h)
    double strength = 1; ///< of what is taken out, 0 to 1
    std::optional<bool> each_colour{};
    std::optional<bool> by_tone{};
    std::optional<bool> by_place{};
    std::optional<bool> camera_steps{};
    bool leave_out_moving = true; ///< what moves through the picture does not count
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
    bool suspect = false; ///< all or a large part of it is much darker or brighter than in those around it: a flash, a shadow
    bool operator==(const LightChange&) const = default;
};

/// How much of each kind of flicker there is, stops (NUMBERS: root mean square about the slow course).
struct FlickerFigures
{
    double shared = 0; ///< by all of the picture
    double by_colour = 0; ///< what red, green and blue do beside that
    double by_tone = 0; ///< what darks and lights do beside that
    double by_place = 0; ///< what parts of the picture do beside that
    bool operator==(const FlickerFigures&) const = default;
};

}
