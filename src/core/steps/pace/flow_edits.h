#pragma once
#include "core/project/speed_course.h"

#include <cstdint>
#include <span>

namespace frenlo {

/// Edits of what lies between the photos, as edits.h says.

/// How these photos become the ones after them; none: as the shot's pacing says.
Project set_to_next(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos,
                    std::optional<Between> between);

/// In-betweens between these photos and those before them in the film, and nowhere else unless the shot has them
/// everywhere already: a photo before them that fills one frame fills two, so that there is one.
Project fill_steps_to(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos);

/// These photos are played in the other order; such ones beside each other as one part.
Project set_part_backwards(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, bool backwards);

inline constexpr double full_turn = 360;
/// How long the shutter seems to be open, degrees of the way to the next picture, 0 to 360.
Project set_shutter(const Project& project, ShotIndex shot, double degrees);

/// The shot's speed at a photo, percent; where there is a point already, its new speed.
Project set_speed_at(const Project& project, ShotIndex shot, PhotoIndex photo, double percent, Ease ease = Ease::both);
/// A point is carried to another photo, with its new speed; one that lies there is replaced.
Project move_speed_point(const Project& project, ShotIndex shot, PhotoId point, PhotoIndex to, double percent);
Project remove_speed_point(const Project& project, ShotIndex shot, PhotoId point);
Project set_speed_course(const Project& project, ShotIndex shot, SpeedCourse course);
/// The shot's, in the order of its photos; that of photos that are gone left out.
SpeedCourse speed_course_of(const Shot& shot);

/// Each of these photos is held as its share of the time until the next one was taken, all of them as long as before; a
/// photo whose time is not known as long as most. Throws Failure where fewer than two times are known.
Project hold_as_taken(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos);

/// Holds as they were tapped: from this photo on, the ones after it that are in the film begin at these times, seconds
/// since it began, rising. Each begins at the nearest frame of the pacing rate, one after the one before it at least,
/// so that nothing adds up; the photo at which the taps end keeps its hold.
Project hold_as_tapped(const Project& project, ShotIndex shot, PhotoIndex first, std::span<const double> taps);

/// Holds in frames of the pacing rate a little longer and shorter by turns of chance, by up to so many frames, to no
/// less than one; the sum stays. The same seed gives the same.
Project vary_holds(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, std::int64_t frames,
                   std::uint32_t seed);

}
