#include "app/work/findings.h"

#include <algorithm>

namespace frenlo::app {

Findings::Findings(Background& background, Session& session, PhotoLoader& loader, QObject* parent)
    : QObject(parent), background_(background), session_(session), loader_(loader)
{
    connect(&session, &Session::changed, this, &Findings::refresh);
    connect(&loader, &PhotoLoader::could_not_read, this, &Findings::collect);
}

int Findings::open() const
{
    return int(std::count_if(all_.begin(), all_.end(), [](const ToLookAt& t) { return !t.settled; }));
}

namespace {

std::vector<Finding> look_at(const Shot& shot)
{
    std::vector<PhotoPtr> in_film, aside;
    for (const auto& p : shot.photos)
        (p.aside || p.photo->size.empty() ? aside : in_film).push_back(p.photo);
    return in_film.empty() ? std::vector<Finding>() : findings_in_shot(in_film, aside);
}

/// Holds and names do not matter to what is found; photos and set-aside do.
bool same_photos(const Shot& a, const Shot& b)
{
    return std::equal(a.photos.begin(), a.photos.end(), b.photos.begin(), b.photos.end(),
                      [](const ShotPhoto& x, const ShotPhoto& y) { return x.photo == y.photo && x.aside == y.aside; });
}

}

void Findings::refresh()
{
    const auto& shots = session_.project().shots;
    std::map<ShotPtr, std::vector<Finding>> kept;
    for (const auto& shot : shots) {
        const auto same = std::find_if(found_.begin(), found_.end(),
                                       [&](const auto& f) { return f.first == shot || same_photos(*f.first, *shot); });
        if (same != found_.end()) {
            kept[shot] = same->second;
            continue;
        }
        if (!looking_.emplace(shot, true).second)
            continue;
        background_.run(
            this, [shot] { return Background::guarded([&] { return look_at(*shot); }); },
            [this, shot](Result<std::vector<Finding>> found) {
                looking_.erase(shot);
                if (found)
                    found_[shot] = std::move(*found);
                refresh();
            });
    }
    found_ = std::move(kept);
    collect();
}

void Findings::collect()
{
    all_.clear();
    const auto& shots = session_.project().shots;
    for (std::size_t s = 0; s < shots.size(); ++s) {
        const ShotIndex shot{std::int64_t(s)};
        std::map<std::filesystem::path, PhotoIndex> place;
        for (std::size_t i = 0; i < shots[s]->photos.size(); ++i) {
            const auto& p = shots[s]->photos[i];
            const PhotoIndex photo{std::int64_t(i)};
            place.emplace(p.photo->file, photo);
            const auto unreadable = loader_.unreadable().find(p.photo);
            if (!p.flaw.empty())
                all_.push_back({shot, photo, QString::fromStdString(p.flaw), true, p.aside});
            else if (unreadable != loader_.unreadable().end())
                all_.push_back({shot, photo, QString::fromStdString(unreadable->second.text()), true, p.aside});
        }
        const auto found = found_.find(shots[s]);
        if (found == found_.end())
            continue;
        for (const auto& f : found->second)
            if (const auto at = place.find(f.files.front()); at != place.end())
                all_.push_back({shot, at->second, QString::fromStdString(f.text), false, false});
    }
    std::stable_sort(all_.begin(), all_.end(), [](const auto& a, const auto& b) { return a.settled < b.settled; });
    Q_EMIT changed();
}

}
