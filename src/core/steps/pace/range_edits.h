#pragma once
#include "core/project/project.h"

#include <utility>
#include <variant>

namespace frenlo {

// Edits of the range of a shot that is kept in its film, as edits.h says.

Project set_kept(const Project& project, ShotIndex shot, std::optional<KeptRange> kept);
/// What a range is taken out of: shown photos of the film, thinned, in the shot's order, once.
std::vector<HeldPhoto> to_choose_from(const Project& project, const Shot& shot);
/// The range starts with this photo, ends with it. A length that is fixed stays: the range is slid then.
Project keep_from(const Project& project, ShotIndex shot, PhotoIndex photo);
Project keep_to(const Project& project, ShotIndex shot, PhotoIndex photo);
/// By so many photos of the film; it stops at the ends, where its length still fits.
Project slide_kept(const Project& project, ShotIndex shot, std::int64_t by);
/// How far it can be slid, back and on.
struct SlideRoom
{
    std::int64_t back = 0;
    std::int64_t on = 0;
};
SlideRoom slide_room(const Project& project, const Shot& shot);
/// Fixes the length of the range, or with none ends it where it ends now. Without a range it starts at the first photo.
Project fix_kept(const Project& project, ShotIndex shot, std::optional<std::variant<PhotoCount, Seconds>> extent);
/// The photos that the range takes in: first, and one past the last, by position; all of them without a range.
std::pair<PhotoIndex, PhotoIndex> kept_photos(const Project& project, const Shot& shot);

/// By how many seconds a range of fixed length goes beyond the photos that there are, in one pass; 0 where it does not.
double missing_at_end(const Project& project, const Shot& shot);

}
