#pragma once
#include "core/project/operation.h"
#include "core/steps/retouch/retouch_edits.h"

#include <filesystem>
#include <vector>

namespace frenlo {

/// Where each of these spots, which are healed from around, is best taken from: the place whose surround looks most
/// like theirs, in several photos of their range at once, so that it is the same in all and does not flicker. Exemplars
/// as in Barnes et al. 2009 (PatchMatch), one for a whole mark, found by comparing with all places near by.
Operation find_sources(const Shot& shot, std::vector<SpotId> spots);

/// The scene without what moves in it: of each pixel of the film's plane the middle of what the photos show there,
/// made equally bright before, and the mean of those that agree with it. Written as a 16-bit PNG into this folder,
/// under a name that is free; the edit puts it into the shot as its clean plate. Fails where there are fewer than three
/// photos, or the file cannot be written.
Operation make_plate(const Shot& shot, const std::filesystem::path& folder);

/// Specks that are in the same place of photo after photo, of 3 to 30 pixels, as spots; those that are marked already
/// are not found again. The edit adds them.
Operation find_dust(const Shot& shot);

/// Things that appear one by one: what each photo shows that neither the clean plate nor the photo before it does, as
/// areas that show it as it was then, from its photo on; below them one of all the picture that shows the plate, so
/// that nothing else changes. The edit adds them; move the photo from which one is there, and it comes then. Fails
/// where there is no plate, or where nothing appears.
Operation find_things(const Shot& shot);

/// The spot goes with what lies under it at its first key, from photo to photo of its range, as keys at every photo;
/// keys that were set before stay and lead. Where it is lost it stays where it was last.
Operation follow_spot(const Shot& shot, SpotId spot);

}
