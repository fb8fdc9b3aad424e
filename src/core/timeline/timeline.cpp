#include "core/timeline/timeline.h"

#include <algorithm>
#include <array>

namespace frenlo {

ShotTimeline::ShotTimeline(ShotPtr shot, Schedule schedule, const OtherFilms& others)
    : shot_(std::move(shot)), schedule_(std::move(schedule)), film_{FrameIndex(0), FrameIndex(schedule_.frames())},
      dress_(dress_of(*shot_, schedule_, others))
{
}

ShotTimeline::ShotTimeline(ShotPtr shot, const DisplayTimeline& page, const OtherFilms& others)
    : shot_(std::move(shot)), schedule_(page.schedule), film_{page.kept_begin, page.kept_end},
      dress_(page.film.frames() > 0 ? dress_of(*shot_, page.film, others) : DressFrame())
{
}

FrameDress ShotTimeline::dress_at(FrameIndex frame) const
{
    FrameDress dress;
    if (dress_ && film_.begin < film_.end)
        dress_(FrameIndex(std::clamp(frame, film_.begin, film_.end - 1) - film_.begin), dress);
    return dress;
}

FrameRequest ShotTimeline::undressed_frame(FrameIndex frame, const FrameLook& look) const
{
    const auto shown = [&](FrameIndex f) {
        return request_for_shares(*shot_, schedule_.shares_at(f), look.size, look.fit, look.corrections);
    };
    FrameRequest here = shown(frame);
    const double shutter = look.corrections == Corrections::none ? 0 : shot_->pacing.shutter;
    const auto next = shutter > 0 ? schedule_.on_its_way_to(frame) : std::nullopt;
    return next ? moving_on(std::move(here), shown(*next), shutter) : here;
}

FrameRequest ShotTimeline::frame(FrameIndex frame, const FrameLook& look) const
{
    FrameRequest request = undressed_frame(frame, look);
    request.depth = look.depth;
    request.alpha = look.alpha;
    request.dither = look.dither;
    if (dress_) {
        FrameDress dress = dress_at(frame);
        if (look.corrections == Corrections::none) // how a photo lies in the frame is no correction
            dress = {.view = dress.view};
        wear(dress, request, look.fit);
    }
    return request;
}

std::vector<FrameRange> ShotTimeline::runs() const
{
    std::vector<FrameRange> all;
    for (const Moment& m : schedule_.moments())
        all.push_back({m.begin, m.end});
    return dress_ ? split_by_dress(all, [this](FrameIndex f) { return dress_at(f); }) : all;
}

std::vector<PhotoPtr> ShotTimeline::between_frames() const
{
    std::vector<PhotoPtr> photos;
    for (const PhotoIndex p : schedule_.between_frames())
        photos.push_back(shot_->photos[p.at()].photo);
    return photos;
}

FrameRequest ShotTimeline::photo_in_frame(PhotoIndex photo, FrameIndex frame, cv::Size size) const
{
    FrameRequest request = request_for_shares(*shot_, std::array{Share{photo}}, size);
    if (dress_)
        wear(dress_at(frame), request, Fit::inside);
    return request;
}

OtherFilms films_of(const std::shared_ptr<const Project>& project, std::vector<ShotId> within)
{
    return [project, within = std::move(within)](ShotId id) -> std::optional<OtherFilm> {
        const auto at = project->find_shot(id);
        if (!at || std::find(within.begin(), within.end(), id) != within.end())
            return std::nullopt;
        auto inside = within;
        inside.push_back(id);
        const ShotPtr& shot = project->shots[at->at()];
        const auto film = std::make_shared<const ShotTimeline>(shot, schedule_of(*project, *shot),
                                                               films_of(project, std::move(inside)));
        const bool drawing = std::all_of(shot->photos.begin(), shot->photos.end(),
                                         [](const ShotPhoto& p) { return p.photo->format == PhotoFormat::svg; });
        return OtherFilm{film->size(), film->frames(), drawing, [film](FrameIndex f) {
                             return film->frame(f, {.size = film->size(), .depth = Depth::sixteen, .alpha = true});
                         }};
    };
}

std::shared_ptr<const Timeline> film_of(const Project& project, ShotIndex shot)
{
    return std::make_shared<const ShotTimeline>(
        project.shots.at(shot.at()), schedule_of(project, project.shot(shot)),
        films_of(std::make_shared<const Project>(project), {project.shot(shot).id}));
}

}
