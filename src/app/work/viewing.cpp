#include "app/work/viewing.h"

#include <algorithm>

namespace frenlo::app {

Viewing::Viewing(Session& session, std::vector<StepInfo> steps, QObject* parent)
    : QObject(parent), session_(session), steps_(std::move(steps))
{
    step_ = std::size_t(&first_step() - steps_.data());
    connect(&session, &Session::changed, this, &Viewing::follow_project);
    connect(&session, &Session::started, this, [this] {
        if (step().from_nothing && session_.is_empty())
            set_step(first_step().key);
        shot_ = ShotIndex(0);
        on_reel_ = step().about == StepInfo::About::reel;
        playhead_ = FrameIndex(0);
        selection_ = {};
        forget_page();
        Q_EMIT selection_changed();
    });
}

const StepInfo& Viewing::first_step() const
{
    return *std::find_if(steps_.begin(), steps_.end(), [](const StepInfo& s) { return !s.from_nothing; });
}

ShotPtr Viewing::shot_ptr() const
{
    if (const ReelPage* page = reel())
        return page->shot->photos.empty() ? nullptr : page->shot;
    const auto& shots = session_.project().shots;
    return shot_.at() < shots.size() ? shots[shot_.at()] : nullptr;
}

const ReelPage* Viewing::reel() const
{
    if (on_reel_ && !reel_)
        reel_ = reel_page(session_.project());
    return on_reel_ ? &*reel_ : nullptr;
}

void Viewing::forget_page()
{
    timeline_.reset();
    film_.reset();
    reel_.reset();
}

const DisplayTimeline& Viewing::timeline() const
{
    if (const ReelPage* page = reel())
        return page->timeline;
    if (!timeline_) {
        const Rate rate = session_.project().delivered_at;
        timeline_ = shot() ? display_timeline(session_.project(), *shot())
                           : DisplayTimeline{Schedule({}, rate, rate), {}, {}, 1, 0, Schedule({}, rate, rate)};
    }
    return *timeline_;
}

const Timeline* Viewing::film() const
{
    if (const ReelPage* page = reel())
        return page->film->frames() > 0 ? page->film.get() : nullptr;
    if (!film_ && shot())
        film_ = std::make_unique<ShotTimeline>(
            shot_ptr(), timeline(), films_of(std::make_shared<const Project>(session_.project()), {shot()->id}));
    return film_.get();
}

FrameRequest Viewing::photo_in_frame(PhotoIndex photo, cv::Size size) const
{
    if (!film())
        return {};
    if (!on_reel_)
        return film_->photo_in_frame(photo, playhead_, size);
    const auto span = schedule().span_of(photo);
    return span ? film()->frame(schedule().spans()[*span].begin, {.size = size}) : FrameRequest{};
}

void Viewing::set_counting(Counting counting)
{
    if (counting == counting_)
        return;
    counting_ = counting;
    Q_EMIT counting_changed();
}

QString Viewing::length_text(std::int64_t frames) const
{
    return QString::fromStdString(frenlo::length_text(frames, session_.project().delivered_at, counting_));
}

PhotoIndex Viewing::shown_photo() const
{
    if (!shot() || shot()->photos.empty())
        return PhotoIndex(-1);
    if (step().tiles)
        return selection_.current().at() < shot()->photos.size() ? selection_.current() : PhotoIndex(-1);
    return schedule().frames() > 0 ? schedule().photo_at(playhead_) : PhotoIndex(-1);
}

std::vector<PhotoIndex> Viewing::chosen_or_all() const
{
    if (!selection_.empty() || !shot())
        return selection_.photos();
    std::vector<PhotoIndex> all;
    for (std::size_t i = 0; i < shot()->photos.size(); ++i)
        all.emplace_back(std::int64_t(i));
    return all;
}

void Viewing::set_step(std::string_view key)
{
    const auto at = std::find_if(steps_.begin(), steps_.end(), [&](const StepInfo& s) { return key == s.key; });
    if (at == steps_.end() || std::size_t(at - steps_.begin()) == step_)
        return;
    step_ = std::size_t(at - steps_.begin());
    if (at->about == StepInfo::About::shot)
        shot_step_ = step_;
    if (at->about != StepInfo::About::either)
        look_at(at->about == StepInfo::About::reel);
    Q_EMIT step_changed();
    Q_EMIT playhead_changed();
}

/// Another page, from its start.
void Viewing::look_at(bool reel)
{
    if (reel == on_reel_)
        return;
    on_reel_ = reel;
    selection_ = {};
    playhead_ = FrameIndex(0);
    forget_page();
    Q_EMIT shot_changed();
    Q_EMIT selection_changed();
    Q_EMIT playhead_changed();
}

void Viewing::show_reel()
{
    if (step().about == StepInfo::About::either)
        return look_at(true);
    for (const StepInfo& s : steps_)
        if (s.about == StepInfo::About::reel)
            return set_step(s.key);
}

void Viewing::set_shot(ShotIndex shot)
{
    if (shot.at() >= session_.project().shots.size() || (shot == shot_ && !on_reel_))
        return;
    shot_ = shot;
    if (step().about == StepInfo::About::reel)
        return set_step(steps_[shot_step_].key);
    on_reel_ = false;
    selection_ = {};
    playhead_ = FrameIndex(0);
    forget_page();
    Q_EMIT shot_changed();
    Q_EMIT selection_changed();
    Q_EMIT playhead_changed();
}

void Viewing::set_selection(const Selection& wanted)
{
    Selection selection = wanted;
    selection.limit(shot() ? std::int64_t(shot()->photos.size()) : 0); // whoever asks may know an older shot
    if (selection == selection_)
        return;
    selection_ = selection;
    Q_EMIT selection_changed();
}

void Viewing::set_playhead(FrameIndex frame)
{
    const FrameIndex last(std::max<std::int64_t>(0, schedule().frames() - 1));
    const FrameIndex wanted = std::clamp(frame, FrameIndex(0), last);
    if (wanted == playhead_)
        return;
    playhead_ = wanted;
    Q_EMIT playhead_changed();
}

void Viewing::go_to_photo(PhotoIndex photo)
{
    const auto span = schedule().span_of(photo);
    if (span && schedule().frames() > 0)
        set_playhead(schedule().spans()[*span].begin);
}

void Viewing::step_frames(int by)
{
    set_playhead(playhead_ + by);
}

void Viewing::step_photos(int by)
{
    if (schedule().frames() == 0)
        return;
    const auto spans = schedule().spans();
    auto at = std::int64_t(schedule().span_at(playhead_));
    do // photos that no frame shows are passed over
        at += by;
    while (at >= 0 && at < std::int64_t(spans.size()) && spans[std::size_t(at)].frames() == 0);
    if (at >= 0 && at < std::int64_t(spans.size()))
        set_playhead(spans[std::size_t(at)].begin);
}

void Viewing::follow_project()
{
    const auto& shots = session_.project().shots;
    shot_ =
        ShotIndex(std::clamp<std::int64_t>(shot_.value, 0, std::max<std::int64_t>(0, std::int64_t(shots.size()) - 1)));
    forget_page();
    const ShotPtr seen = shot_ptr();
    Selection kept = selection_;
    kept.limit(seen ? std::int64_t(seen->photos.size()) : 0);
    const bool selection_differs = !(kept == selection_);
    selection_ = kept;
    playhead_ = std::clamp(playhead_, FrameIndex(0), FrameIndex(std::max<std::int64_t>(0, schedule().frames() - 1)));
    Q_EMIT shot_changed();
    if (selection_differs)
        Q_EMIT selection_changed();
    Q_EMIT playhead_changed();
}

}
