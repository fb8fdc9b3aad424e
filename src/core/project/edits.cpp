#include "core/project/edits.h"

#include "core/base/text.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <map>
#include <numeric>
#include <unordered_map>
#include <unordered_set>

namespace frenlo {

std::string free_name(const Project& project, std::string name)
{
    if (name.empty())
        name = "Shot";
    std::string candidate = name;
    for (int n = 2; project.find_shot(candidate); ++n)
        candidate = name + ' ' + std::to_string(n);
    return candidate;
}

void reorder(Shot& shot, const std::vector<std::size_t>& order, const std::vector<std::optional<std::size_t>>& owner)
{
    PhotoList photos;
    std::vector<Part> parts;
    std::vector<int> pieces(shot.parts.size(), 0);
    for (std::size_t i = 0; i < order.size(); ++i) {
        photos.push_back(shot.photos.shared(order[i]));
        const PhotoIndex behind(std::int64_t(i) + 1);
        if (!owner[i])
            continue;
        if (i == 0 || owner[i] != owner[i - 1]) {
            parts.push_back(shot.parts[*owner[i]]);
            parts.back().begin = behind - 1;
            if (++pieces[*owner[i]] > 1)
                parts.back().name += ' ' + std::to_string(pieces[*owner[i]]);
        }
        parts.back().end = behind;
    }
    shot.photos = std::move(photos);
    shot.parts = std::move(parts);
}

void reorder(Shot& shot, const std::vector<std::size_t>& order)
{
    std::vector<std::optional<std::size_t>> owner;
    for (const std::size_t i : order)
        owner.push_back(part_of(shot, PhotoIndex(std::int64_t(i))));
    reorder(shot, order, owner);
}

Project add_shot(const Project& project, Shot shot)
{
    Project result = project;
    shot.name = free_name(project, shot.name);
    give_ids(shot);
    result.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return result;
}

Hold starting_hold(ShotKind kind)
{
    return Frames{kind == ShotKind::hand_moved ? 2 : 1};
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

Project set_aside(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, bool aside)
{
    return with_shot(project, shot, [&](Shot& s) {
        for (const PhotoIndex i : photos)
            s.photos.edit(i.at()).aside = aside;
    });
}

Project move_photos(const Project& project, ShotIndex shot, std::span<const PhotoIndex> photos, PhotoIndex before)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<bool> moves(s.photos.size(), false);
        for (const PhotoIndex p : photos)
            moves.at(p.at()) = true;
        std::vector<std::size_t> order;
        const auto put = [&](std::size_t from, std::size_t to, bool moved) {
            for (std::size_t i = from; i < to; ++i)
                if (moves[i] == moved)
                    order.push_back(i);
        };
        const std::size_t at = std::min(before.at(), s.photos.size());
        put(0, at, false);
        const std::size_t first_moved = order.size();
        put(0, s.photos.size(), true);
        const std::size_t behind_moved = order.size();
        put(at, s.photos.size(), false);
        const auto part_at = [&](std::size_t i) { return part_of(s, PhotoIndex(std::int64_t(order[i]))); };
        std::optional<std::size_t> into; // the part that they are put into: that of the photo after them, else before
        if (behind_moved < order.size())
            into = part_at(behind_moved);
        if (!into && first_moved > 0)
            into = part_at(first_moved - 1);
        std::vector<std::optional<std::size_t>> owner;
        for (std::size_t i = 0; i < order.size(); ++i)
            owner.push_back(i >= first_moved && i < behind_moved ? into : part_at(i));
        reorder(s, order, owner);
    });
}

Project split_shot(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    const Shot& whole = project.shot(shot);
    if (photo.value <= 0 || photo.at() >= whole.photos.size())
        return project;
    const bool range_in_second = whole.pacing.kept && whole.pacing.kept->begin >= photo;
    Project result = with_shot(project, shot, [&](Shot& s) {
        s.photos.keep(0, photo.at());
        if (range_in_second)
            s.pacing.kept.reset();
    });
    Shot second = whole;
    second.id = ShotId::fresh();
    second.photos.keep(photo.at(), second.photos.size());
    if (!range_in_second) {
        second.pacing.kept.reset();
    } else {
        second.pacing.kept->begin = second.pacing.kept->begin - photo.value;
        if (auto* end = std::get_if<PhotoIndex>(&second.pacing.kept->extent))
            *end = *end - photo.value;
    }
    second.name = free_name(project, whole.name);
    follow_edit(whole, second);
    result.shots.insert(result.shots.begin() + shot.value + 1, std::make_shared<const Shot>(std::move(second)));
    return result;
}

Project join_with_next(const Project& project, ShotIndex shot)
{
    if (shot.at() + 1 >= project.shots.size())
        return project;
    const Shot& next = project.shot(shot + 1);
    Project result = with_shot(project, shot, [&](Shot& s) {
        const std::int64_t behind = std::int64_t(s.photos.size());
        std::unordered_set<PhotoId> here;
        for (const ShotPhoto& p : s.photos)
            here.insert(p.id);
        s.photos.append(next.photos, 0, next.photos.size());
        for (std::size_t i = std::size_t(behind); i < s.photos.size(); ++i)
            if (here.contains(s.photos[i].id)) // of a version of this shot: a photo of its own from now on
                s.photos.edit(i).id = PhotoId::fresh();
        for (Part part : next.parts) {
            part.begin = part.begin + behind;
            part.end = part.end + behind;
            s.parts.push_back(std::move(part));
        }
    });
    result.shots.erase(result.shots.begin() + shot.value + 1);
    return result;
}

Project replace_photos(const Project& project, ShotIndex shot, std::span<const Match> matches)
{
    std::map<PhotoPtr, PhotoPtr> now;
    for (const auto& m : matches)
        now[m.old] = m.now;
    return with_shot(project, shot, [&](Shot& s) {
        s.photos.edit_all([&](ShotPhoto& p) {
            if (const auto found = now.find(p.photo); found != now.end()) {
                p.photo = found->second;
                p.aside = p.aside && p.flaw.empty();
                p.flaw.clear();
                p.what_there_is = false;
            }
        });
    });
}

Project replace_photos(const Project& project, std::span<const Match> matches)
{
    Project result = project;
    for (std::size_t i = 0; i < project.shots.size(); ++i)
        result = replace_photos(result, ShotIndex(std::int64_t(i)), matches);
    return result;
}

Project set_backdrop(const Project& project, ShotIndex shot, std::optional<Backdrop> backdrop)
{
    return with_shot(project, shot, [&](Shot& s) { s.backdrop = backdrop; });
}

Project order_shot(const Project& project, ShotIndex shot, PhotoOrder order)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<PhotoPtr> wanted;
        std::map<const PhotoFile*, std::vector<std::size_t>> at;
        for (std::size_t i = 0; i < s.photos.size(); ++i) {
            wanted.push_back(s.photos[i].photo);
            at[s.photos[i].photo.get()].push_back(i);
        }
        sort_photos(wanted, order);
        std::vector<std::size_t> from;
        for (const auto& p : wanted) {
            auto& same = at[p.get()]; // a photo may be in a shot more than once
            from.push_back(same.front());
            same.erase(same.begin());
        }
        reorder(s, from);
    });
}

Project reverse_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        std::vector<std::size_t> from(s.photos.size());
        std::iota(from.rbegin(), from.rend(), std::size_t(0));
        reorder(s, from);
    });
}

}
