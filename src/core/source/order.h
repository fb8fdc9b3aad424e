#pragma once
#include "core/source/photo_file.h"

#include <cstddef>
#include <optional>
#include <span>
#include <vector>

namespace frenlo {

enum class PhotoOrder
{
    by_name,
    by_time
};

/// Sorts photos as asked. By name: natural order; a camera's counter that went from its highest number to the first
/// (9999 to 0001, common practice, no source) goes on there, unless the capture times say otherwise. By time: photos
/// without a time come last, and equal times go by name.
void sort_photos(std::vector<PhotoPtr>& photos, PhotoOrder order);

/// The number of a photo's file, for people and reports.
std::optional<std::int64_t> number_of(const PhotoFile& photo);

/// Photos of several cameras in one place, each camera's by themselves and in their order; the one that took the first
/// photo first.
void separate_cameras(std::vector<PhotoPtr>& photos);

/// Positions of photos, in the order of their numbers, whose time is well before that of the number before: the clock
/// was set back there, and the numbers are to be believed.
std::vector<std::size_t> clock_set_back(std::span<const PhotoPtr> by_name);

/// Positions of photos at which a camera's counter started again, in photos sorted by name.
std::vector<std::size_t> counter_restarts(std::span<const PhotoPtr> by_name);

/// Positions of the photos whose capture times are out of line: the fewest that must go so that the times of the others
/// never fall. Photos without a time are never among them. Equal times are in line.
std::vector<std::size_t> out_of_line(std::span<const PhotoPtr> photos);

}
