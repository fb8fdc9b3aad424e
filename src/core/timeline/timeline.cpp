#include "core/timeline/timeline.h"

#include <algorithm>
#include <array>

namespace frenlo {

ShotTimeline::ShotTimeline(ShotPtr shot, Schedule schedule)
    : shot_(std::move(shot)), schedule_(std::move(schedule)), film_{FrameIndex(0), FrameIndex(schedule_.frames())},
      dress_(dress_of(*shot_, schedule_))
{
}

ShotTimeline::ShotTimeline(ShotPtr shot, const DisplayTimeline& page)
    : shot_(std::move(shot)), schedule_(page.schedule), film_{page.kept_begin, page.kept_end},
      dress_(page.film.frames() > 0 ? dress_of(*shot_, page.film) : DressFrame())
{
}

FrameDress ShotTimeline::dress_at(FrameIndex frame) const
{
    FrameDress dress;
    if (dress_ && film_.begin < film_.end)
        dress_(FrameIndex(std::clamp(frame, film_.begin, film_.end - 1) - film_.begin), dress);
    return dress;
}

FrameRequest ShotTimeline::frame(FrameIndex frame, const FrameLook& look) const
{
    FrameRequest request =
        request_for_shares(*shot_, schedule_.shares_at(frame), look.size, look.fit, look.corrections);
    request.depth = look.depth;
    request.alpha = look.alpha;
    request.dither = look.dither;
    if (dress_) {
        FrameDress dress = dress_at(frame);
        if (look.corrections == Corrections::none) // how a photo lies in the frame is no correction
            dress.finish = {};
        wear(dress, request);
    }
    return request;
}

std::vector<FrameRange> ShotTimeline::runs() const
{
    std::vector<FrameRange> all;
    FrameDress before;
    for (const Moment& m : schedule_.moments()) {
        all.push_back({m.begin, m.end});
        if (!dress_)
            continue;
        for (FrameIndex f = m.begin; f < m.end;
             ++f) { // a photo that is held may be seen through another view each time
            FrameDress now = dress_at(f);
            if (f > m.begin && !(now == before)) {
                all.back().end = f;
                all.push_back({f, m.end});
            }
            before = std::move(now);
        }
    }
    return all;
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
        wear(dress_at(frame), request);
    return request;
}

std::shared_ptr<const Timeline> film_of(const Project& project, ShotIndex shot)
{
    return std::make_shared<const ShotTimeline>(project.shots.at(shot.at()), schedule_of(project, project.shot(shot)));
}

}
