// Photos and sounds that come into the project at work, and those that are gone and looked for.
#include "app/work/session.h"
#include "core/base/text.h"
#include "core/sound/found_again.h"
#include "core/source/decode.h"
#include "core/source/matching.h"
#include "core/steps/sort/scan.h"
#include "core/steps/sort/scan_edits.h"

#include <array>

namespace frenlo::app {

void Session::add_photos(const std::vector<std::filesystem::path>& places)
{
    if (busy())
        return;
    arriving_ = 0;
    finding_ = false;
    const auto arrived = [this, self = QPointer<QObject>(this), places, arrivals = ++arrivals_,
                          &background = background_](ScanResult so_far) {
        background.post(self, [this, places, arrivals, so_far = std::move(so_far)] {
            if (arrivals == arrivals_)
                take_arrival(so_far, places);
        });
    };
    search_.start(
        {}, [places, arrived](const Job& job) { return scan(places, ScanOptions{}, job, arrived); },
        [this, places](const ScanResult& found) { take_all(found, places); });
}

void Session::take_all(const ScanResult& found, const std::vector<std::filesystem::path>& places)
{
    if (found.photos.empty() && found.clips.empty()) {
        Q_EMIT failed(tr("There are no photos in %1. %2 can be brought in.")
                          .arg(to_qt(places.front()), QString::fromStdString(readable_formats())));
        return;
    }
    take_arrival(found, places);
    Q_EMIT photos_added(int(found.photos.size()));
    // What is no photo's of the shots, so that no list of theirs has it.
    QStringList beside;
    for (const Finding& f : found.findings)
        if (f.kind == FindingKind::folder_unreadable || f.kind == FindingKind::date_odd ||
            f.kind == FindingKind::profile_odd)
            beside << QString::fromStdString(f.text);
    constexpr qsizetype most_told = 3;
    const auto more = int(beside.size() - most_told);
    if (more > 0)
        beside = beside.first(most_told) << tr("And %n more.", nullptr, more);
    if (!beside.isEmpty())
        Q_EMIT failed(beside.join(QLatin1Char(' ')));
}

void Session::take_arrival(const ScanResult& found, const std::vector<std::filesystem::path>& places)
{
    const std::string name = shown_path(places.front().filename());
    const bool first = arriving_ == 0;
    if (first)
        arriving_ = ++last_gesture_ | std::uint64_t(1)
                                          << 62; // all that arrives is one step, apart from the gestures of hands
    apply(
        [&](const Project& p) {
            return first ? add_scanned(p, found, beginnings_.hold, Division::card, name)
                         : update_scanned(p, found, name, beginnings_.hold);
        },
        tr("Bring photos in"), arriving_);
}

void Session::find_again(const std::filesystem::path& folder)
{
    if (busy())
        return;
    finding_ = true;
    struct Searched
    {
        std::vector<Match> matches;
        std::vector<std::pair<std::filesystem::path, std::filesystem::path>> sounds;
        std::size_t gone = 0; ///< photos
        std::size_t silent = 0;
    };
    search_.start(
        {},
        [project = project(), folder](const Job& job) {
            std::vector<PhotoPtr> gone;
            for (const auto& shot : project.shots)
                for (const auto& p : shot->photos)
                    if (is_on_disk(*p.photo) && !stamp_of(p.photo->file))
                        gone.push_back(p.photo);
            const std::array places{folder};
            return Searched{frenlo::find_again(gone, places, job), find_sounds_again(project, places, job), gone.size(),
                            gone_sounds(project).size()};
        },
        [this](const Searched& searched) {
            apply(
                [&](const Project& p) { return with_sounds_at(replace_photos(p, searched.matches), searched.sounds); },
                tr("Find photos again"));
            Q_EMIT found_again(int(searched.matches.size()), int(searched.gone - searched.matches.size()),
                               int(searched.sounds.size()), int(searched.silent - searched.sounds.size()));
        });
}

}
