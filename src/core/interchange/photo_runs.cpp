#include "core/interchange/photo_runs.h"

#include <cctype>
#include <charconv>

namespace frenlo {

namespace {

template <class PhotoAt>
std::vector<SeenRun> runs_of(std::int64_t frames, const PhotoAt& photo_at)
{
    std::vector<SeenRun> runs;
    for (std::int64_t f = 0; f < frames; ++f) {
        const PhotoIndex photo = photo_at(f);
        if (!runs.empty() && runs.back().photo == photo)
            ++runs.back().frames;
        else
            runs.push_back({FrameIndex(f), 1, photo});
    }
    return runs;
}

/// The last number in the name, before its ending.
NumberedRun alone(const Shot& shot, const SeenRun& run)
{
    NumberedRun n;
    n.photos = {run};
    const std::string name = shot.photos[run.photo.at()].photo->file.filename().string();
    const auto digit = [&](std::size_t i) { return std::isdigit(static_cast<unsigned char>(name[i])) != 0; };
    const std::size_t ending = name.rfind('.');
    std::size_t end = ending == std::string::npos ? name.size() : ending;
    while (end > 0 && !digit(end - 1))
        --end;
    std::size_t begin = end;
    while (begin > 0 && digit(begin - 1))
        --begin;
    std::int64_t number = 0;
    const auto parsed = std::from_chars(name.data() + begin, name.data() + end, number);
    if (begin == end || parsed.ec != std::errc()) {
        n.prefix = name;
        return n;
    }
    n.prefix = name.substr(0, begin);
    n.suffix = name.substr(end);
    n.first = number;
    n.digits = int(end - begin);
    return n;
}

}

std::vector<SeenRun> photo_runs(const Project& project, const Shot& shot)
{
    const Schedule schedule = schedule_of(project, shot);
    return runs_of(schedule.frames(), [&](std::int64_t f) { return schedule.photo_at(FrameIndex(f)); });
}

std::vector<SeenRun> photo_runs(const ReelPart& part)
{
    const Schedule& schedule = part.page->schedule;
    return runs_of(part.frames.end - part.frames.begin, [&](std::int64_t f) {
        return schedule.photo_at(part.page_frame(FrameIndex(part.frames.begin.value + f)));
    });
}

std::vector<NumberedRun> numbered_runs(const Shot& shot, const std::vector<SeenRun>& runs)
{
    std::vector<NumberedRun> all;
    for (const SeenRun& run : runs) {
        NumberedRun now = alone(shot, run);
        if (!all.empty()) {
            NumberedRun& before = all.back();
            const auto folder = [&](const SeenRun& r) { return shot.photos[r.photo.at()].photo->file.parent_path(); };
            // A number that grows by a digit does so without zeros before it.
            if (before.first && now.first && *now.first == *before.first + std::int64_t(before.photos.size()) &&
                now.prefix == before.prefix && now.suffix == before.suffix && now.digits == before.digits &&
                run.frames == before.photos.front().frames && folder(run) == folder(before.photos.front())) {
                before.photos.push_back(run);
                continue;
            }
        }
        all.push_back(std::move(now));
    }
    return all;
}

}
