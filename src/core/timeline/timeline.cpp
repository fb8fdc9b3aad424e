#include "core/timeline/timeline.h"

namespace frenlo {

FrameRequest ShotTimeline::frame(FrameIndex frame, const FrameLook& look) const
{
    FrameRequest request =
        request_for_shares(*shot_, schedule_.shares_at(frame), look.size, look.fit, look.corrections);
    request.depth = look.depth;
    request.alpha = look.alpha;
    request.dither = look.dither;
    return request;
}

std::vector<FrameRange> ShotTimeline::runs() const
{
    std::vector<FrameRange> all;
    for (const Moment& m : schedule_.moments())
        all.push_back({m.begin, m.end});
    return all;
}

std::vector<PhotoPtr> ShotTimeline::between_frames() const
{
    std::vector<PhotoPtr> photos;
    for (const PhotoIndex p : schedule_.between_frames())
        photos.push_back(shot_->photos[p.at()].photo);
    return photos;
}

std::shared_ptr<const Timeline> film_of(const Project& project, ShotIndex shot)
{
    return std::make_shared<const ShotTimeline>(project.shots.at(shot.at()), schedule_of(project, project.shot(shot)));
}

}
