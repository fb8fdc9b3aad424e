#include "app/steps/sort/sort_controller.h"

#include "core/project/edits.h"
#include "core/steps/sort/remedies.h"
#include "core/steps/sort/rhythm.h"

#include <algorithm>

namespace frenlo::app {

SortController::SortController(Background& background, Session& session, Viewing& viewing, Findings& findings,
                               QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing), findings_(findings),
      search_(background, Rank::measure)
{
    connect(&search_, &Task::failed, this,
            [this](const QString& message) { Q_EMIT failed(tr("Shots could not be looked for: %1").arg(message)); });
    connect(&viewing, &Viewing::shot_changed, this, &SortController::refresh_pause);
}

void SortController::apply(const std::function<Project(const Project&)>& edit, const QString& name,
                           std::uint64_t gesture)
{
    if (viewing_.edited_shot())
        session_.apply(edit, name, gesture);
}

void SortController::set_first(PhotoIndex photo, std::uint64_t gesture)
{
    apply([&](const Project& p) { return frenlo::set_first(p, viewing_.shot_index(), photo); }, tr("First of shot"),
          gesture);
}

void SortController::set_last(PhotoIndex photo, std::uint64_t gesture)
{
    apply([&](const Project& p) { return frenlo::set_last(p, viewing_.shot_index(), photo); }, tr("Last of shot"),
          gesture);
}

void SortController::first_here(std::uint64_t gesture)
{
    if (!viewing_.selection().empty())
        set_first(viewing_.selection().current(), gesture);
}

void SortController::last_here(std::uint64_t gesture)
{
    if (!viewing_.selection().empty())
        set_last(viewing_.selection().current(), gesture);
}

bool SortController::all_chosen_are_aside() const
{
    const Shot* shot = viewing_.shot();
    const auto photos = viewing_.selection().photos();
    return shot && !photos.empty() && std::all_of(photos.begin(), photos.end(), [&](PhotoIndex p) {
               return p.at() < shot->photos.size() && shot->photos[p.at()].aside;
           });
}

void SortController::toggle_aside()
{
    const auto photos = viewing_.selection().photos();
    if (photos.empty())
        return;
    const bool back = all_chosen_are_aside();
    apply([&](const Project& p) { return set_aside(p, viewing_.shot_index(), photos, !back); },
          back ? tr("Bring photos back") : tr("Set photos aside"));
}

bool SortController::can_split() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || shot->photos.empty())
        return false;
    const PhotoIndex at = viewing_.selection().current();
    if (shot->parts.empty())
        return at.value > 0;
    const auto part = part_of(*shot, at);
    return part && shot->parts[*part].begin != at;
}

void SortController::split()
{
    if (!can_split())
        return;
    const PhotoIndex at = viewing_.selection().current();
    apply(
        [&](const Project& p) {
            return p.shot(viewing_.shot_index()).parts.empty() ? split_shot(p, viewing_.shot_index(), at)
                                                               : split_part(p, viewing_.shot_index(), at);
        },
        tr("Split the shot"));
}

bool SortController::can_join() const
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return false;
    if (shot->parts.empty())
        return viewing_.shot_index().at() + 1 < session_.project().shots.size();
    const auto part = part_of(*shot, viewing_.selection().current());
    return part && *part + 1 < shot->parts.size();
}

void SortController::join()
{
    if (!can_join())
        return;
    apply(
        [&](const Project& p) {
            return p.shot(viewing_.shot_index()).parts.empty()
                       ? join_with_next(p, viewing_.shot_index())
                       : join_part_with_next(p, viewing_.shot_index(), viewing_.selection().current());
        },
        tr("Join with the next"));
}

void SortController::order(PhotoOrder wanted)
{
    apply([&](const Project& p) { return order_shot(p, viewing_.shot_index(), wanted); },
          wanted == PhotoOrder::by_name ? tr("Order by name") : tr("Order by capture time"));
}

void SortController::reverse()
{
    apply([&](const Project& p) { return reverse_shot(p, viewing_.shot_index()); }, tr("Reverse the order"));
}

void SortController::first_to_end()
{
    const std::array first{PhotoIndex(0)};
    apply(
        [&](const Project& p) {
            return move_photos(p, viewing_.shot_index(), first,
                               PhotoIndex(std::int64_t(p.shot(viewing_.shot_index()).photos.size())));
        },
        tr("First photo to the end"));
}

