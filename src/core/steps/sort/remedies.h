#pragma once
#include "core/project/project.h"
#include "core/source/finding.h"

#include <string>

namespace frenlo {

/// The project after a remedy for a finding about this shot. Files that are not in the shot are passed over.
/// Remedy::find_again needs another folder and is not an edit of this kind: it changes nothing here.
Project apply_remedy(const Project& project, ShotIndex shot, const Finding& finding, Remedy remedy);

/// The finding is right as it is; it is not brought up again for this shot.
Project resolve(const Project& project, ShotIndex shot, const Finding& finding);
bool is_resolved(const Shot& shot, const Finding& finding);

/// The photo is set aside and the photo before it in the film stays for its time; where none is before, the one after.
Project hold_before(const Project& project, ShotIndex shot, PhotoIndex photo);

/// Holds together, exact: frames where both are frames, else seconds.
Hold hold_sum(Hold a, Hold b, Rate paced_at);

/// Quarters clockwise; 3 is one to the left.
Project turn_photos(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, int quarters);

}
