#pragma once
#include "core/steps/tone/tone_values.h"

#include <functional>
#include <span>

namespace frenlo {

/// The photo becomes an anchor photo with this tone, or gets another one. The first one's tone holds for the shot.
Project set_anchor(const Project& project, ShotIndex shot, PhotoIndex photo, const Tone& tone);

/// Changes the tone of the whole shot: of each anchor photo, or the one tone where there is none.
Project change_tone(const Project& project, ShotIndex shot, const std::function<void(Tone&)>& change);

/// No longer an anchor photo. The tone of the last one stays that of the shot.
Project drop_anchor(const Project& project, ShotIndex shot, PhotoIndex photo);

/// The tone that this photo has for all photos: no anchors any more.
Project same_tone_for_all(const Project& project, ShotIndex shot, PhotoIndex photo);

/// The tone that a photo has for these photos of the shot, each an anchor; and for other shots, all of their photos.
Project copy_tone(const Project& project, ShotIndex shot, PhotoIndex from, std::span<const PhotoIndex> to);
Project copy_tone_to_shots(const Project& project, ShotIndex shot, PhotoIndex from, std::span<const ShotId> to);

Project set_tone_blend(const Project& project, ShotIndex shot, ToneBlend blend);

/// The tone of an area or a state, on top of that of the photo; as shot: none there.
Project set_part_tone(const Project& project, ShotIndex shot, const ToneWhere& where, const Tone& tone);

/// As shot: no tone, no anchors, none of areas and states.
Project drop_tone(const Project& project, ShotIndex shot);

/// It is toned: something is done to some photo.
bool is_toned(const Shot& shot);

}
