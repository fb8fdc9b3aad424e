#pragma once
#include "core/project/delivery.h"
#include "core/steps/pace/range_edits.h"

#include <span>
#include <string>

namespace frenlo {

/// Edits of the timing, as edits.h says. Those that compute holds throw Failure where a hold would get longer than an
/// hour or too fine to be kept exactly.

/// These of the photos that are in the film and shown, in the shot's order.
std::vector<HeldPhoto> shown_of(const Shot& shot, std::span<const PhotoIndex> photos);

Project set_hold(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Hold hold);
/// Holds in frames by so many frames of the pacing rate, others by frames of the delivery rate, to no less than one;
/// photos that are not shown stay so.
Project lengthen(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, std::int64_t frames);
/// Of the film's first and last photo, once, whatever their own holds are; none takes it back.
Project set_first_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold);
Project set_last_hold(const Project& project, ShotIndex shot, std::optional<Hold> hold);

/// The shown ones of these photos last this long together: equal holds of whole frames, the remainder spread evenly.
/// Where there are more photos than frames, equal parts of the time.
Project spread_over(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length);
/// The same length, but each hold keeps its share of it: exact in total.
Project fit_to(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Seconds length);
/// Twice as fast is 2: every hold is divided by it, exactly. Above 0.
Project change_speed(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Fraction speed);
/// What these photos last in one pass, set-aside and unshown ones left out. Throws Failure where it is no fraction.
Seconds length_of_photos(const Project& project, const Shot& shot, std::span<const PhotoIndex> photos);

/// The rate that the shot's holds in frames are counted in; none: as delivered.
Project set_paced_at(const Project& project, ShotIndex shot, std::optional<Rate> rate);
Project set_between(const Project& project, ShotIndex shot, Between between);

/// A shot of its own of the same photos, which from then on has its own timing, at place_of_version(): behind this one
/// and the versions that follow it.
Project keep_as_version(const Project& project, ShotIndex shot);
ShotIndex place_of_version(const Project& project, ShotIndex shot);

Project set_keep_every(const Project& project, ShotIndex shot, int every);
Project set_backwards(const Project& project, ShotIndex shot, bool backwards);
/// So many of the film's last frames become what the kept range leaves out before it: a loop without a seam.
Project set_joint(const Project& project, ShotIndex shot, int frames);
Project set_there_and_back(const Project& project, ShotIndex shot, Return back);
/// So many times, and with at_least as many more as that takes.
Project set_times(const Project& project, ShotIndex shot, int times, std::optional<Seconds> at_least = {});

/// The photo is marked, or no longer.
Project toggle_mark(const Project& project, ShotIndex shot, PhotoIndex photo);
Project clear_marks(const Project& project, ShotIndex shot);
std::vector<PhotoIndex> marked_photos(const Shot& shot);
/// From each marked photo on, it included, so many photos of the film are set aside; the marks go.
Project set_aside_at_marks(const Project& project, ShotIndex shot, std::int64_t photos);

}
