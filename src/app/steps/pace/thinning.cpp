#include "app/steps/pace/thinning.h"

#include "core/steps/pace/movement.h"

namespace frenlo::app {

Thinning::Thinning(Background& background, PreviewStore& store, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), background_(background), previews_(store), session_(session), viewing_(viewing)
{
    connect(&viewing, &Viewing::shot_changed, this, [this] {
        if (viewing_.shot() != looked_at_.get() && (looked_ || running_)) {
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
    if (running_ || !viewing_.shot())
        return;
    running_ = true;
    looked_ = false;
    found_.clear();
    stop_ = {};
    looked_at_ = session_.project().shots[viewing_.shot_index().at()];
    const int photos = int(photos_in_film(*looked_at_));
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_, photos](double fraction, std::string_view) {
        background.post(self, [this, fraction, photos] { Q_EMIT progress(int(fraction * photos), photos); });
    });
    background_.run(
        this,
        [shot = looked_at_, &previews = previews_, job] {
            return Background::guarded([&] { return still_ones(*shot, previews, job); });
        },
        [this](const Result<std::vector<PhotoIndex>>& found) {
            running_ = false;
            if (found && viewing_.shot() == looked_at_.get()) {
                looked_ = true;
                found_ = *found;
            } else if (!found && !stop_.stop_requested()) {
                Q_EMIT failed(QString::fromStdString(found.error().text()));
            }
            Q_EMIT changed();
        });
    Q_EMIT changed();
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
