#pragma once
#include "core/steps/flicker/common_brightness.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

struct DeflickerCurve
{
    std::vector<LightChange> photos; ///< those that could not be measured are left as they are
    std::vector<LightStep> steps;
    std::vector<std::size_t> measured; ///< which photos could be
    double window_s = 0;               ///< what takes longer stays, seconds: as wished, or as was found
    FlickerKind kind;
    Corrected corrected;  ///< as wished, or as suits the kind
    CommonBrightness aim; ///< what is to be of what the pictures share, one value a measured photo
};

/// How the light of a shot is evened. What all parts of the picture share from photo to photo (shared_light.h) and is
/// quicker than the window is taken for flicker; what is slower stays (slow_light.h), and so do steps in the scene that
/// are kept (light_steps.h). seconds: where each photo is in the film, ascending. exposures: the camera's settings in
/// stops (exposure_steps.h), where they are known; where they are not, steps of the camera are found on the pictures.
DeflickerCurve deflicker_curve(std::span<const Brightness> photos, std::span<const double> seconds,
                               std::span<const std::optional<double>> exposures, const DeflickerOptions& options);

/// Measures, evens, and measures again what that makes of the photos, until what is left is below what can be measured;
/// at most twice more. What is reported is measured.
struct DeflickerResult
{
    DeflickerCurve curve;
    std::vector<double> after;     ///< the brightness after the change, by what the pictures share
    FlickerFigures before_figures; ///< neither a moving subject nor steps count
    FlickerFigures after_figures;
};
DeflickerResult deflicker_shot(const std::vector<SeenPhoto>& photos, const std::vector<Transform>& from_film,
                               std::span<const double> seconds, const Region& region, const DeflickerOptions& options,
                               const PhotoSource& source, const Job& job);

}
