#include "core/picture/picture.h"

#include "core/picture/mix.h"
#include "core/picture/resample.h"
#include "core/picture/step_pictures.h"
#include "core/picture/turned.h"
#include "core/picture/warp.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace frenlo {

cv::Size film_size(const Shot& shot)
{
    for (const StepPictures& step : step_pictures())
        if (step.film_size)
            if (const auto size = step.film_size(shot))
                return *size;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i] && !shot.photos[i].photo->size.empty())
            return seen_size(shot.photos[i]);
    return {};
}

PictureRequest request_for_photo(const Shot& shot, PhotoIndex photo, cv::Size size, Fit fit)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    PictureRequest request;
    request.photo = p.photo;
    request.size = size;
    request.fit = p.fill ? Fit::fill : fit;
    request.turns = p.turns;
    request.damage = p.what_there_is ? Damage::accept : Damage::refuse;
    request.backdrop = shot.backdrop;
    return request;
}

namespace {

PictureRequest placed(const Shot& shot, const Share& share, cv::Size size, Fit fit, Corrections corrections)
{
    PictureRequest request = request_for_photo(shot, share.photo, size, fit);
    request.weight = share.weight;
    const ShotPhoto& p = shot.photos[share.photo.at()];
    request.placement = placement_of(shot, p);
    if (corrections == Corrections::applied)
        for (const StepPictures& step : step_pictures())
            if (step.stages)
                step.stages(shot, p, request.stages);
    return request;
}

/// With photos in place of those that others stand in for.
std::vector<Share> as_seen(const Shot& shot, std::span<const Share> shares)
{
    std::vector<Share> seen;
    for (const Share& share : shares)
        for (const Share& other : standing_in(shot, share.photo)) {
            const auto same =
                std::find_if(seen.begin(), seen.end(), [&](const Share& s) { return s.photo == other.photo; });
            if (same == seen.end())
                seen.push_back({other.photo, share.weight * other.weight});
            else
                same->weight += share.weight * other.weight;
        }
    return seen;
}

}

PictureRequest request_for_shares(const Shot& shot, std::span<const Share> shares, cv::Size size, Fit fit,
                                  Corrections corrections)
{
    const std::vector<Share> seen =
        corrections == Corrections::applied ? as_seen(shot, shares) : std::vector<Share>(shares.begin(), shares.end());
    PictureRequest request = placed(shot, seen.front(), size, fit, corrections);
    for (std::size_t i = 1; i < seen.size(); ++i)
        request.mixed_with.push_back(placed(shot, seen[i], size, fit, corrections));
    return request;
}

cv::Size fitted(cv::Size shape, cv::Size box)
{
    if (shape.empty() || box.empty())
        return {1, 1};
    const double scale = std::min(double(box.width) / shape.width, double(box.height) / shape.height);
    return {std::clamp(static_cast<int>(std::lround(shape.width * scale)), 1, box.width),
            std::clamp(static_cast<int>(std::lround(shape.height * scale)), 1, box.height)};
}

namespace {

/// Porter, Duff 1984: the photo over an opaque backdrop, straight alpha.
template <class Channel>
cv::Mat over(const cv::Mat& bgra, const Backdrop& backdrop)
{
    constexpr std::uint32_t one = std::numeric_limits<Channel>::max();
    const cv::Vec<std::uint32_t, 3> behind(backdrop[2] * (one / 255), backdrop[1] * (one / 255),
                                           backdrop[0] * (one / 255));
    cv::Mat bgr(bgra.size(), CV_MAKETYPE(bgra.depth(), 3));
    bgra.forEach<cv::Vec<Channel, 4>>([&](const cv::Vec<Channel, 4>& p, const int* at) {
        auto& out = bgr.at<cv::Vec<Channel, 3>>(at[0], at[1]);
        for (int c = 0; c < 3; ++c)
            out[c] = static_cast<Channel>(
                (std::uint64_t(p[c]) * p[3] + std::uint64_t(behind[c]) * (one - p[3]) + one / 2) / one);
    });
    return bgr;
}

cv::Mat opaque(const cv::Mat& pixels, const Backdrop& backdrop)
{
    if (pixels.channels() != 4)
        return pixels;
    return pixels.depth() == CV_16U ? over<std::uint16_t>(pixels, backdrop) : over<std::uint8_t>(pixels, backdrop);
}

cv::Mat in_depth(const cv::Mat& pixels, Depth depth)
{
    const int wanted = depth == Depth::sixteen ? CV_16U : CV_8U;
    if (pixels.depth() == wanted)
        return pixels;
    cv::Mat out;
    pixels.convertTo(out, wanted, depth == Depth::sixteen ? 257.0 : 1.0 / 257.0);
    return out;
}

/// Where the photo lies in the picture: the part of the photo that is shown (as a share of it), and the pixels it
/// fills.
struct Placing
{
    cv::Rect2d part; ///< of the photo, 0 to 1
    cv::Rect at;     ///< in the picture
};

Placing placing(cv::Size photo, cv::Size picture, Fit fit)
{
    if (fit == Fit::inside) {
        const cv::Size s = fitted(photo, picture);
        return {{0, 0, 1, 1}, {{(picture.width - s.width) / 2, (picture.height - s.height) / 2}, s}};
    }
    const double scale = std::max(double(picture.width) / photo.width, double(picture.height) / photo.height);
    const double w = std::min(1.0, picture.width / (photo.width * scale));
    const double h = std::min(1.0, picture.height / (photo.height * scale));
    return {{(1 - w) / 2, (1 - h) / 2, w, h}, {{0, 0}, picture}};
}

cv::Rect pixels_of(cv::Size size, const cv::Rect2d& part)
{
    const cv::Rect whole({0, 0}, size);
    const cv::Rect r(static_cast<int>(std::lround(part.x * size.width)),
                     static_cast<int>(std::lround(part.y * size.height)),
                     std::max(1, static_cast<int>(std::lround(part.width * size.width))),
                     std::max(1, static_cast<int>(std::lround(part.height * size.height))));
    return r & whole;
}

}

