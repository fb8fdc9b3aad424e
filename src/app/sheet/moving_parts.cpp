#include "app/sheet/moving_parts.h"

#include "core/picture/moving_part.h"
#include "core/picture/small_picture.h"
#include "core/source/sharpness.h"

#include <algorithm>

namespace frenlo::app {

namespace {

std::vector<double> found(const std::vector<SeenPhoto>& photos, const Previews& previews, const Job& job)
{
    std::vector<cv::Mat> pictures;
    for (const SeenPhoto& p : photos) {
        job.check();
        const cv::Size seen = p.turns % 2 == 1 ? cv::Size(p.photo->size.height, p.photo->size.width) : p.photo->size;
        if (seen.empty())
            continue;
        const auto small = small_picture(p, {192, std::max(8, 192 * seen.height / seen.width)}, previews);
        if (small && (pictures.empty() || small->size() == pictures.front().size()))
            pictures.push_back(bgr8(*small));
    }
    return movement_by_column(pictures);
}

/// Some of the film's photos, spread over it.
std::vector<SeenPhoto> some_of(const Shot& shot)
{
    constexpr std::size_t most = 24;
    std::vector<SeenPhoto> all, some;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i])
            all.push_back({shot.photos[i].photo, shot.photos[i].turns, Damage::accept});
    for (std::size_t i = 0; i < std::min(most, all.size()); ++i)
        some.push_back(all[i * all.size() / std::min(most, all.size())]);
    return some;
}

}

MovingParts::MovingParts(Background& background, Viewing& viewing, PreviewStore& store, QObject* parent)
    : QObject(parent), viewing_(viewing), store_(store), task_(background, Rank::prepare)
{
    for (const auto signal : {&Viewing::shot_changed, &Viewing::step_changed})
        connect(&viewing, signal, this, &MovingParts::look);
    connect(&task_, &Task::changed, this, &MovingParts::look);
}

void MovingParts::look()
{
    last_.first = -1;
    const Shot* shot = viewing_.shot();
    if (!shot || viewing_.step().tiles || task_.running() || shot->photos.size() < 2)
        return;
    const auto known = known_.find(shot->id);
    if (known != known_.end() && known->second.first == shot->photos.size())
        return;
    known_[shot->id] = {shot->photos.size(), {}}; // whatever becomes of it, it is not tried again
    task_.start(
        {shot->id, "sheet"},
        [photos = some_of(*shot), &store = store_](const Job& job) { return found(photos, Previews(store), job); },
        [this, id = shot->id](std::vector<double> by_column) {
            known_[id].second = std::move(by_column);
            last_.first = -1;
            Q_EMIT changed();
        });
}

double MovingParts::left_edge(double share) const
{
    if (share == last_.first)
        return last_.second;
    const Shot* shot = viewing_.shot();
    const auto known = shot ? known_.find(shot->id) : known_.end();
    last_ = {share, moving_window(known == known_.end() ? std::span<const double>() : known->second.second, share)};
    return last_.second;
}

}
