#pragma once
#include "core/project/reel_items.h"
#include "core/timeline/reel_timeline.h"

#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace frenlo {

// Every edit takes a project and returns the project after it. What names an item or a sound that is not there changes
// nothing.

/// These shots, in this order, and no other.
Project set_reel(const Project& project, std::span<const ShotId> shots);
/// The shot once more, before this item; at the end where there is none.
Project add_to_reel(const Project& project, ShotId shot, std::optional<ReelItemId> before = {});
Project remove_from_reel(const Project& project, ReelItemId item);
/// To where the item "before" is; to the end where there is none.
Project move_in_reel(const Project& project, ReelItemId item, std::optional<ReelItemId> before);
/// change gets a copy of it; what it sets out of its limits is put right.
Project change_reel_item(const Project& project, ReelItemId item, const std::function<void(ReelItem&)>& change);
Project change_reel(const Project& project, const std::function<void(Reel&)>& change);

/// Markers stay in order of time; a second one at the same time takes the first one's place, one without text goes.
Project set_marker(const Project& project, Seconds at, const std::string& text);

/// Under the Reel; its identity is made here.
Project add_sound(const Project& project, Sound sound);
Project remove_sound(const Project& project, SoundId sound);
/// change gets a copy of it; what it sets out of its limits, or beyond the file's ends, is put right.
Project change_sound(const Project& project, SoundId sound, const std::function<void(Sound&)>& change);
/// Two sounds of it, the second beginning at this time of the Reel; nothing where that lies outside of it.
Project split_sound(const Project& project, SoundId sound, Seconds at);
/// What two sounds have in common is faded from the one that begins first into the other.
Project cross_fade(const Project& project, SoundId a, SoundId b);

/// How long picture and sound are, in frames of the delivery rate.
struct ReelLengths
{
    std::int64_t picture = 0;
    std::int64_t sound = 0;
    [[nodiscard]] std::int64_t picture_longer_by() const { return picture - sound; }
};
ReelLengths reel_lengths(const Project& project);
/// Of the sound alone.
std::int64_t reel_sound_frames(const Project& project);

/// What brings picture and sound to one length.
enum class LengthRemedy
{
    fit_picture, ///< every shot faster or slower by the same, to the frame
    repeat_shot, ///< the last shot again, until the sound is over
    hold_last,   ///< the last photo stays, or the last shot ends early
    cut_sound,
    fade_sound, ///< cut, and faded over the last two seconds
    loop_sound, ///< the last sound goes round
    change_tempo
};

/// The project with that done; nothing where it does not help, or lies beyond its limits.
std::optional<Project> with_remedy(const Project& project, LengthRemedy remedy);

/// Every cut to the beat that is nearest to it, where one is nearer than the half of what lies beside it.
Project cuts_to_beats(const Project& project);

/// The holds of these photos of a shot so that photos change on beats: whole frames, in their order, as long together
/// as before. beats: frames of the shot's film.
Project holds_to_beats(const Project& project, ShotIndex shot, PhotoIndex first, PhotoIndex last,
                       std::span<const std::int64_t> beats);

/// The same for all that this part of the Reel shows of its shot, with the beats that lie in it.
Project film_to_beats(const Project& project, const ReelPart& part);

}
