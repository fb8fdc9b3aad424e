#pragma once
#include "core/document/project.h"
#include "core/photo/matching.h"
#include "core/photo/scan.h"

#include <span>
#include <string>

namespace frenlo {

/// Every edit takes a project and returns the project after it; nothing else changes. An edit that would change nothing
/// returns an equal project. Indexes must be within the project (std::out_of_range).

/// Adds a shot; a name that is taken gets a number behind it.
Project add_shot(const Project& project, Shot shot);

enum class Division {
    one_shot, ///< all photos make one shot
    found_shots, ///< as scan found them
    card ///< one unsorted card with the shots found as its parts; a plain shot where all photos are one
};

/// Adds what a scan found. Photos that cannot be read come along, set aside, with their flaw, at their place in the order.
/// hold: none takes what suits each shot's kind. name: of the one shot or card; empty takes it from the first folder.
Project add_scanned(const Project& project, const ScanResult& found, std::optional<Hold> hold, Division division,
                    const std::string& name = {});

/// The same for a scan that goes on: what it found so far is in the project already, as the shot or card that holds the
/// first of these photos, and is replaced by what is known now. What the user did to photos meanwhile stays. A project
/// without that shot is not changed: the user took it back.
Project update_scanned(const Project& project, const ScanResult& found, const std::string& name);

/// What a shot of this kind starts with: hand-moved work on twos, the rest a photo a frame (common practice, no source).
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

/// Photos take the place of others, under all that was made of these. A photo that could not be used and was set aside for
/// it comes back. Of one shot, or of all.
Project replace_photos(const Project& project, ShotIndex shot, std::span<const Match> matches);
Project replace_photos(const Project& project, std::span<const Match> matches);

Project set_backdrop(const Project& project, ShotIndex shot, Backdrop backdrop);

/// By name or by capture time; holds and set-aside stay with their photos.
Project order_shot(const Project& project, ShotIndex shot, PhotoOrder order);
Project reverse_shot(const Project& project, ShotIndex shot);

}
