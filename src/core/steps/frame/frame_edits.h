#pragma once
#include "core/steps/frame/frame_values.h"
#include "core/steps/frame/level.h"

#include <functional>
#include <span>

namespace frenlo {

/// Changes how the shot is dressed. What is left as if nothing was said is as if nothing was said.
Project change_framing(const Project& project, ShotIndex shot, const std::function<void(Framing&)>& change);

/// Turned and drawn apart as was found, to what a person would set.
Project make_upright(const Project& project, ShotIndex shot, const Upright& found);

/// A view at this photo, in place of the one that it has; none: it has none any more. Boxes have at least a thousandth
/// of each side.
Project set_view(const Project& project, ShotIndex shot, PhotoIndex photo, const std::optional<DriftView>& view);

/// The last view becomes the first: what was drifted to is drifted from.
Project turn_drift_round(const Project& project, ShotIndex shot);

Project drop_views(const Project& project, ShotIndex shot);

/// What the lens of this shot's photos did to straight lines is taken out of all of them. Throws Failure where that
/// cannot be (lens.h).
Project set_lens(const Project& project, ShotIndex shot, const Lens& lens);
/// That of most of its photos; none where most have none.
Lens lens_of(const Shot& shot);

/// Shape, crop, lens, looks and views of a shot for others: views lie as far along each of them.
Project copy_dress(const Project& project, ShotIndex shot, std::span<const ShotId> to);

/// As shot: no shape, no views, no looks.
Project drop_dress(const Project& project, ShotIndex shot);

/// The shot is dressed for this shape, too, and that dress is in hand: as it was before, or, the first time, as the one
/// in hand with another shape, without its crop and its views. What was in hand is kept.
Project dress_for(const Project& project, ShotIndex shot, const FilmShape& shape);
void dress_for(Shot& shot, const FilmShape& shape);
/// No longer dressed for this shape; of the one in hand another one takes the place, where there is one.
Project drop_shape(const Project& project, ShotIndex shot, const FilmShape& shape);
/// The shapes that it is dressed for beside the one in hand.
std::vector<FilmShape> shapes_beside(const Shot& shot);

/// Something is done to its frame.
bool is_dressed(const Shot& shot);

}
