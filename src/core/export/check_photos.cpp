#include "core/export/export_plan.h"
#include "core/picture/step_pictures.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>

namespace frenlo {

std::vector<ShotPhoto> exported_photos(const Project& project, const ExportOrder& order)
{
    const Project p = delivered(project, order);
    const Shot& shot = p.shot(order.shot);
    std::vector<PhotoIndex> seen;
    for (const Moment& m : written_schedule(p, shot, order.preset.format).moments())
        for (const Share& share : m.shares)
            for (const Share& in_its_place : standing_in(shot, share.photo))
                seen.push_back(in_its_place.photo);
    std::sort(seen.begin(), seen.end());
    seen.erase(std::unique(seen.begin(), seen.end()), seen.end());
    std::vector<ShotPhoto> photos;
    photos.reserve(seen.size());
    for (const PhotoIndex i : seen)
        photos.push_back(shot.photos[i.at()]);
    return photos;
}

std::optional<Problem> check_photo(const ShotPhoto& photo, const PhotoSource& source)
{
    // Small is enough: every byte of a photo is gone through at any size.
    const auto pixels = source.pixels(*photo.photo, {1, 1}, photo.what_there_is ? Damage::accept : Damage::refuse);
    return pixels ? std::nullopt : std::optional(pixels.error());
}

std::vector<Problem> check_photos(const std::vector<ShotPhoto>& photos, const PhotoSource& source, const Job& job)
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
