#include "core/steps/flicker/first_look.h"

#include "core/base/median.h"
#include "core/picture/picture.h"
#include "core/picture/small_picture.h"
#include "core/source/transfer.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr std::size_t first_photos = 16; ///< photos in a row
constexpr int side = 64;                 ///< pixels, the longer one

/// Mean brightness, stops; nothing where the photo cannot be read.
std::optional<double> brightness(const ShotPhoto& photo, const PhotoSource& source)
{
    const auto picture =
        small_picture({photo.photo, photo.turns, Damage::accept}, fitted(seen_size(photo), {side, side}), source);
    if (!picture)
        return std::nullopt;
    const auto& linear = linear_table<std::uint8_t>();
    double sum = 0;
    for (int y = 0; y < picture->rows; ++y)
        for (int x = 0; x < picture->cols; ++x)
            sum += double(linear[picture->ptr(y)[x * picture->channels() + 1]]);
    return std::log2(sum / double(picture->total()) + 1e-4);
}

}

double flickers_by(const Shot& shot, const PhotoSource& source, const Job& job)
{
    std::vector<std::size_t> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i] && !shot.photos[i].photo->size.empty())
            photos.push_back(i);
    const std::size_t count = std::min(photos.size(), first_photos);
    if (count < 5)
        return 0;
    const std::size_t begin = (photos.size() - count) / 2;
    std::vector<double> stops;
    for (std::size_t i = 0; i < count; ++i) {
        job.check();
        const auto b = brightness(shot.photos[photos[begin + i]], source);
        if (!b)
            return 0;
        stops.push_back(*b);
    }
    std::vector<double> bends;
    for (std::size_t i = 1; i + 1 < stops.size(); ++i)
        bends.push_back(std::abs(stops[i - 1] - 2 * stops[i] + stops[i + 1]));
    constexpr double of_noise = 0.6745 * 2.4495; // the middle of |second differences| of white noise of 1: sqrt(6) wide
    return upper_median(std::move(bends)) / of_noise;
}

}