namespace {

/// The photo's pixels as seen, upright and opaque, at least so large.
Result<cv::Mat> seen_pixels(const PictureRequest& request, cv::Size at_least, const PhotoSource& source)
{
    auto pixels = source.pixels(*request.photo, turned(at_least, request.turns), request.damage);
    if (!pixels)
        return pixels;
    return opaque(turned(*pixels, request.turns), request.backdrop);
}

cv::Mat on_backdrop(const cv::Mat& drawn, const PictureRequest& request, cv::Point at)
{
    if (drawn.size() == request.size)
        return drawn;
    const double scale = request.depth == Depth::sixteen ? 257.0 : 1.0;
    cv::Mat picture(request.size, drawn.type(),
                    cv::Scalar(request.backdrop[2], request.backdrop[1], request.backdrop[0]) * scale);
    drawn.copyTo(picture(cv::Rect(at, drawn.size())));
    return picture;
}

/// The frame of a shot that is steadied: from the picture to the film's plane, to this photo, to its pixels as decoded,
/// all in one resample.
Result<cv::Mat> render_placed(const PictureRequest& request, const PhotoSource& source)
{
    const cv::Rect& crop = request.placement->crop;
    const cv::Size photo = turned(request.photo->size, request.turns);
    const Placing place = placing(crop.size(), request.size, request.fit);
    const double wide = place.part.width * crop.width / place.at.width,
                 high = place.part.height * crop.height / place.at.height;
    auto pixels =
        seen_pixels(request, {int(std::ceil(photo.width / wide)), int(std::ceil(photo.height / high))}, source);
    if (!pixels)
        return pixels;
    const Transform into_film(wide, 0, crop.x + place.part.x * crop.width + wide / 2 - 0.5, 0, high,
                              crop.y + place.part.y * crop.height + high / 2 - 0.5, 0, 0, 1);
    const double dx = double(pixels->cols) / photo.width, dy = double(pixels->rows) / photo.height;
    const Transform into_decoded(dx, 0, dx / 2 - 0.5, 0, dy, dy / 2 - 0.5, 0, 0, 1);
    const cv::Mat drawn = warped(*pixels, into_decoded * request.placement->from_film * into_film, place.at.size(),
                                 request.placement->edges == Edges::mirrored);
    const cv::Size plane = request.placement->plane;
    const cv::Rect2d part((crop.x + place.part.x * crop.width) / plane.width,
                          (crop.y + place.part.y * crop.height) / plane.height,
                          place.part.width * crop.width / plane.width, place.part.height * crop.height / plane.height);
    return on_backdrop(apply_stages(request.stages, in_depth(drawn, request.depth), part), request, place.at.tl());
}

Result<cv::Mat> render_photo(const PictureRequest& request, const PhotoSource& source)
{
    const PhotoFile& photo = *request.photo;
    if (photo.size.empty())
        return problem("the photo cannot be read", photo.file, "Copy it from the card again, or leave it out");
    if (request.placement)
        return render_placed(request, source);
    const Placing place = placing(turned(photo.size, request.turns), request.size, request.fit);
    const cv::Size needed(static_cast<int>(std::ceil(place.at.width / place.part.width)),
                          static_cast<int>(std::ceil(place.at.height / place.part.height)));
    auto pixels = seen_pixels(request, needed, source);
    if (!pixels)
        return pixels;
    const cv::Mat shown = (*pixels)(pixels_of(pixels->size(), place.part));
    return on_backdrop(
        apply_stages(request.stages, in_depth(resampled(shown, place.at.size()), request.depth), place.part), request,
        place.at.tl());
}

}

Result<cv::Mat> render(const PictureRequest& request, const PhotoSource& source)
{
    auto first = render_photo(request, source);
    if (!first || request.mixed_with.empty())
        return first;
    Mixer mixer(first->size(), first->type());
    mixer.add(*first, request.weight);
    for (PictureRequest other : request.mixed_with) {
        other.depth = request.depth;
        auto picture = render_photo(other, source);
        if (!picture)
            return picture;
        mixer.add(*picture, other.weight);
    }
    return mixer.result();
}

}
