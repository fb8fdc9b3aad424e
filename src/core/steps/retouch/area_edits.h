#pragma once
#include "core/picture/areas.h"

#include <functional>
#include <span>
#include <string>
#include <utility>

namespace frenlo {

// Every edit takes a project and returns the project after it. What names an area or a state that is not there changes
// nothing.

/// On top of the others; its identity, and a name of its own, are made here unless it has them.
std::pair<Project, AreaId> add_area(const Project& project, ShotIndex shot, Area area);
/// change gets a copy; what it sets out of its limits is put right.
Project change_area(const Project& project, ShotIndex shot, AreaId area, const std::function<void(Area&)>& change);
/// What was limited to it holds nowhere then.
Project remove_area(const Project& project, ShotIndex shot, AreaId area);
/// Its outline at this photo: the only one of an area that does not move, else a key.
Project place_area(const Project& project, ShotIndex shot, AreaId area, PhotoId photo,
                   std::span<const cv::Point2d> points, bool moves);

/// Another finished version of the photos; its name gets a number where it is taken.
std::pair<Project, StateId> add_state(const Project& project, ShotIndex shot, const std::string& name);
Project rename_state(const Project& project, ShotIndex shot, StateId state, const std::string& name);
/// Its photos are as before it was there; what holds in it only holds nowhere.
Project remove_state(const Project& project, ShotIndex shot, StateId state);
/// From this photo on they are in it; none: in no state. Where that says nothing new it is not kept.
Project switch_state(const Project& project, ShotIndex shot, PhotoIndex photo, std::optional<StateId> state);
/// These photos once more at the end of the shot, in this state: all that was measured on them and set for them is
/// theirs as well.
Project once_more(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, StateId state);

/// What is not as asked: areas that show a clean plate where there is none, or a photo that is gone.
std::vector<std::string> area_notes(const Shot& shot);

/// In words: "photos 3 to 7", "all photos".
std::string photos_text(const Area& area, const Shot& shot);

}
