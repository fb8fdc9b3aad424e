// What is written, as a film: a shot's or the Reel's, by the clock of its format, repeated, a part of it.
#include "core/export/export_plan.h"
#include "core/project/delivery.h"
#include "core/project/speed_course.h"
#include "core/timeline/reel_timeline.h"

#include <algorithm>

namespace frenlo {

namespace {

/// Pictures change while a photo is held: the film drifts, fades, has grain.
bool moves(const Timeline& film, const Schedule& schedule)
{
    return film.runs().size() != schedule.moments().size();
}

/// A film counted by another clock, of a loop's delays: each of its pictures begins where its frame does, to the
/// nearest tick.
class InClock : public Timeline
{
public:
    InClock(std::shared_ptr<const Timeline> film, Rate clock) : film_(std::move(film)), clock_(clock)
    {
        for (const FrameRange& run : film_->runs())
            if (const FrameRange ticks{tick(run.begin), tick(run.end)}; ticks.begin < ticks.end) {
                runs_.push_back(ticks);
                frames_.push_back(run.begin);
            }
    }
    [[nodiscard]] const std::string& name() const override { return film_->name(); }
    [[nodiscard]] Rate rate() const override { return clock_; }
    [[nodiscard]] std::int64_t frames() const override { return runs_.empty() ? 0 : runs_.back().end.value; }
    [[nodiscard]] cv::Size size() const override { return film_->size(); }
    [[nodiscard]] FrameRequest frame(FrameIndex at, const FrameLook& look) const override
    {
        const auto run = std::upper_bound(runs_.begin(), runs_.end(), at,
                                          [](FrameIndex f, const FrameRange& r) { return f < r.begin; });
        return film_->frame(frames_[std::size_t(run - runs_.begin()) - 1], look);
    }
    [[nodiscard]] std::vector<FrameRange> runs() const override { return runs_; }
    [[nodiscard]] std::vector<PhotoPtr> between_frames() const override { return film_->between_frames(); }

private:
    [[nodiscard]] FrameIndex tick(FrameIndex frame) const
    {
        return FrameIndex((Fraction(frame.value) * clock_.value() / film_->rate().value()).rounded());
    }

    std::shared_ptr<const Timeline> film_;
    Rate clock_;
    std::vector<FrameRange> runs_;
    std::vector<FrameIndex> frames_; ///< that each of them shows
};

std::shared_ptr<const Timeline> whole_film(const Project& project, const ExportOrder& order)
{
    const auto& clock = format_of(order.preset).clock;
    if (order.reel) {
        std::shared_ptr<const Timeline> reel = reel_of(project);
        return clock ? std::make_shared<const InClock>(std::move(reel), *clock) : reel;
    }
    const ShotIndex index = shot_of(project, order);
    if (!clock)
        return film_of(project, index);
    const Shot& shot = project.shot(index);
    // Of a joint each frame is another picture, and no hold of a photo's.
    if (auto film = film_of(project, index); shot.pacing.joint > 0 || moves(*film, schedule_of(project, shot)))
        return std::make_shared<const InClock>(std::move(film), *clock);
    Pacing pacing = shot.pacing;
    pacing.paced_at = pacing_rate(project, shot);
    return std::make_shared<const ShotTimeline>(
        project.shots[index.at()],
        Schedule(arranged(paced_photos(project, shot), pacing, *clock).film, *pacing.paced_at, *clock, Between::repeat),
        films_of(std::make_shared<const Project>(project), {shot.id}));
}

/// Frames [begin, end) of a film.
class PartOfFilm : public Timeline
{
public:
    PartOfFilm(std::shared_ptr<const Timeline> film, FrameRange part) : film_(std::move(film)), part_(part) {}
    [[nodiscard]] const std::string& name() const override { return film_->name(); }
    [[nodiscard]] Rate rate() const override { return film_->rate(); }
    [[nodiscard]] std::int64_t frames() const override { return part_.end - part_.begin; }
    [[nodiscard]] cv::Size size() const override { return film_->size(); }
    [[nodiscard]] FrameRequest frame(FrameIndex at, const FrameLook& look) const override
    {
        return film_->frame(FrameIndex(at.value + part_.begin.value), look);
    }
    [[nodiscard]] std::vector<FrameRange> runs() const override
    {
        std::vector<FrameRange> all;
        for (const FrameRange& run : film_->runs()) {
            const FrameIndex begin = std::max(run.begin, part_.begin), end = std::min(run.end, part_.end);
            if (begin < end)
                all.push_back({FrameIndex(begin - part_.begin), FrameIndex(end - part_.begin)});
        }
        return all;
    }
    [[nodiscard]] std::vector<PhotoPtr> between_frames() const override { return film_->between_frames(); }

private:
    std::shared_ptr<const Timeline> film_;
    FrameRange part_;
};

/// A film again and again.
class RepeatedFilm : public Timeline
{
public:
    RepeatedFilm(std::shared_ptr<const Timeline> film, std::int64_t times) : film_(std::move(film)), times_(times) {}
    [[nodiscard]] const std::string& name() const override { return film_->name(); }
    [[nodiscard]] Rate rate() const override { return film_->rate(); }
    [[nodiscard]] std::int64_t frames() const override { return film_->frames() * times_; }
    [[nodiscard]] cv::Size size() const override { return film_->size(); }
    [[nodiscard]] FrameRequest frame(FrameIndex at, const FrameLook& look) const override
    {
        return film_->frame(FrameIndex(at.value % film_->frames()), look);
    }
    [[nodiscard]] std::vector<FrameRange> runs() const override
    {
        const auto once = film_->runs();
        std::vector<FrameRange> all;
        all.reserve(once.size() * std::size_t(times_));
        for (std::int64_t t = 0; t < times_; ++t)
            for (const FrameRange& run : once)
                all.push_back({run.begin + t * film_->frames(), run.end + t * film_->frames()});
        return all;
    }
    [[nodiscard]] std::vector<PhotoPtr> between_frames() const override { return film_->between_frames(); }

private:
    std::shared_ptr<const Timeline> film_;
    std::int64_t times_;
};

}

std::shared_ptr<const Timeline> repeated_film(const Project& project, const ExportOrder& order)
{
    auto film = whole_film(project, order);
    return order.times > 1 && film->frames() > 0 ? std::make_shared<const RepeatedFilm>(std::move(film), order.times)
                                                 : film;
}

FrameRange frames_of(const FilmPart& part, std::int64_t frames)
{
    return {FrameIndex(frames * (part.number - 1) / part.of), FrameIndex(frames * part.number / part.of)};
}

std::shared_ptr<const Timeline> part_of_film(std::shared_ptr<const Timeline> film, FrameRange frames)
{
    return std::make_shared<const PartOfFilm>(std::move(film), frames);
}

std::shared_ptr<const Timeline> written_film(const Project& project, const ExportOrder& order)
{
    auto film = repeated_film(project, order);
    if (!order.part)
        return film;
    const FilmPart& part = *order.part;
    if (part.of < 1 || part.number < 1 || part.number > part.of)
        throw Failure({"there is no part " + std::to_string(part.number) + " of " + std::to_string(part.of), order.file,
                       "Count them from 1"});
    if (format_of(order.preset).kind == Format::Kind::loop)
        throw Failure({"a loop looks at all its pictures together and cannot be made in parts", order.file,
                       "Export it whole, or a film in parts"});
    const FrameRange frames = frames_of(part, film->frames());
    return part_of_film(std::move(film), frames);
}

}
