#include "core/timeline/timeline.h"

#include <array>

namespace frenlo {

ShotTimeline::ShotTimeline(ShotPtr shot, Schedule schedule)
    : shot_(std::move(shot)), schedule_(std::move(schedule)), dress_(dress_of(*shot_, schedule_))
{
}

FrameRequest ShotTimeline::frame(FrameIndex frame, const FrameLook& look) const
{
    FrameRequest request =
        request_for_shares(*shot_, schedule_.shares_at(frame), look.size, look.fit, look.corrections);
    request.depth = look.depth;
    request.alpha = look.alpha;
    request.dither = look.dither;
    if (dress_) {
        FrameDress dress;
        dress_(frame, dress);
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
            FrameDress now;
            dress_(f, now);
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

FrameRequest photo_in_frame(const Shot& shot, const Schedule& schedule, PhotoIndex photo, FrameIndex frame,
                            cv::Size size)
{
    FrameRequest request = request_for_shares(shot, std::array{Share{photo}}, size);
    if (const DressFrame dress_frame = dress_of(shot, schedule); dress_frame && frame.value < schedule.frames()) {
        FrameDress dress;
        dress_frame(frame, dress);
        wear(dress, request);
    }
    return request;
}

std::shared_ptr<const Timeline> film_of(const Project& project, ShotIndex shot)
{
    return std::make_shared<const ShotTimeline>(project.shots.at(shot.at()), schedule_of(project, project.shot(shot)));
}

}
