#include "core/export/export_plan.h"

#include <tbb/parallel_for.h>

#include <atomic>
#include <set>
#include <utility>

namespace frenlo {

namespace {

void collect(const FrameRequest& request, std::set<std::pair<PhotoPtr, Damage>>& known, std::vector<SeenPhoto>& photos)
{
    for (const FramePart& part : request.parts)
        if (const auto* p = std::get_if<PlacedPhoto>(&part.what)) {
            if (known.emplace(p->photo, p->damage).second)
                photos.push_back({p->photo, p->turns, p->damage});
            for (const auto& stage : p->stages.entries())
                for (const PhotoPtr& other : stage.type->others(stage.value.get()))
                    if (known.emplace(other, Damage::refuse).second)
                        photos.push_back({other, 0, Damage::refuse});
        } else if (const auto* frame = std::get_if<std::shared_ptr<const FrameRequest>>(&part.what)) {
            collect(**frame, known, photos);
        }
}

}

std::vector<SeenPhoto> exported_photos(const Project& project, const ExportOrder& order)
{
    const auto film = written_film(delivered(project, order), order);
    std::set<std::pair<PhotoPtr, Damage>> known;
    std::vector<SeenPhoto> photos;
    for (const FrameRange& run : film->runs())
        collect(film->frame(run.begin, {}), known, photos);
    return photos;
}

std::optional<Problem> check_photo(const SeenPhoto& photo, const PhotoSource& source)
{
    // Small is enough: every byte of a photo is gone through at any size.
    const auto pixels = source.pixels(*photo.photo, {1, 1}, photo.damage);
    return pixels ? std::nullopt : std::optional(pixels.error());
}

std::vector<Problem> check_photos(const std::vector<SeenPhoto>& photos, const PhotoSource& source, const Job& job)
{
    std::vector<std::optional<Problem>> found(photos.size());
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), photos.size(), [&](std::size_t i) {
        if (job.stopping())
            return;
        found[i] = check_photo(photos[i], source);
        const std::size_t n = ++done;
        job.report(double(n) / double(photos.size()),
                   "photo " + std::to_string(n) + " of " + std::to_string(photos.size()));
    });
    job.check();
    std::vector<Problem> problems;
    for (auto& f : found)
        if (f)
            problems.push_back(std::move(*f));
    return problems;
}

}
