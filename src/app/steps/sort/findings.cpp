#include "app/steps/sort/findings.h"

#include "core/steps/sort/card_edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/sort/scan.h"

#include <algorithm>
#include <mutex>
#include <set>
#include <string_view>
#include <unordered_map>
#include <utility>

namespace frenlo::app {

class SignatureMemory
{
public:
    PhotoSignature get(const PhotoPtr& photo) const
    {
        const std::lock_guard lock(mutex_);
        const auto found = signatures_.find(photo);
        return found == signatures_.end() ? PhotoSignature() : found->second;
    }
    void put(const PhotoPtr& photo, PhotoSignature look)
    {
        const std::lock_guard lock(mutex_);
        signatures_[photo] = std::move(look);
    }

private:
    mutable std::mutex mutex_;
    std::unordered_map<PhotoPtr, PhotoSignature> signatures_;
};

std::vector<PhotoSignature> signatures_of(SignatureMemory& memory, std::span<const PhotoPtr> photos, const Job& job)
{
    std::vector<PhotoSignature> signatures;
    std::vector<PhotoPtr> unknown;
    std::vector<std::size_t> at;
    for (const auto& p : photos) {
        signatures.push_back(memory.get(p));
        if (signatures.back().empty()) {
            at.push_back(signatures.size() - 1);
            unknown.push_back(p);
        }
    }
    auto taken = look_at(unknown, job);
    for (std::size_t i = 0; i < taken.size(); ++i) {
        memory.put(unknown[i], taken[i]);
        signatures[at[i]] = std::move(taken[i]);
    }
    return signatures;
}

namespace {

/// As the photo is seen: turned, and of the usual size where it fills the frame anyway.
PhotoPtr as_seen(const ShotPhoto& p)
{
    if (p.turns % 2 == 0)
        return p.photo;
    auto turned = std::make_shared<PhotoFile>(*p.photo);
    turned->size = seen_size(p);
    return turned;
}

Finding flaw_of(const ShotPhoto& p)
{
    Finding f{FindingKind::unreadable, {p.photo->file}, p.flaw, {Remedy::hold_before, Remedy::set_aside}};
    if (!p.photo->size.empty())
        f.remedies.push_back(Remedy::use_what_there_is);
    return f;
}

/// Photos [begin, end) are one piece of film; sharpness: by photo, 0 where it is not known.
void look_at_piece(const Shot& shot, std::int64_t begin, std::int64_t end, SignatureMemory& memory,
                   const std::map<PhotoPtr, double>& sharpness, std::vector<Finding>& findings)
{
    std::vector<PhotoPtr> shown, aside, originals;
    std::vector<double> sharp;
    std::set<std::pair<std::string_view, std::int64_t>> looked_at;
    for (std::int64_t i = begin; i < end; ++i) {
        const ShotPhoto& p = shot.photos[std::size_t(i)];
        if (!looked_at.emplace(p.photo->file.native(), p.photo->picture).second)
            continue; // once more on purpose: what there is to say of it was said
        const bool in = !p.aside && !p.photo->size.empty();
        (in ? shown : aside).push_back(as_seen(p));
        if (!in)
            continue;
        originals.push_back(p.photo);
        const auto known = sharpness.find(p.photo);
        sharp.push_back(known == sharpness.end() ? 0 : known->second);
    }
    if (shown.empty())
        return;
    const auto add = [&](std::vector<Finding> more) {
        std::move(more.begin(), more.end(), std::back_inserter(findings));
    };
    add(findings_in_shot(shown, aside));
    std::vector<Candidate> candidates;
    const auto signatures = signatures_of(memory, originals, {});
    for (std::size_t i = 0; i < originals.size(); ++i)
        candidates.push_back({originals[i], true, signatures[i]});
    auto suggested = outliers(candidates);
    add_suggestions(suggested, blurred(originals, sharp));
    add(std::move(suggested));
}

std::vector<ToLookAt> findings_of(const Shot& shot, SignatureMemory& memory,
                                  const std::map<PhotoPtr, double>& sharpness)
{
    std::vector<Finding> findings;
    if (shot.parts.empty())
        look_at_piece(shot, 0, std::int64_t(shot.photos.size()), memory, sharpness, findings);
    for (const Part& part : shot.parts)
        look_at_piece(shot, part.begin.value, part.end.value, memory, sharpness, findings);
    std::map<std::filesystem::path, PhotoIndex> place;
    std::vector<ToLookAt> list;
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        const ShotPhoto& p = shot.photos[i];
        const PhotoIndex photo{std::int64_t(i)};
        place.emplace(p.photo->file, photo);
        if (!p.flaw.empty()) {
            Finding f = flaw_of(p); // set aside as it came; what becomes of it is the user's to say
            const bool resolved = p.what_there_is || is_resolved(shot, f);
            list.push_back({{}, photo, std::move(f), resolved});
        }
    }
    // What the search for shots said comes first; what is suspected of the same photo beside it would say it twice.
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        for (Finding f : shot.photos[i].remarks) {
            f.files.front() = shot.photos[i].photo->file;
            const bool done = f.kind == FindingKind::turned && shot.photos[i].turns != 0;
            const bool told = std::any_of(findings.begin(), findings.end(), [&](const Finding& g) {
                return (g.kind == FindingKind::copy || g.kind == FindingKind::turned) &&
                       std::find(g.files.begin(), g.files.end(), f.files.front()) != g.files.end();
            });
            if (told && (f.kind == FindingKind::unlike || f.kind == FindingKind::turned))
                continue;
            std::erase_if(findings,
                          [&](const Finding& g) { return g.kind == f.kind && g.files.front() == f.files.front(); });
            const bool resolved = done || is_resolved(shot, f);
            list.push_back({{}, PhotoIndex(std::int64_t(i)), std::move(f), resolved});
        }
    for (auto& f : findings)
        if (const auto at = place.find(f.files.front()); at != place.end()) {
            const bool resolved = is_resolved(shot, f);
            list.push_back({{}, at->second, std::move(f), resolved});
        }
    return list;
}

/// Holds, names and rates do not matter to what is found.
bool same_to_look_at(const Shot& a, const Shot& b)
{
    return a.resolved == b.resolved && a.parts == b.parts &&
           std::equal(a.photos.begin(), a.photos.end(), b.photos.begin(), b.photos.end(),
                      [](const ShotPhoto& x, const ShotPhoto& y) {
                          return x.photo == y.photo && x.aside == y.aside && x.flaw == y.flaw && x.turns == y.turns &&
                                 x.fill == y.fill && x.what_there_is == y.what_there_is && x.remarks == y.remarks;
                      });
}

}

