#pragma once
#include "core/source/photo_file.h"

#include <optional>
#include <span>
#include <vector>

namespace frenlo {

/// The times between photos, in order: gaps[i] is the time from photo i - 1 to photo i, in seconds; nothing for the
/// first, for photos without a time, and where one of the two was taken out of line.
std::vector<std::optional<double>> gaps_between(std::span<const PhotoPtr> photos);

}
