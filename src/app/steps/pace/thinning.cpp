#include "app/steps/pace/thinning.h"

#include "core/steps/pace/movement.h"

namespace frenlo::app {

Thinning::Thinning(Background& background, PreviewStore& store, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), previews_(store), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, [this](double fraction) {
        const int photos = int(photos_in_film(*looked_at_));
        Q_EMIT progress(int(fraction * photos), photos);
    });
    connect(&task_, &Task::changed, this, &Thinning::changed);
    connect(&task_, &Task::failed, this, &Thinning::failed);
    connect(&viewing, &Viewing::shot_changed, this, [this] {
        if (viewing_.shot() != looked_at_.get() && (looked_ || running())) {
            stop();
            looked_ = false;
            found_.clear();
            Q_EMIT changed();
        }
    });
}

namespace {

/// Photos without movement against the last that has some. What cannot be read is passed over: Sort lists it.
std::vector<PhotoIndex> still_ones(const Shot& shot, const Previews& previews, const Job& job)
{
    std::vector<PhotoIndex> still;
    const auto photos = held_photos(shot);
    cv::Mat last;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        job.check();
        job.report(double(i + 1) / double(photos.size()), "");
        const auto pixels = previews.get(*shot.photos[photos[i].photo.at()].photo, PreviewKind::preview);
        if (!pixels)
            continue;
        const cv::Mat blocks = movement_blocks(*pixels);
        if (!last.empty() && last.size() == blocks.size() && movement(last, blocks) < 1)
            still.push_back(photos[i].photo);
        else
            last = blocks;
    }
    return still;
}

}

void Thinning::look()
{
    if (running() || !viewing_.shot())
        return;
    looked_ = false;
    found_.clear();
    looked_at_ = session_.project().shots[viewing_.shot_index().at()];
    task_.start(
        {looked_at_->id, "pace"},
        [shot = looked_at_, &previews = previews_](const Job& job) { return still_ones(*shot, previews, job); },
        [this](std::vector<PhotoIndex> found) {
            if (viewing_.shot() != looked_at_.get())
                return;
            looked_ = true;
            found_ = std::move(found);
        });
}

void Thinning::select_found()
{
    Selection s;
    for (const PhotoIndex p : found_)
        s.contains(p) ? void() : s.toggle(p);
    viewing_.set_selection(s);
    if (!found_.empty())
        viewing_.go_to_photo(found_.front());
}

void Thinning::set_found_aside()
{
    const auto photos = found_;
    session_.apply([&](const Project& p) { return set_aside(p, viewing_.shot_index(), photos, true); },
                   tr("Set photos without movement aside"));
}

}
