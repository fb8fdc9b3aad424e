#include "core/steps/steady/film_crop.h"

#include "core/steps/steady/crop.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

bool has_say_in_crop(const ShotPhoto& p, bool shown)
{
    return alignment_of(p) && shown && alignment_of(p)->doubt.empty();
}

cv::Rect crop_inside(const std::vector<cv::Point2d>& polygon, const Steadying& steady)
{
    const cv::Size size = steady.size, shape = steady.shape.empty() ? size : steady.shape;
    const cv::Rect whole({0, 0}, size);
    const cv::Rect2d box = largest_box(polygon, double(shape.width) / shape.height);
    // Box edges are half a pixel before pixel centres; a hair is no reason to lose a row.
    constexpr double hair = 1e-6;
    const int left = int(std::ceil(box.x + 0.5 - hair)), top = int(std::ceil(box.y + 0.5 - hair));
    const int right = int(std::floor(box.br().x + 0.5 + hair)), bottom = int(std::floor(box.br().y + 0.5 + hair));
    const cv::Rect crop(left, top, right - left, bottom - top);
    return crop.width < 2 || crop.height < 2 ? whole : crop & whole;
}

void fit_crop(Shot& shot)
{
    const auto shown = in_film(shot);
    std::vector<Transform> sure;
    Steadying& steady = shot.steps.edit<Steadying>();
    for (std::size_t i = 0; i < shot.photos.size() && steady.inside_all; ++i)
        if (has_say_in_crop(shot.photos[i], shown[i]))
            sure.push_back(alignment_of(shot.photos[i])->from_film);
    steady.crop = crop_inside(seen_by_all(sure, steady.size), steady);
}

bool same_crop(const Shot& a, const Shot& b)
{
    const Steadying *of_a = steadying_of(a), *of_b = steadying_of(b);
    if (!of_a || !of_b || of_a->size != of_b->size || of_a->inside_all != of_b->inside_all ||
        of_a->shape != of_b->shape || a.photos.size() != b.photos.size())
        return false;
    const auto shown_a = in_film(a), shown_b = in_film(b);
    for (std::size_t i = 0; i < a.photos.size(); ++i) {
        const bool say = has_say_in_crop(a.photos[i], shown_a[i]);
        if (say != has_say_in_crop(b.photos[i], shown_b[i]))
            return false;
        if (say && alignment_of(a.photos[i])->from_film != alignment_of(b.photos[i])->from_film)
            return false;
    }
    return true;
}

}