Findings::Findings(Background& background, Session& session, PhotoLoader& loader, QObject* parent)
    : QObject(parent), background_(background), session_(session), loader_(loader),
      signatures_(std::make_shared<SignatureMemory>())
{
    connect(&session, &Session::started, this, [this] { signatures_ = std::make_shared<SignatureMemory>(); });
    connect(&session, &Session::changed, this, &Findings::refresh);
    connect(&loader, &PhotoLoader::could_not_read, this, &Findings::collect);
    connect(&loader, &PhotoLoader::all_prepared, this, &Findings::look_closer);
}

Findings::~Findings() = default;

int Findings::open() const
{
    return int(std::count_if(all_.begin(), all_.end(), [](const ToLookAt& t) { return !t.resolved; }));
}

void Findings::look_at(const ShotPtr& shot)
{
    if (!looking_.emplace(shot, true).second)
        return;
    background_.run(
        this,
        [shot, memory = signatures_, sharpness = loader_.sharpness()] {
            return Background::guarded([&] { return findings_of(*shot, *memory, sharpness); });
        },
        [this, shot](Result<std::vector<ToLookAt>> found) {
            looking_.erase(shot);
            if (!found) // what was found before is shown no longer, and it is not tried for ever
                Q_EMIT failed(tr("Problems of the photos could not be looked for: %1")
                                  .arg(QString::fromStdString(found.error().text())));
            found_[shot] =
                std::make_shared<const std::vector<ToLookAt>>(found ? std::move(*found) : std::vector<ToLookAt>());
            refresh();
        });
}

/// Previews are there: now it can be told which photos are blurred.
void Findings::look_closer()
{
    for (const auto& shot : session_.project().shots) {
        const auto known = std::count_if(shot->photos.begin(), shot->photos.end(),
                                         [&](const ShotPhoto& p) { return loader_.sharpness().contains(p.photo); });
        if (known > 0)
            look_at(shot);
    }
}

void Findings::refresh()
{
    std::map<ShotPtr, OfShot> kept, until_then;
    const auto& shots = session_.project().shots;
    for (std::size_t i = 0; i < shots.size(); ++i) {
        const auto& shot = shots[i];
        const auto same = std::find_if(found_.begin(), found_.end(), [&](const auto& f) {
            return f.first == shot || same_to_look_at(*f.first, *shot);
        });
        if (same != found_.end()) {
            kept[shot] = same->second;
            continue;
        }
        look_at(shot);
        if (const auto before = i < seen_.size() ? found_.find(seen_[i]) : found_.end(); before != found_.end())
            until_then[shot] = before->second;
        else if (const auto longer = i < seen_.size() ? until_then_.find(seen_[i]) : until_then_.end();
                 longer != until_then_.end())
            until_then[shot] = longer->second;
    }
    found_ = std::move(kept);
    until_then_ = std::move(until_then);
    seen_ = shots;
    collect();
}

void Findings::collect_of(ShotIndex index, const ShotPtr& shot)
{
    const auto found = found_.find(shot);
    const auto until_then = until_then_.find(shot);
    const bool provisional = found == found_.end();
    if (provisional && until_then == until_then_.end())
        return;
    std::set<std::filesystem::path> told;
    for (ToLookAt t : provisional ? *until_then->second : *found->second) {
        if (t.photo.at() >= shot->photos.size())
            continue;
        if (provisional) // of the shot as it was: what has been decided since counts
            t.resolved = t.resolved || is_resolved(*shot, t.finding) || shot->photos[t.photo.at()].what_there_is;
        t.shot = index;
        told.insert(t.finding.files.begin(), t.finding.files.end());
        all_.push_back(std::move(t));
    }
    // What only decoding shows.
    for (std::size_t i = 0; !loader_.unreadable().empty() && i < shot->photos.size(); ++i) {
        const auto& p = shot->photos[i];
        const auto unreadable = loader_.unreadable().find(p.photo);
        if (unreadable != loader_.unreadable().end() && !told.contains(p.photo->file))
            all_.push_back({index,
                            PhotoIndex(std::int64_t(i)),
                            {FindingKind::unreadable,
                             {p.photo->file},
                             unreadable->second.text(),
                             {Remedy::hold_before, Remedy::set_aside}},
                            p.aside});
    }
}

void Findings::collect()
{
    const auto before = std::exchange(all_, {});
    const auto& shots = session_.project().shots;
    for (std::size_t s = 0; s < shots.size(); ++s)
        collect_of(ShotIndex(std::int64_t(s)), shots[s]);
    std::stable_sort(all_.begin(), all_.end(), [](const auto& a, const auto& b) { return a.resolved < b.resolved; });
    if (all_ != before) // lists are rebuilt on this: not at every edit of a hold
        Q_EMIT changed();
}

}
