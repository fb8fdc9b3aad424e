#include "core/steps/steady/first_look.h"

#include "core/picture/picture.h"
#include "core/picture/small_picture.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr int side = 320;               ///< pixels, the longer one
constexpr std::size_t looked_at = 6;    ///< photos beside the middle one
constexpr double least_response = 0.08; ///< of phase correlation: below it two pictures do not meet

cv::Mat1f grey(const ShotPhoto& photo, cv::Size size, const PhotoSource& source)
{
    const auto picture = small_picture({photo.photo, photo.turns, Damage::accept}, size, source);
    if (!picture)
        return {};
    cv::Mat one;
    cv::cvtColor(*picture, one, picture->channels() == 4 ? cv::COLOR_BGRA2GRAY : cv::COLOR_BGR2GRAY);
    cv::Mat1f light;
    one.convertTo(light, CV_32F);
    return light;
}

}

double moves_by(const Shot& shot, const PhotoSource& source, const Job& job)
{
    std::vector<std::size_t> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i] && !shot.photos[i].photo->size.empty())
            photos.push_back(i);
    if (photos.size() < 3)
        return 0;
    const ShotPhoto& middle = shot.photos[photos[photos.size() / 2]];
    const cv::Size whole = seen_size(middle);
    const cv::Size size = fitted(whole, {side, side});
    const cv::Mat1f reference = grey(middle, size, source);
    if (reference.empty())
        return 0;
    cv::Mat window;
    cv::createHanningWindow(window, size, CV_32F);
    std::vector<double> moved;
    for (std::size_t i = 0; i < looked_at; ++i) {
        job.check();
        const std::size_t at = photos[i * (photos.size() - 1) / (looked_at - 1)];
        if (&shot.photos[at] == &middle || seen_size(shot.photos[at]) != whole)
            continue;
        const cv::Mat1f other = grey(shot.photos[at], size, source);
        double response = 0;
        if (other.empty())
            continue;
        const cv::Point2d shift = cv::phaseCorrelate(reference, other, window, &response);
        if (response > least_response)
            moved.push_back(std::hypot(shift.x, shift.y) * whole.width / size.width);
    }
    return moved.empty() ? 0 : *std::max_element(moved.begin(), moved.end());
}

}
