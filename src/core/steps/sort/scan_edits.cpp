#include "core/steps/sort/scan_edits.h"

#include "core/base/text.h"
#include "core/project/with_shot.h"
#include "core/steps/sort/card_edits.h"

#include <algorithm>
#include <map>
#include <unordered_map>

namespace frenlo {

namespace {

std::map<std::filesystem::path, std::string> flaws_of(const ScanResult& found)
{
    std::map<std::filesystem::path, std::string> flaws;
    for (const auto& f : found.findings)
        if (f.kind == FindingKind::unreadable || f.kind == FindingKind::empty || f.kind == FindingKind::not_a_photo)
            for (const auto& file : f.files)
                flaws[file] = f.text;
    return flaws;
}

/// What was decided in an earlier project, or by whoever rated the photos.
void take_sidecar(ShotPhoto& photo, const Sidecar& sidecar)
{
    photo.aside = photo.aside || sidecar.aside || sidecar.rating < 0;
    photo.turns = sidecar.turns;
    if (const auto hold = parse_hold(sidecar.hold))
        photo.hold = *hold;
}

Project add_clips(Project project, std::span<const FoundClip> clips, const std::optional<ClipTaking>& taking)
{
    for (const FoundClip& c : clips)
        project = add_shot(project, clip_shot(c, taking.value_or(usual_taking(*c.times))));
    return project;
}

Project add_photos(const Project& project, const ScanResult& found, std::optional<Hold> hold, Division division,
                   const std::string& name)
{
    const auto flaws = flaws_of(found);
    Shot card;
    for (const auto& p : found.photos) {
        const auto flaw = flaws.find(p.photo->file);
        card.photos.push_back({.photo = p.photo,
                               .hold = hold.value_or(Frames{1}),
                               .aside = p.state != PhotoState::fine,
                               .flaw = flaw == flaws.end() ? std::string() : flaw->second});
    }
    for (std::size_t i = 0; i < found.photos.size(); ++i)
        if (const auto& s = found.photos[i].sidecar)
            take_sidecar(card.photos.edit(i), *s);
    for (const std::size_t i : found.marker_cards)
        card.photos.edit(i).marker_card = true;
    for (const std::size_t i : found.left_out)
        card.photos.edit(i).aside = true;
    put_remarks(card, found.findings);
    for (const auto& s : found.shots)
        card.parts.push_back(
            {s.name, PhotoIndex(std::int64_t(s.begin)), PhotoIndex(std::int64_t(s.end)), s.reason, s.kind});
    if (card.photos.empty())
        return project;
    card.name = !name.empty() ? name : shown_path(card.photos.front().photo->file.parent_path().filename());

    std::size_t outside = 0;
    for (std::size_t i = 0; i < card.photos.size(); ++i)
        outside += !card.photos[i].aside && !part_of(card, PhotoIndex(std::int64_t(i)));
    const bool one = card.parts.empty() || (card.parts.size() == 1 && outside == 0);
    if (division == Division::one_shot || (division == Division::card && one)) {
        if (card.parts.size() == 1)
            card.kind = card.parts.front().kind;
        card.parts.clear();
        if (!hold)
            card.photos.edit_all([&](ShotPhoto& p) {
                if (p.hold == Hold(Frames{1})) // a sidecar may say another
                    p.hold = starting_hold(card.kind);
            });
        return add_shot(project, std::move(card));
    }
    const bool make = division == Division::found_shots && !card.parts.empty();
    const Project with_card = add_shot(project, std::move(card));
    return make ? make_shots(with_card, ShotIndex(std::int64_t(with_card.shots.size()) - 1), hold) : with_card;
}

}

Project add_scanned(const Project& project, const ScanResult& found, std::optional<Hold> hold, Division division,
                    const std::string& name, const std::optional<ClipTaking>& taking)
{
    return add_clips(add_photos(project, found, hold, division, name), found.clips, taking);
}

Project update_scanned(const Project& project, const ScanResult& found, const std::string& name,
                       std::optional<Hold> hold)
{
    if (found.photos.empty())
        return add_clips(project, found.clips, {});
    std::unordered_map<PhotoPtr, const ShotPhoto*> known; // a scan that goes on keeps the photos it has read
    std::optional<ShotIndex> at;
    for (std::size_t s = 0; s < project.shots.size() && !at; ++s) {
        known.clear();
        for (const auto& p : project.shots[s]->photos)
            known[p.photo] = &p;
        const auto in_it = std::count_if(found.photos.begin(), found.photos.end(),
                                         [&](const FoundPhoto& p) { return known.contains(p.photo); });
        if (in_it > 0 && std::size_t(in_it) == known.size())
            at = ShotIndex(std::int64_t(s));
    }
    if (!at)
        return project;
    Shot now = *add_photos({}, found, hold, Division::card, name).shots.front();
    const Shot& so_far = project.shot(*at);
    Hold started = Frames{1};
    if (hold)
        started = *hold;
    else if (so_far.parts.empty())
        started = starting_hold(so_far.kind);
    now.photos.edit_all([&](ShotPhoto& p) {
        if (const auto before = known.find(p.photo); before != known.end()) {
            const ShotPhoto& b = *before->second;
            p.aside = p.aside || b.aside;
            p.grouping = b.grouping;
            p.turns = b.turns;
            p.id = b.id;
            if (b.hold != started)
                p.hold = b.hold;
        }
    });
    now.name = so_far.name;
    now.id = so_far.id;
    return add_clips(with_shot(project, *at, [&](Shot& s) { s = std::move(now); }), found.clips, {});
}

}
