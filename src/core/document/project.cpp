#include "core/document/project.h"

#include <algorithm>

namespace frenlo {

std::optional<ShotIndex> Project::find_shot(std::string_view name) const
{
    const auto it = std::find_if(shots.begin(), shots.end(), [&](const ShotPtr& s) { return s->name == name; });
    if (it == shots.end())
        return std::nullopt;
    return ShotIndex(it - shots.begin());
}

bool Project::operator==(const Project& other) const
{
    return delivered_at == other.delivered_at &&
           std::equal(shots.begin(), shots.end(), other.shots.begin(), other.shots.end(),
                      [](const ShotPtr& a, const ShotPtr& b) { return a == b || *a == *b; });
}

Schedule schedule_of(const Project& project, const Shot& shot)
{
    std::vector<HeldPhoto> held;
    held.reserve(shot.photos.size());
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (!shot.photos[i].aside)
            held.push_back({PhotoIndex(std::int64_t(i)), shot.photos[i].hold});
    return {held, shot.paced_at.value_or(project.delivered_at), project.delivered_at};
}

std::int64_t photos_in_film(const Shot& shot)
{
    return std::count_if(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) { return !p.aside; });
}

}
