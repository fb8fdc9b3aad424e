#include "core/steps/steady/steady_figures.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

double moved_px(const Shot& shot, PhotoIndex photo)
{
    const ShotPhoto& p = shot.photos[photo.at()];
    if (!alignment_of(p))
        return 0;
    double most = 0;
    for (const cv::Point2d& c : corners_of(seen_size(p))) {
        const cv::Point2d d = moved(alignment_of(p)->from_film, c) - c;
        most = std::max(most, std::hypot(d.x, d.y));
    }
    return most;
}

double most_moved_px(const Shot& shot)
{
    double most = 0;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i])
            most = std::max(most, moved_px(shot, PhotoIndex(std::int64_t(i))));
    return most;
}

double most_left_px(const Shot& shot)
{
    double most = 0;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto& a = alignment_of(shot.photos[i]); shown[i] && a && a->doubt.empty())
            most = std::max(most, a->left_px);
    return most;
}

std::vector<PhotoIndex> doubtful_photos(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shown[i] && alignment_of(shot.photos[i]) && !alignment_of(shot.photos[i])->doubt.empty())
            photos.emplace_back(std::int64_t(i));
    return photos;
}

}
