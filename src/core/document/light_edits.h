#pragma once
#include "core/document/steady_edits.h"
#include "core/light/evening.h"

namespace frenlo {

/// What evening a shot takes: of the photos as to_measure gives them, where each lies and when it is seen, and what was
/// decided before about steps.
struct ToEven
{
    ToMeasure photos;
    std::vector<Alignment> alignments; ///< none where the shot is not steadied
    std::vector<double> seconds;
    Region region;
    EveningWishes wishes;
    /// Whether what is measured of one holds for the other: the same photos, lying and following each other in the same way.
    [[nodiscard]] bool same_photos(const ToEven& other) const;
};
ToEven to_even(const Project& project, const Shot& shot, const Lighting& lighting);

/// The shot's light is evened as was measured.
Project even_shot(const Project& project, ShotIndex shot, const ToEven& measured, const EvenedShot& result, const Lighting& lighting);

/// The photos whose light could not be measured, and why. Reads those again.
std::vector<Problem> unmeasured_light(const ToEven& measured, const EvenedShot& result, const PhotoSource& source);

/// Where is measured next, of the film's plane.
Project set_light_region(const Project& project, ShotIndex shot, const Region& region);

/// The region as it lies on one photo of the shot, in shares of it; and back.
Region light_region_on(const Shot& shot, PhotoIndex photo);
Region into_film(const Shot& shot, PhotoIndex photo, const Region& on_photo);

/// Decides about a photo that stands out.
Project settle_light(const Project& project, ShotIndex shot, PhotoIndex photo, LightRemedy remedy);

/// It stands out, and nothing was decided about it.
bool to_look_at(const ShotPhoto& photo);

/// What is done to the photo's light in the film.
Correction correction_of(const PhotoLight& light);

/// Its brightness in the film, stops; of one that is mixed from its neighbours the mean of theirs. Nothing where it was not
/// measured.
std::optional<double> light_now(const Shot& shot, PhotoIndex photo);

/// Which photos are seen in its place, and how much of each: itself, or the nearest ones before and behind that stand for
/// themselves.
std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo);

/// As shot again; what was measured goes.
Project light_as_shot(const Project& project, ShotIndex shot);

}
