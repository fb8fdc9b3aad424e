#include "app/steps/pace/in_between_search.h"

#include "core/source/photo_source.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

/// What is said of photos by their places holds while these stand there, whatever was decided about them.
bool same_places(const Shot& a, const Shot& b)
{
    return std::equal(a.photos.begin(), a.photos.end(), b.photos.begin(), b.photos.end(),
                      [](const ShotPhoto& p, const ShotPhoto& q) { return p.id == q.id && p.photo == q.photo; });
}

}

InBetweenSearch::InBetweenSearch(Background& background, PreviewStore& store, Session& session, Viewing& viewing,
                                 QObject* parent)
    : QObject(parent), store_(store), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, &InBetweenSearch::changed);
    connect(&task_, &Task::changed, this, &InBetweenSearch::changed);
    connect(&task_, &Task::failed, this, &InBetweenSearch::failed);
    connect(&viewing, &Viewing::shot_changed, this, [this] { // of another shot, or of other photos: no longer true
        const Shot* shot = viewing_.shot();
        if (looked_ &&
            (!shot || shot->id != of_->id || !same_places(*shot, *of_) || shot->pacing.between != Between::motion)) {
            doubtful_.clear();
            looked_ = false;
            Q_EMIT changed();
        }
    });
}

void InBetweenSearch::look()
{
    if (running() || !viewing_.shot() || viewing_.on_reel())
        return;
    of_ = viewing_.shot_ptr();
    task_.start(
        {of_->id, "pace"},
        [project = session_.project(), shot = of_, &store = store_](const Job& job) {
            return doubtful_in_betweens(project, *shot, Previews(store), job);
        },
        [this](const std::vector<DoubtfulInBetween>& doubtful) {
            doubtful_ = doubtful;
            looked_ = true;
            at_ = doubtful.size(); // before the first
            go_to_next();
            Q_EMIT changed();
        });
}

void InBetweenSearch::go_to_next()
{
    if (doubtful_.empty())
        return;
    at_ = at_ + 1 < doubtful_.size() ? at_ + 1 : 0;
    Selection selection; // what is decided now is about its first photo
    selection.choose(doubtful_[at_].photo);
    viewing_.set_selection(selection);
    const Schedule& schedule = viewing_.schedule();
    for (FrameIndex f(0); f < FrameIndex(schedule.frames()); ++f) {
        const auto shares = schedule.shares_at(f);
        if (shares.size() == 2 && shares[0].photo == doubtful_[at_].photo && shares[1].photo == doubtful_[at_].next) {
            viewing_.set_playhead(f);
            break;
        }
    }
    Q_EMIT changed();
}

QString InBetweenSearch::text() const
{
    if (running())
        return task_.what();
    if (!looked_)
        return {};
    if (doubtful_.empty())
        return tr("all movement is followed");
    const DoubtfulInBetween& d = doubtful_[at_];
    return tr("%1 of %2: photo %3 to %4, %5 % only mixed")
        .arg(at_ + 1)
        .arg(doubtful_.size())
        .arg(d.photo.value + 1)
        .arg(d.next.value + 1)
        .arg(std::lround(100 * d.mixed));
}

}
