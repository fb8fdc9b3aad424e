#include "core/project/reel_items.h"

#include <algorithm>
#include <unordered_set>

namespace frenlo {

std::vector<ReelItem> reel_items(const Project& project)
{
    std::unordered_set<ShotId> there, spoken_of(project.reel.left_out.begin(), project.reel.left_out.end());
    for (const ShotPtr& shot : project.shots)
        there.insert(shot->id);
    std::vector<ReelItem> items;
    for (const ReelItem& item : project.reel.items)
        if (there.contains(item.shot)) {
            items.push_back(item);
            spoken_of.insert(item.shot);
        }
    for (const ShotPtr& shot : project.shots)
        if (shot->id && shot->parts.empty() && !spoken_of.contains(shot->id))
            items.push_back({.id = {shot->id.value}, .shot = shot->id});
    return items;
}

ShotPtr shot_in_reel(const Project& project, const ReelItem& item)
{
    const ShotPtr& shot = project.shots.at(project.find_shot(item.shot).value().at());
    if (!item.first && !item.last)
        return shot;
    const auto place = [&](const std::optional<PhotoId>& id) -> std::optional<std::int64_t> {
        for (std::size_t i = 0; id && i < shot->photos.size(); ++i)
            if (shot->photos[i].id == *id)
                return std::int64_t(i);
        return std::nullopt; // it is not in the shot any more
    };
    const auto first = place(item.first), last = place(item.last);
    if (!first && !last)
        return shot;
    std::int64_t begin = 0, end = std::int64_t(shot->photos.size());
    if (const auto& kept = shot->pacing.kept) {
        begin = kept->begin.value;
        if (const auto* to = std::get_if<PhotoIndex>(&kept->extent))
            end = to->value;
    }
    begin = first.value_or(begin);
    end = last ? *last + 1 : end;
    auto own = std::make_shared<Shot>(*shot);
    own->pacing.kept = KeptRange{PhotoIndex(std::min(begin, end - 1)), PhotoIndex(std::max(end, begin + 1))};
    return own;
}

}
