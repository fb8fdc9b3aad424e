#include "app/work/reel_page.h"

namespace frenlo::app {

ReelPage reel_page(const Project& project)
{
    auto film = reel_of(project);
    auto shot = std::make_shared<Shot>();
    shot->id = reel_page_id;
    shot->name = film->name();
    std::vector<HeldPhoto> held;
    for (const ReelPart& part : film->parts()) {
        const PhotoIndex first(std::int64_t(shot->photos.size()));
        shot->photos.append(part.shot->photos, 0, part.shot->photos.size());
        std::optional<std::size_t> before;
        for (FrameIndex f = part.frames.begin; f < part.frames.end; ++f) {
            const std::size_t span = part.page->schedule.span_at(part.page_frame(f));
            if (before == span)
                ++std::get<Frames>(held.back().hold).count;
            else
                held.push_back({first + part.page->schedule.spans()[span].photo.value, Frames{1}});
            before = span;
        }
    }
    const Rate rate = project.delivered_at;
    const Schedule schedule(held, rate, rate);
    const FrameIndex end(schedule.frames());
    return {std::move(film), std::move(shot),
            DisplayTimeline{schedule, FrameIndex(0), end, 1, std::int64_t(held.size()), schedule}};
}

}
