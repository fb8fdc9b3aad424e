#include "core/document/edits.h"

#include "core/base/text.h"

#include <algorithm>
#include <map>

namespace frenlo {

namespace {

/// The project with one shot replaced by what change makes of a copy.
template <class Change>
Project with_shot(const Project& project, ShotIndex shot, Change change)
{
    auto copy = std::make_shared<Shot>(project.shot(shot));
    change(*copy);
    if (*copy == project.shot(shot))
        return project;
    Project result = project;
    result.shots[shot.at()] = std::move(copy);
    return result;
}

std::string free_name(const Project& project, std::string name)
{
    if (name.empty())
        name = "Shot";
    std::string candidate = name;
    for (int n = 2; project.find_shot(candidate); ++n)
        candidate = name + ' ' + std::to_string(n);
    return candidate;
}

std::map<std::filesystem::path, std::string> flaws_of(const ScanResult& found)
{
    std::map<std::filesystem::path, std::string> flaws;
    for (const auto& f : found.findings)
        if (f.kind == FindingKind::unreadable || f.kind == FindingKind::empty || f.kind == FindingKind::not_a_photo)
            for (const auto& file : f.files)
                flaws[file] = f.text;
    return flaws;
}

}

Project add_shot(const Project& project, Shot shot)
{
    Project result = project;
    shot.name = free_name(project, shot.name);
    result.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return result;
}

Project add_scanned(const Project& project, const ScanResult& found, Hold hold, Division division,
                    const std::string& name)
{
    const auto flaws = flaws_of(found);
    // A photo that belongs to no shot goes with the shot of its folder, or the first, so that it stays findable.
    std::vector<std::size_t> shot_of(found.photos.size(), 0);
    std::map<std::filesystem::path, std::size_t> shot_of_folder;
    for (std::size_t s = 0; s < found.shots.size(); ++s)
        for (const std::size_t i : found.shots[s].photos) {
            shot_of[i] = s;
            shot_of_folder.try_emplace(found.photos[i].photo->file.parent_path(), s);
        }
    for (const std::size_t i : found.aside)
        if (const auto it = shot_of_folder.find(found.photos[i].photo->file.parent_path()); it != shot_of_folder.end())
            shot_of[i] = it->second;

    std::vector<Shot> shots(division == Division::one_shot ? 1 : std::max<std::size_t>(1, found.shots.size()));
    for (std::size_t s = 0; s < shots.size() && s < found.shots.size(); ++s)
        shots[s].name = found.shots[s].name;
    if (division == Division::one_shot && !name.empty())
        shots[0].name = name;
    for (std::size_t i = 0; i < found.photos.size(); ++i) {
        const auto& p = found.photos[i];
        const auto flaw = flaws.find(p.photo->file);
        shots[division == Division::one_shot ? 0 : shot_of[i]].photos.push_back(
            {p.photo, hold, p.state != PhotoState::fine, flaw == flaws.end() ? std::string() : flaw->second});
    }
    Project result = project;
    for (auto& s : shots)
        if (!s.photos.empty())
            result = add_shot(result, std::move(s));
    return result;
}

Project remove_shot(const Project& project, ShotIndex shot)
{
    Project result = project;
    (void)project.shot(shot); // throws where there is none
    result.shots.erase(result.shots.begin() + shot.value);
    return result;
}

Project rename_shot(const Project& project, ShotIndex shot, const std::string& name)
{
    const std::string wanted(trimmed(name));
    if (wanted.empty() || wanted == project.shot(shot).name)
        return project;
    return with_shot(project, shot, [&](Shot& s) { s.name = free_name(project, wanted); });
}

Project set_hold(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, Hold hold)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex i : photos)
            s.photos.at(i.at()).hold = hold;
    });
}

Project set_aside(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, bool aside)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex i : photos)
            s.photos.at(i.at()).aside = aside;
    });
}

Project order_shot(const Project& project, ShotIndex shot, PhotoOrder order)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<PhotoPtr> wanted;
        std::map<const PhotoFile*, std::vector<ShotPhoto>> at;
        for (const auto& p : s.photos) {
            wanted.push_back(p.photo);
            at[p.photo.get()].push_back(p);
        }
        sort_photos(wanted, order);
        for (std::size_t i = 0; i < wanted.size(); ++i) {
            auto& same = at[wanted[i].get()]; // a photo may be in a shot more than once
            s.photos[i] = same.front();
            same.erase(same.begin());
        }
    });
}

Project reverse_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) { std::reverse(s.photos.begin(), s.photos.end()); });
}

Project set_delivered_at(const Project& project, Rate rate)
{
    Project result = project;
    result.delivered_at = rate;
    return result;
}

Project set_paced_at(const Project& project, ShotIndex shot, std::optional<Rate> rate)
{
    return with_shot(project, shot, [&](Shot& s) { s.paced_at = rate; });
}

}
