#pragma once
#include "core/steps/flicker/common_brightness.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

/// What flickers, from what the photos of a shot share: only what is quick counts, the difference of each photo to the
/// line through its neighbours, so that neither the day's light nor a subject that walks through speaks for a kind.
/// exposures: one a photo, stops (exposure_steps.h), where they are known.
FlickerKind flicker_kind(const CommonBrightness& shared, std::span<const std::optional<double>> exposures);

/// The tones that do not flicker at all, by their place among the knots: what all seem to share goes against them in
/// full. They show the light as it is. None where all flicker, or where too little is seen of them.
std::vector<std::size_t> still_tones(const CommonBrightness& shared);

/// What takes this kind out.
Corrected what_suits(const FlickerKind& kind);

/// "This flickers every third photo, in the highlights only.", for people.
std::string told(const FlickerKind& kind);

}
