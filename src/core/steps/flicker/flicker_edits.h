#pragma once
#include "core/project/to_measure.h"
#include "core/steps/flicker/deflicker.h"
#include "core/steps/flicker/deflicker_values.h"

namespace frenlo {

/// What evening a shot takes: of the photos as to_measure gives them, where each lies and when it is seen, and what was
/// decided before about steps.
struct DeflickerInput
{
    ToMeasure photos;
    std::vector<Transform> from_film; ///< how they lie in the film's plane; none where they are the plane themselves
    std::vector<double> seconds;
    Region region;
    DeflickerOptions options;
    /// Whether what is measured of one holds for the other: the same photos, lying and following each other in the same
    /// way.
    [[nodiscard]] bool same_photos(const DeflickerInput& other) const;
};
DeflickerInput deflicker_input(const Project& project, const Shot& shot, const Deflicker& deflicker);

/// The shot's light is evened as was measured.
Project set_deflicker(const Project& project, ShotIndex shot, const DeflickerInput& measured,
                      const DeflickerResult& result, const Deflicker& deflicker);

/// The photos in the film of an evened shot whose light could not be measured, and why. Reads those again.
std::vector<Problem> unmeasured_light(const Shot& shot, const PhotoSource& source);

/// Where is measured next, of the film's plane.
Project set_light_region(const Project& project, ShotIndex shot, const Region& region);

/// The region as it lies on one photo of the shot, in shares of it; and back.
Region light_region_on(const Shot& shot, PhotoIndex photo);
Region into_film(const Shot& shot, PhotoIndex photo, const Region& on_photo);

/// Decides about a photo that stands out.
Project resolve_light(const Project& project, ShotIndex shot, PhotoIndex photo, LightRemedy remedy);

/// It stands out, and nothing was decided about it.
bool to_look_at(const ShotPhoto& photo);

/// What is done to the photo's light in the film.
Correction correction_of(const PhotoLight& light);

/// Its brightness in the film, stops; of one that is mixed from its neighbours the mean of theirs. Nothing where it was
/// not measured.
std::optional<double> light_now(const Shot& shot, PhotoIndex photo);

/// Of a photo that its neighbours stand in for: the nearest ones before and behind that stand for themselves, and how
/// much of each; else none.
std::vector<Share> mixed_neighbours(const Shot& shot, PhotoIndex photo);

/// As shot again; what was measured goes.
Project light_as_shot(const Project& project, ShotIndex shot);

}
