#include "core/project/relocation.h"

#include <algorithm>

namespace frenlo {

PhotoPtr Relocation::photo(const PhotoPtr& old)
{
    const auto m = moved_.find(old->file);
    if (m == moved_.end())
        return old;
    auto& now = photos_[old];
    if (!now) {
        auto at_new_place = std::make_shared<PhotoFile>(*old);
        at_new_place->file = m->second;
        for (std::filesystem::path& other : at_new_place->merged)
            if (const auto o = moved_.find(other); o != moved_.end())
                other = o->second;
        now = std::move(at_new_place);
    }
    return now;
}

ShotPtr Relocation::shot(const ShotPtr& old)
{
    auto& now = shots_[old];
    if (now)
        return now;
    const bool concerned = std::any_of(old->photos.begin(), old->photos.end(),
                                       [&](const ShotPhoto& p) { return moved_.contains(p.photo->file); });
    std::vector<ShotSteps::Entry> named; // files that steps keep with the shot
    for (const ShotSteps::Entry& e : old->steps.entries())
        if (e.type->file)
            if (const auto m = moved_.find(e.type->file(e.value.get())); m != moved_.end())
                named.push_back({e.type, e.type->with_file(e.value.get(), m->second)});
    if (!concerned && named.empty())
        return now = old;
    auto at_new_place = std::make_shared<Shot>(*old);
    if (concerned)
        at_new_place->photos.edit_all([&](ShotPhoto& p) { p.photo = photo(p.photo); });
    for (ShotSteps::Entry& e : named)
        at_new_place->steps.put(std::move(e));
    return now = at_new_place;
}

Project Relocation::operator()(const Project& project)
{
    Project result = project;
    for (auto& s : result.shots)
        s = shot(s);
    for (Sound& sound : result.reel.sound.sounds)
        if (const auto at = moved_.find(sound.file); at != moved_.end())
            sound.file = at->second;
    return result;
}

}
