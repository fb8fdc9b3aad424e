#pragma once
#include "core/document/steady_edits.h"

namespace frenlo {

/// What evening a shot takes: of the photos as to_measure gives them, where each lies and when it is seen, and what was
/// decided before about steps.
struct ToEven
{
    ToMeasure photos;
    std::vector<Alignment> alignments; ///< none where the shot is not steadied
    std::vector<double> seconds;
    EveningWishes wishes;
};
ToEven to_even(const Project& project, const Shot& shot, const Lighting& lighting);

/// The shot's light is evened as was measured.
Project even_shot(const Project& project, ShotIndex shot, const ToEven& measured, const EvenedShot& result, const Lighting& lighting);

/// As shot again; what was measured goes.
Project light_as_shot(const Project& project, ShotIndex shot);

}
