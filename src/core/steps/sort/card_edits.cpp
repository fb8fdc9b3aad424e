#include "core/steps/sort/card_edits.h"

#include "core/base/text.h"
#include "core/project/edits.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <array>
#include <unordered_map>

namespace frenlo {

namespace {

void tie_up(Shot& shot, std::int64_t from, std::int64_t to, GroupingOverride grouping)
{
    for (std::int64_t i = from; i < to; ++i)
        shot.photos.edit(std::size_t(i)).grouping = grouping;
}

std::string free_part_name(const Shot& shot)
{
    for (int n = int(shot.parts.size()) + 1;; ++n) {
        const std::string name = "Shot " + std::to_string(n);
        if (std::none_of(shot.parts.begin(), shot.parts.end(), [&](const Part& p) { return p.name == name; }))
            return name;
    }
}

/// The first part that ends behind the photo: the one that it is in, or the next.
std::size_t part_at_or_after(const Shot& shot, PhotoIndex photo)
{
    std::size_t k = 0;
    while (k < shot.parts.size() && shot.parts[k].end <= photo)
        ++k;
    return k;
}

/// A shot without parts: photos outside [first, last] are set aside, those inside, up to the old ends, are back.
void keep_between(Shot& shot, std::optional<PhotoIndex> first, std::optional<PhotoIndex> last)
{
    const auto usable = [](const ShotPhoto& p) { return p.flaw.empty(); };
    const std::int64_t n = std::int64_t(shot.photos.size());
    std::int64_t old_first = 0, old_last = n - 1;
    while (old_first < n && shot.photos[std::size_t(old_first)].aside)
        ++old_first;
    while (old_last >= 0 && shot.photos[std::size_t(old_last)].aside)
        --old_last;
    for (std::int64_t i = 0; i < n; ++i) {
        ShotPhoto& p = shot.photos.edit(std::size_t(i));
        if ((first && i < first->value) || (last && i > last->value))
            p.aside = true;
        else if (usable(p) && ((first && i < old_first) || (last && i > old_last)))
            p.aside = false;
    }
}

}

Project set_first(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        (void)s.photos.at(photo.at());
        if (s.parts.empty())
            return keep_between(s, photo, std::nullopt);
        const std::size_t k = part_at_or_after(s, photo);
        if (k == s.parts.size()) {
            s.parts.push_back({free_part_name(s), photo, PhotoIndex(std::int64_t(s.photos.size())), "set by hand",
                               ShotKind::unknown});
            tie_up(s, photo.value + 1, std::int64_t(s.photos.size()), GroupingOverride::stays);
        } else {
            Part& part = s.parts[k];
            if (part.begin == photo)
                return;
            tie_up(s, part.begin.value, photo.value,
                   GroupingOverride::loose); // of two loops one runs: inwards or outwards
            tie_up(s, photo.value + 1, part.begin.value + 1, GroupingOverride::stays);
            part.begin = photo;
            part.reason = "set by hand";
        }
        s.photos.edit(photo.at()).grouping = GroupingOverride::starts;
    });
}

Project set_last(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        (void)s.photos.at(photo.at());
        if (s.parts.empty())
            return keep_between(s, std::nullopt, photo);
        std::size_t k = s.parts.size();
        while (k > 0 && s.parts[k - 1].begin > photo)
            --k;
        if (k == 0) {
            s.parts.insert(s.parts.begin(),
                           {free_part_name(s), PhotoIndex(0), photo + 1, "set by hand", ShotKind::unknown});
            tie_up(s, 1, photo.value + 1, GroupingOverride::stays);
            s.photos.edit(0).grouping = GroupingOverride::starts;
            return;
        }
        Part& part = s.parts[k - 1];
        tie_up(s, photo.value + 1, part.end.value, GroupingOverride::loose);
        tie_up(s, part.end.value, photo.value + 1, GroupingOverride::stays);
        part.end = photo + 1;
    });
}

Project split_part(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto k = part_of(s, photo);
        if (!k || s.parts[*k].begin == photo)
            return;
        Part second = s.parts[*k];
        second.begin = photo;
        second.name = free_part_name(s);
        second.reason = "split by hand";
        s.parts[*k].end = photo;
        s.parts.insert(s.parts.begin() + std::ptrdiff_t(*k) + 1, std::move(second));
        s.photos.edit(photo.at()).grouping = GroupingOverride::starts;
    });
}

