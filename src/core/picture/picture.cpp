#include "core/picture/picture.h"

#include "core/picture/composition.h"
#include "core/picture/laid_layers.h"
#include "core/picture/photo_drawing.h"
#include "core/picture/scale.h"
#include "core/picture/step_pictures.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace frenlo {

cv::Size film_size(const Shot& shot)
{
    const cv::Size undressed = undressed_size(shot);
    for (const StepPictures& step : step_pictures())
        if (step.dressed_size && !undressed.empty())
            if (const auto size = step.dressed_size(shot, undressed))
                return *size;
    return undressed;
}

cv::Size undressed_size(const Shot& shot)
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

namespace {

PlacedPhoto as_shot(const Shot& shot, PhotoIndex photo, Fit fit)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    return {.photo = p.photo,
            .turns = p.turns,
            .damage = p.what_there_is ? Damage::accept : Damage::refuse,
            .lens = p.lens,
            .fit = p.fill ? Fit::fill : fit,
            .backdrop = shot.backdrop};
}

PlacedPhoto as_in_film(const Shot& shot, PhotoIndex photo, Fit fit, Corrections corrections)
{
    PlacedPhoto placed = as_shot(shot, photo, fit);
    const ShotPhoto& p = shot.photos[photo.at()];
    placed.placement = placement_of(shot, p);
    if (corrections == Corrections::applied)
        placed.stages = stages_of(shot, photo);
    return placed;
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

namespace {

/// Between two photos, as the first one says, or its shot.
void become(FrameRequest& request, const Shot& shot, std::span<const Share> shares)
{
    if (shares.size() != 2 || request.parts.size() != 2)
        return;
    const auto& here = shot.photos[shares.front().photo.at()].to_next;
    request.motion = here.value_or(shot.pacing.between) == Between::motion;
    if (here == Between::repeat) { // refused; shares of two are never meant so elsewhere
        request.parts.erase(shares.back().weight < 0.5 ? request.parts.begin() + 1 : request.parts.begin());
        request.parts.front().weight = 1;
    }
}

}

FrameRequest request_for_photo(const Shot& shot, PhotoIndex photo, cv::Size size, Fit fit)
{
    return {.size = size, .parts = {{1, as_shot(shot, photo, fit)}}};
}

FrameRequest request_for_shares(const Shot& shot, std::span<const Share> shares, cv::Size size, Fit fit,
                                Corrections corrections)
{
    FrameRequest request{.size = size};
    for (const Share& share :
         corrections == Corrections::applied ? as_seen(shot, shares) : std::vector<Share>(shares.begin(), shares.end()))
        request.parts.push_back({share.weight, as_in_film(shot, share.photo, fit, corrections)});
    become(request, shot, shares);
    return request;
}

FrameRequest moving_on(FrameRequest here, FrameRequest next, double shutter)
{
    FrameRequest request{.size = here.size};
    const auto add = [&](FrameRequest&& frame, double weight) {
        if (frame.parts.size() == 1)
            request.parts.push_back(std::move(frame.parts.front()));
        else
            request.parts.push_back({weight, std::make_shared<const FrameRequest>(std::move(frame))});
        request.parts.back().weight = weight;
    };
    add(std::move(here), 1);
    add(std::move(next), 0);
    request.shutter = shutter;
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

cv::Mat in_depth(const cv::Mat& pixels, Depth depth)
{
    const int wanted = depth == Depth::sixteen ? CV_16U : CV_8U;
    if (pixels.depth() == wanted)
        return pixels;
    cv::Mat out;
    pixels.convertTo(out, wanted, depth == Depth::sixteen ? 257.0 : 1.0 / 257.0);
    return out;
}

/// The same for the same photo on any machine.
std::uint32_t noise_of(const PhotoFile& photo)
{
    return std::uint32_t(hash_of(photo.file.filename().native()) + std::size_t(photo.picture));
}

/// A row of the picture, of whose part smooth arithmetic may have made light that is finer than whole numbers.
void take_row(Quantised& out, int y, const cv::Range& row, const cv::Range& smooth, const float* bgra)
{
    const int from = std::clamp(smooth.start, row.start, row.end), to = std::clamp(smooth.end, from, row.end);
    const auto take = [&](int begin, int end, Rounding rounding) {
        if (begin < end)
            out.take(y, begin, end, bgra + 4 * std::ptrdiff_t(begin - row.start), rounding);
    };
    take(row.start, from, Rounding::plain);
    take(from, to, Rounding::as_asked);
    take(to, row.end, Rounding::plain);
}

Quantising quantising(const FrameRequest& request, bool alpha)
{
    Quantising how{.depth = request.depth, .alpha = request.alpha && alpha};
    if (const PhotoPtr photo = request.photo(); photo && request.dither)
        how.dither = noise_of(*photo);
    return how;
}

/// Of one photo, row by row: laid onto each what lies over it.
Result<cv::Mat> render_one(const FrameRequest& request, const PlacedPhoto& photo, const LaidLayers& laid,
                           const PhotoSource& source)
{
    auto drawing = drawing_of(photo, request.size, request.depth, source);
    if (!drawing)
        return tl::unexpected(std::move(drawing.error()));
    if (!request.is_finished()) {
        if (untouched(*drawing, request))
            return in_depth(drawing->pixels, request.depth);
        if (const auto part = plainly_scaled(*drawing, request))
            return scaled_eight(drawing->pixels, *part, request.size);
    }
    Quantised out(request.size, quantising(request, stays_transparent(*drawing)));
    const bool all_smooth = request.backdrop || make_smooth_light(photo.stages);
    std::vector<float> changed(request.is_finished() ? std::size_t(request.size.width) * 4 : 0);
    const auto take = [&](int y, int begin, int end, const float* row) {
        const cv::Range part = laid.part(y, request.size.width);
        if (request.backdrop || (part.start < end && begin < part.end)) {
            std::copy_n(row, std::ptrdiff_t(end - begin) * 4, changed.data());
            row = changed.data();
            laid.put(y, begin, end, changed.data());
            if (request.backdrop)
                lay_over(changed.data(), end - begin, *request.backdrop);
        }
        take_row(out, y, {begin, end}, all_smooth ? cv::Range(begin, end) : part, row);
    };
    if (auto missing = draw(*drawing, request.size, take))
        return tl::unexpected(*std::move(missing));
    return out.picture();
}

}

Result<cv::Mat> render(const FrameRequest& request, const PhotoSource& source)
{
    LaidLayers laid;
    if (const PlacedPhoto* photo = request.lone_photo(); photo && request.finish.entries().empty()) {
        // All at once as long as they take no more than twice what the frame itself would.
        auto some = laid_layers(request, request.depth, source, 2 * std::size_t(request.size.area()));
        if (!some)
            return tl::unexpected(std::move(some.error()));
        laid = std::move(*some);
        if (laid.layers == request.layers.size())
            return render_one(request, *photo, laid, source);
    }
    const auto composed = compose(request, request.depth, source, std::move(laid));
    if (!composed)
        return tl::unexpected(composed.error());
    const Canvas& canvas = composed->canvas;
    Quantised out(canvas.size(), quantising(request, composed->alpha));
    for (int y = 0; y < canvas.rows; ++y)
        take_row(out, y, {0, canvas.cols}, composed->smooth[std::size_t(y)], canvas.ptr<float>(y));
    return out.picture();
}

Result<Canvas> render_canvas(const FrameRequest& request, const PhotoSource& source)
{
    auto composed = compose(request, Depth::sixteen, source);
    if (!composed)
        return tl::unexpected(std::move(composed.error()));
    return std::move(composed->canvas);
}

}