void SortController::move(PhotoIndex before)
{
    const auto photos = viewing_.selection().photos();
    if (photos.empty())
        return;
    const auto in_front = std::count_if(photos.begin(), photos.end(), [&](PhotoIndex p) { return p < before; });
    apply([&](const Project& p) { return move_photos(p, viewing_.shot_index(), photos, before); }, tr("Move photos"));
    Selection moved; // the same photos, at their new place
    moved.choose(before - in_front);
    moved.extend_to(before - in_front + (std::int64_t(photos.size()) - 1));
    viewing_.set_selection(moved);
}

void SortController::nudge(int by)
{
    const auto photos = viewing_.selection().photos();
    if (photos.empty() || !viewing_.shot())
        return;
    const std::int64_t before = by < 0 ? photos.front().value - 1 : photos.back().value + 2;
    if (before >= 0 && before <= std::int64_t(viewing_.shot()->photos.size()))
        move(PhotoIndex(before));
}

void SortController::turn(int quarters)
{
    const auto photos = viewing_.selection().photos();
    apply([&](const Project& p) { return turn_photos(p, viewing_.shot_index(), photos, quarters); }, tr("Turn photos"));
}

void SortController::make_shots()
{
    apply([&](const Project& p) { return frenlo::make_shots(p, viewing_.shot_index()); }, tr("Make shots"));
}

void SortController::make_one_shot()
{
    apply([&](const Project& p) { return frenlo::make_one_shot(p, viewing_.shot_index()); }, tr("Make one shot"));
}

void SortController::search_again(std::optional<Seconds> pause)
{
    const ShotPtr shot = viewing_.edited_shot();
    if (!shot)
        return;
    search_.forget(); // for another pause
    search_.start(
        {shot->id, "sort"},
        [shot, pause, memory = findings_.signatures()](const Job& job) {
            std::vector<PhotoPtr> photos;
            for (const auto& p : shot->photos)
                photos.push_back(p.photo);
            ShotSearchOptions options = search_options_of(*shot);
            options.pause = pause;
            return find_shots(candidates_of(*shot, signatures_of(*memory, photos, job)), options);
        },
        [this, shot, pause](const FoundShots& found) {
            const auto& shots = session_.project().shots;
            const auto at = std::find(shots.begin(), shots.end(), shot);
            if (at == shots.end()) // changed meanwhile: what was found is of the past
                return;
            const ShotIndex index(at - shots.begin());
            session_.apply([&](const Project& p) { return set_found(p, index, found, pause); },
                           tr("Look for shots again"));
        });
}

void SortController::refresh_pause()
{
    const ShotPtr shot = viewing_.edited_shot();
    if (shot == pause_of_)
        return;
    pause_of_ = shot;
    pause_ = shot ? shot->pause : std::nullopt;
    Q_EMIT pause_changed();
    if (!shot || shot->parts.empty() || shot->pause)
        return;
    background_.run(
        this,
        [shot] {
            std::vector<PhotoPtr> usable;
            for (const auto& p : shot->photos)
                if (p.flaw.empty())
                    usable.push_back(p.photo);
            return pause_for(gaps_between(usable));
        },
        [this, shot](Seconds found) {
            if (shot != pause_of_)
                return;
            pause_ = found;
            Q_EMIT pause_changed();
        });
}

void SortController::remedy(std::span<const ToLookAt> findings, Remedy remedy)
{
    session_.apply(
        [&](const Project& p) {
            Project result = p;
            for (const ToLookAt& f : findings)
                result = apply_remedy(result, f.shot, f.finding, remedy);
            return result;
        },
        remedy_text(remedy));
}

void SortController::leave(std::span<const ToLookAt> findings)
{
    session_.apply(
        [&](const Project& p) {
            Project result = p;
            for (const ToLookAt& f : findings)
                result = resolve(result, f.shot, f.finding);
            return result;
        },
        tr("Leave it as it is"));
}

QString remedy_text(Remedy remedy)
{
    switch (remedy) {
    case Remedy::set_aside:
        return SortController::tr("Leave it out");
    case Remedy::hold_before:
        return SortController::tr("Hold the one before");
    case Remedy::use_what_there_is:
        return SortController::tr("Use what there is");
    case Remedy::turn_right:
        return SortController::tr("Turn right");
    case Remedy::turn_left:
        return SortController::tr("Turn left");
    case Remedy::fill:
        return SortController::tr("Fill the frame");
    case Remedy::order_by_time:
        return SortController::tr("Order by time");
    case Remedy::order_by_name:
        return SortController::tr("Order by name");
    case Remedy::reverse:
        return SortController::tr("Reverse");
    case Remedy::first_to_end:
        return SortController::tr("Put it last");
    case Remedy::merge:
        return SortController::tr("Merge the exposures");
    case Remedy::find_again:
        return SortController::tr("Find again…");
    }
    return {};
}

}
