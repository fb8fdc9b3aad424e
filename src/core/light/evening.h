#pragma once
#include "core/light/brightness.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

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

struct EveningWishes
{
    double window_s = 4; ///< changes that take longer stay
    double strength = 1; ///< of what is taken out, 0 to 1
    bool each_colour = false; ///< R, G and B by themselves, for flicker in colour
    bool camera_steps = false; ///< what the camera's settings made is taken out
    std::vector<LightStep> steps{}; ///< what was decided about steps found before, by photo
};

/// What is to be done to the light of one photo.
struct LightChange
{
    /// Its brightness as shot, by what its cells share with those of the other photos: that of the whole would jump
    /// whenever a window begins to clip and its pixels are left out.
    double stops = 0;
    double target = 0; ///< what it is to be
    Stops3 gain{}; ///< of linear R, G, B, stops
    bool suspect = false; ///< much darker or brighter than those around it: a flash, a shadow
    bool operator==(const LightChange&) const = default;
};

struct Evening
{
    std::vector<LightChange> photos; ///< those that could not be measured are left as they are
    std::vector<LightStep> steps;
    std::vector<std::array<double, 4>> curve; ///< what is to be of what the cells share, by photo: R, G, B, luminance; stops
};

/// How the light of a shot is evened. What all parts of the picture share from photo to photo is taken for flicker, so that a
/// subject that moves through it does not count: differences between neighbouring photos, robust over the cells of the grid
/// and brought together by least squares. What is slower than the window stays: robust local polynomials (Cleveland 1979)
/// over each stretch between steps. seconds: where each photo is in the film, ascending. exposures: the camera's settings
/// in stops (exposure_steps.h), where they are known.
Evening even_light(std::span<const Brightness> photos, std::span<const double> seconds, std::span<const std::optional<double>> exposures,
                   const EveningWishes& wishes);

/// Measures, evens, and measures again what that makes of the photos, until what is left is below what can be measured; at
/// most twice more. The brightness that is reported is the measured one.
struct EvenedShot
{
    Evening evening;
    std::vector<double> after; ///< the same, measured after the change
    double flicker_before = 0; ///< of what all parts of the picture share; neither a moving subject nor steps count
    double flicker_after = 0;
};
EvenedShot even_shot(const std::vector<SeenPhoto>& photos, const std::vector<Alignment>& alignments, std::span<const double> seconds, const Region& region,
                     const EveningWishes& wishes, const PhotoSource& source, const Job& job);

/// Flicker: root mean square, stops, of brightness less its Gaussian smoothing with sigma of 5 photos, ends reflected.
double flicker_of(std::span<const double> stops);

/// That smoothing.
std::vector<double> gaussian_smoothed(std::span<const double> values, double sigma = 5);

}
