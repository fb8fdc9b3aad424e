#pragma once
#include "core/project/project.h"
#include "core/steps/sort/find_shots.h"

#include <string>

namespace frenlo {

// Edits in Sort, of an unsorted card (a shot with parts) and of a shot that has none. Like all edits they return the
// project after them. What the user decides is kept in the photos' ties, so that another search respects it.

/// The photo is the first of its shot: of the part that it is in or, outside, of the next one, which then reaches to
/// it; a new part where there is none after it. Of a shot without parts: what comes before is set aside, what comes
/// after, up to the old first, is back.
Project set_first(const Project& project, ShotIndex shot, PhotoIndex photo);
/// The same for the last.
Project set_last(const Project& project, ShotIndex shot, PhotoIndex photo);

/// A part becomes two; the second starts with this photo. Nothing changes where the photo is the first of a part or in
/// none.
Project split_part(const Project& project, ShotIndex shot, PhotoIndex photo);
/// The part that the photo is in and the next one become one, with what lies between.
Project join_part_with_next(const Project& project, ShotIndex shot, PhotoIndex photo);
Project rename_part(const Project& project, ShotIndex shot, std::size_t part, const std::string& name);
/// All photos are one shot, and the shot is no longer a card.
Project make_one_shot(const Project& project, ShotIndex shot);

/// What a search is to respect.
ShotSearchOptions search_options_of(const Shot& shot);
/// The photos as a search takes them; looks by position, or none.
std::vector<Candidate> candidates_of(const Shot& shot, const std::vector<PhotoSignature>& signatures = {});
/// What the search had to say that only it can tell (turned, reached into, brackets, doubtful borders) stays with the
/// photos.
void put_remarks(Shot& card, std::span<const Finding> findings);

/// Puts what a search found in place of the parts; parts that start where one did keep its name. pause: as the user set
/// it, none for the one that is found.
Project set_found(const Project& project, ShotIndex shot, const FoundShots& found, std::optional<Seconds> pause);

/// Each part of the card becomes a shot, in the card's place. Photos in no part go, set aside, with the part after
/// them; behind the last part, with that. hold: none takes what suits each shot's kind for photos whose hold was not
/// set.
Project make_shots(const Project& project, ShotIndex card, std::optional<Hold> hold = {});

}
