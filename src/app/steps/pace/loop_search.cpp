#include "app/steps/pace/loop_search.h"

#include "core/source/photo_source.h"
#include "core/steps/pace/range_edits.h"

namespace frenlo::app {

LoopSearch::LoopSearch(Background& background, PreviewStore& store, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), store_(store), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, &LoopSearch::changed);
    connect(&task_, &Task::changed, this, &LoopSearch::changed);
    connect(&task_, &Task::failed, this, &LoopSearch::failed);
    connect(&viewing, &Viewing::shot_changed, this, [this] { // of another shot, or of other photos: no longer true
        const Shot* shot = viewing_.shot();
        if (loops_.empty() && !none_)
            return;
        if (!shot || shot->id != of_ || !(shot->photos == of_photos_)) {
            loops_.clear();
            none_ = false;
            Q_EMIT changed();
        }
    });
}

void LoopSearch::try_next()
{
    if (running() || !viewing_.shot() || viewing_.on_reel())
        return;
    if (!loops_.empty()) {
        keep((tried_ + 1) % loops_.size());
        return;
    }
    const ShotPtr shot = viewing_.shot_ptr();
    of_ = shot->id;
    of_photos_ = shot->photos;
    task_.start(
        {shot->id, "pace"},
        [project = session_.project(), shot, &store = store_](const Job& job) {
            return find_loops(project, *shot, {Fraction(1, 2)}, Previews(store), job);
        },
        [this](const std::vector<LoopFound>& loops) {
            loops_ = loops;
            none_ = loops.empty();
            if (!loops.empty())
                keep(0);
        });
}

void LoopSearch::keep(std::size_t which)
{
    tried_ = which;
    const auto shot = session_.project().find_shot(of_);
    if (!shot)
        return;
    const KeptRange kept{loops_[which].first, PhotoIndex(loops_[which].last.value + 1)};
    session_.apply([&](const Project& p) { return set_kept(p, *shot, kept); }, tr("Keep a loop"));
    Q_EMIT changed();
}

QString LoopSearch::text() const
{
    if (running())
        return task_.what();
    if (none_)
        return tr("nothing comes round here");
    if (loops_.empty())
        return {};
    const double seen = loops_[tried_].seen;
    constexpr double hardly = 1.3, well = 2.5;
    const QString how = seen < hardly ? tr("its joint is not seen")
                        : seen < well ? tr("its joint is hardly seen")
                                      : tr("its joint is seen");
    return tr("%1 of %2: %3").arg(tried_ + 1).arg(loops_.size()).arg(how);
}

}
