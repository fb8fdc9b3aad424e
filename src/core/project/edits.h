#pragma once
#include "core/project/project.h"
#include "core/source/matching.h"
#include "core/source/order.h"

#include <span>
#include <string>

namespace frenlo {

/// Every edit takes a project and returns the project after it; nothing else changes. An edit that would change nothing
/// returns an equal project. Indexes must be within the project (std::out_of_range).

/// Adds a shot; a name that is taken gets a number behind it.
Project add_shot(const Project& project, Shot shot);

/// What a shot of this kind starts with: hand-moved work on twos, the rest a photo a frame (common practice, no
/// source).
Hold starting_hold(ShotKind kind);

Project remove_shot(const Project& project, ShotIndex shot);
Project rename_shot(const Project& project, ShotIndex shot, const std::string& name);

Project set_aside(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, bool aside);

/// Photos to where the photo "before" is, in their order; before may be one past the last. On a card they join the part
/// that they are put into.
Project move_photos(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, PhotoIndex before);

/// One shot becomes two; the second starts with this photo, which must not be the first.
Project split_shot(const Project& project, ShotIndex shot, PhotoIndex photo);
/// The next shot's photos go behind this one's.
Project join_with_next(const Project& project, ShotIndex shot);

/// Photos take the place of others, under all that was made of these. A photo that could not be used and was set aside
/// for it comes back. Of one shot, or of all.
Project replace_photos(const Project& project, ShotIndex shot, std::span<const Match> matches);
Project replace_photos(const Project& project, std::span<const Match> matches);

Project set_backdrop(const Project& project, ShotIndex shot, std::optional<Backdrop> backdrop);

/// By name or by capture time; holds and set-aside stay with their photos.
Project order_shot(const Project& project, ShotIndex shot, PhotoOrder order);
Project reverse_shot(const Project& project, ShotIndex shot);

}
