#pragma once
// Private to document/: what all edits of one shot are made of.
#include "core/document/project.h"

namespace frenlo {

/// The crop of a shot that is steadied, as its photos are now: whole pixels of the largest box of the wished shape
/// inside all photos in the film but those in doubt, so that none of these shrinks the film by mistake; the whole plane
/// where that is wanted, or where nothing is left.
void fit_crop(Shot& shot);
/// Whether both have the same crop, by what it is made of.
bool same_crop(const Shot& a, const Shot& b);

/// The project with one shot replaced by what change makes of a copy; the same project where nothing changed. The crop of
/// a steadied shot follows what was done to its photos.
template <class Change>
Project with_shot(const Project& project, ShotIndex shot, Change change)
{
    auto copy = std::make_shared<Shot>(project.shot(shot));
    change(*copy);
    if (copy->steady && !same_crop(*copy, project.shot(shot)))
        fit_crop(*copy);
    if (*copy == project.shot(shot))
        return project;
    Project result = project;
    result.shots[shot.at()] = std::move(copy);
    return result;
}

/// The photo no longer lies as it was measured; the way of a walk is broken behind it.
void forget_alignment(Shot& shot, PhotoIndex photo);

/// The name, or the name with a number behind it where a shot has it already.
std::string free_name(const Project& project, std::string name);

/// The photos in another order: order[i] is where photo i of the new list was. Parts go with their photos; a part whose
/// photos no longer lie together becomes several. owner: the part that photo i of the new list belongs to.
void reorder(Shot& shot, const std::vector<std::size_t>& order);
void reorder(Shot& shot, const std::vector<std::size_t>& order, const std::vector<std::optional<std::size_t>>& owner);

}