Project join_part_with_next(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto k = part_of(s, photo);
        if (!k || *k + 1 == s.parts.size())
            return;
        const Part next = s.parts[*k + 1];
        tie_up(s, s.parts[*k].end.value, next.begin.value + 1, GroupingOverride::stays);
        s.parts[*k].end = next.end;
        s.parts.erase(s.parts.begin() + std::ptrdiff_t(*k) + 1);
    });
}

Project rename_part(const Project& project, ShotIndex shot, std::size_t part, const std::string& name)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (const auto wanted = trimmed(name); !wanted.empty())
            s.parts.at(part).name = wanted;
    });
}

Project make_one_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) { s.parts.clear(); });
}

ShotSearchOptions search_options_of(const Shot& shot)
{
    ShotSearchOptions options{shot.pause, {}};
    for (const auto& p : shot.photos)
        options.overrides.push_back(p.grouping);
    return options;
}

std::vector<Candidate> candidates_of(const Shot& shot, const std::vector<PhotoSignature>& signatures)
{
    std::vector<Candidate> candidates;
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        candidates.push_back({p.photo, p.flaw.empty() && !p.photo->size.empty(),
                              i < signatures.size() ? signatures[i] : PhotoSignature()});
    }
    return candidates;
}

Project set_found(const Project& project, ShotIndex shot, const FoundShots& found, std::optional<Seconds> pause)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<Part> parts;
        for (const auto& f : found.shots) {
            Part part{f.name, PhotoIndex(std::int64_t(f.begin)), PhotoIndex(std::int64_t(f.end)), f.reason, f.kind};
            const auto same =
                std::find_if(s.parts.begin(), s.parts.end(), [&](const Part& p) { return p.begin == part.begin; });
            if (same != s.parts.end())
                part.name = same->name;
            parts.push_back(std::move(part));
        }
        s.parts = std::move(parts);
        s.pause = pause;
        s.photos.edit_all([](ShotPhoto& p) { p.marker_card = false; });
        for (const std::size_t i : found.marker_cards)
            s.photos.edit(i).marker_card = true;
        put_remarks(s, found.findings);
    });
}

void put_remarks(Shot& card, std::span<const Finding> findings)
{
    std::unordered_map<std::string, std::size_t> at;
    card.photos.edit_all([](ShotPhoto& p) { p.remarks.clear(); });
    for (std::size_t i = 0; i < card.photos.size(); ++i)
        at.emplace(card.photos[i].photo->file.native(), i);
    constexpr std::array lasting{FindingKind::turned, FindingKind::unlike, FindingKind::bracket,
                                 FindingKind::border_unsure};
    for (const Finding& f : findings)
        if (std::find(lasting.begin(), lasting.end(), f.kind) != lasting.end() && !f.files.empty())
            if (const auto photo = at.find(f.files.front().native()); photo != at.end()) {
                auto& remarks = card.photos.edit(photo->second).remarks;
                remarks.push_back(f);
                remarks.back().remedies = usual_remedies(f.kind);
            }
}

Project make_shots(const Project& project, ShotIndex card, std::optional<Hold> hold)
{
    const Shot& from = project.shot(card);
    if (from.parts.empty())
        return project;
    Project result = project;
    result.shots.erase(result.shots.begin() + card.value);
    auto place = result.shots.begin() + card.value;
    std::int64_t next = 0; // the first photo that is in no shot yet
    for (std::size_t k = 0; k < from.parts.size(); ++k) {
        const Part& part = from.parts[k];
        auto shot = std::make_shared<Shot>(from);
        shot->id = ShotId::fresh();
        shot->parts.clear();
        shot->pause.reset();
        shot->kind = part.kind;
        shot->name = free_name(result, part.name);
        shot->photos.clear();
        const std::int64_t end = k + 1 == from.parts.size() ? std::int64_t(from.photos.size()) : part.end.value;
        for (; next < end; ++next) {
            ShotPhoto p = from.photos[std::size_t(next)];
            p.aside = p.aside || next < part.begin.value || next >= part.end.value;
            p.grouping = GroupingOverride::none;
            if (hold)
                p.hold = *hold;
            else if (p.hold == Hold(Frames{1}))
                p.hold = starting_hold(part.kind);
            shot->photos.push_back(std::move(p));
        }
        follow_edit(from, *shot);
        place = result.shots.insert(place, std::move(shot)) + 1;
    }
    return result;
}

}
