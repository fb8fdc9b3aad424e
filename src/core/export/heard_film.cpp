#include "core/export/heard_film.h"

#include <algorithm>

namespace frenlo {

HeardFilm::HeardFilm(const Soundtrack& track, std::int64_t samples, const Job& job)
    : mix_(track), samples_(samples), job_(job)
{
    if (track.loudness)
        mastering_ = Mastering::to_loudness([&](std::int64_t at, std::span<float> out) { mix_.read(at, out, job); },
                                            samples, *track.loudness, job);
}

SoundToWrite HeardFilm::to_write()
{
    return {[this](std::int64_t at, std::span<float> out) {
                mastering_.read([this](std::int64_t from, std::span<float> to) { mix_.read(from, to, job_); }, at, out);
            },
            samples_};
}

std::unique_ptr<HeardFilm> heard_film(const Project& project, const ExportOrder& order, Seconds length, const Job& job)
{
    const Soundtrack& track = project.reel.sound;
    const bool some = std::any_of(track.sounds.begin(), track.sounds.end(), [](const Sound& s) { return !s.muted; });
    if (!some || !format_of(order.preset).sound || order.part)
        return nullptr;
    return std::make_unique<HeardFilm>(track, sample_at(length), job);
}

std::vector<Chapter> chapters_of(const Reel& reel, Seconds length)
{
    std::vector<Chapter> chapters;
    for (const ReelMarker& m : reel.markers)
        if (m.at < length)
            chapters.push_back({m.at, m.text});
    if (!chapters.empty() && chapters.front().at > Seconds{})
        chapters.insert(chapters.begin(), {Seconds{}, "Start"});
    return chapters;
}

}
