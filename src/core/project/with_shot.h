#pragma once
// What all edits of one shot are made of.
#include "core/project/project.h"
#include "core/project/shot_edit.h"

namespace frenlo {

/// The project with one shot replaced by what change makes of a copy; the same project where nothing changed. What
/// steps keep of the shot follows what was done to its photos (shot_edit.h).
template <class Change>
Project with_shot(const Project& project, ShotIndex shot, Change change)
{
    auto copy = std::make_shared<Shot>(project.shot(shot));
    change(*copy);
    follow_edit(project.shot(shot), *copy);
    if (*copy == project.shot(shot))
        return project;
    Project result = project;
    result.shots[shot.at()] = std::move(copy);
    return result;
}

/// The name, or the name with a number behind it where a shot has it already.
std::string free_name(const Project& project, std::string name);

/// The photos in another order: order[i] is where photo i of the new list was. Parts go with their photos; a part whose
/// photos no longer lie together becomes several. owner: the part that photo i of the new list belongs to.
void reorder(Shot& shot, const std::vector<std::size_t>& order);
void reorder(Shot& shot, const std::vector<std::size_t>& order, const std::vector<std::optional<std::size_t>>& owner);

}
