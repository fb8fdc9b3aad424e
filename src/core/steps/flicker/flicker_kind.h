#pragma once
#include "core/steps/flicker/common_brightness.h"

#include <optional>
#include <span>
#include <string>

namespace frenlo {

/// What flickers, from what the photos of a shot share: only what is quick counts, the difference of each photo to the
/// line through its neighbours, so that neither the day's light nor a subject that walks through speaks for a kind.
/// exposures: one a photo, stops (exposure_steps.h), where they are known.
FlickerKind flicker_kind(const CommonBrightness& shared, std::span<const std::optional<double>> exposures);

/// What takes this kind out.
Corrected what_suits(const FlickerKind& kind);

/// "This flickers every third photo, in the highlights only.", for people.
std::string told(const FlickerKind& kind);

}
