#include "core/steps/steady/comparing.h"

#include "core/picture/small_picture.h"
#include "core/picture/turned.h"
#include "core/source/sharpness.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace frenlo {

namespace {

constexpr int working_side = 1200;

cv::Size seen(const SeenPhoto& p)
{
    return turned(p.photo->size, p.turns);
}

}

cv::Size usual_size(const std::vector<SeenPhoto>& photos)
{
    std::map<std::pair<int, int>, int> counts;
    for (const SeenPhoto& p : photos)
        if (const cv::Size s = seen(p); !s.empty())
            ++counts[{s.width, s.height}];
    const auto most = std::max_element(counts.begin(), counts.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    if (most == counts.end())
        throw Failure({"no photo of the shot can be read", {}, "Look at the problems in Sort"});
    return {most->first.first, most->first.second};
}

Comparing::Comparing(const std::vector<SeenPhoto>& photos, cv::Size full_size, Movement movement, const Region& region,
                     const PhotoSource& source)
    : photos_(photos), source_(source), movement_(movement), region_(region), full_size_(full_size),
      scale_(std::min(1.0, double(working_side) / std::max(full_size.width, full_size.height))),
      prepared_(photos.size()), sharpness_(photos.size(), 0), doubts_(photos.size()), best_(photos.size())
{
    size_ = {std::max(1, int(std::lround(full_size.width * scale_))),
             std::max(1, int(std::lround(full_size.height * scale_)))};
}

void Comparing::prepare(std::size_t i)
{
    const SeenPhoto& p = photos_[i];
    if (seen(p) != full_size_) {
        doubts_[i] = seen(p).empty() ? "it cannot be read" : "it has another size than the others";
        return;
    }
    const auto small = small_picture(p, size_, source_);
    if (!small) {
        doubts_[i] = small.error().what;
        return;
    }
    prepared_[i] = frenlo::prepare(*small, region_);
    sharpness_[i] = sharpness_of(*small);
    if (prepared_[i].blank())
        doubts_[i] = "it shows too little that could be followed";
}

Link Comparing::compare(std::size_t from, std::size_t to, const Transform* guess)
{
    if (!usable(from) || !usable(to))
        return {};
    Link link = register_photos(prepared_[from], prepared_[to], movement_, guess);
    const std::lock_guard lock(mutex_);
    for (const std::size_t i : {from, to})
        if (link.inliers > best_[i].inliers) {
            best_[i] = link;
            best_[i].trusted.clear();
        }
    return link;
}

Alignment Comparing::alignment_of(std::size_t i) const
{
    Alignment a;
    a.residual_px = best_[i].residual_px / scale_;
    a.inliers = best_[i].inliers;
    a.doubt = doubts_[i];
    return a;
}

}
