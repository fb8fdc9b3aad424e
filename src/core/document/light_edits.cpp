#include "core/document/light_edits.h"

#include "core/document/with_shot.h"
#include "core/light/light_clock.h"
#include "core/photo/rhythm.h"

#include <opencv2/core.hpp>

#include <algorithm>

namespace frenlo {

ToEven to_even(const Project& project, const Shot& shot, const Lighting& lighting)
{
    ToEven e;
    e.photos = to_measure(shot);
    std::vector<PhotoPtr> taken;
    for (const SeenPhoto& p : e.photos.photos)
        taken.push_back(p.photo);
    e.seconds = light_clock(film_seconds(project, shot, held_photos(shot)), gaps_between(taken));
    e.region = shot.light_region;
    e.wishes = {.window_s = lighting.window_s,
                .strength = lighting.strength,
                .each_colour = lighting.each_colour,
                .by_tone = lighting.by_tone,
                .by_place = lighting.by_place,
                .camera_steps = lighting.camera_steps,
                .leave_out_moving = lighting.leave_out_moving};
    for (std::size_t i = 0; i < e.photos.at.size(); ++i) {
        const ShotPhoto& p = shot.photos[e.photos.at[i].at()];
        if (shot.steady)
            e.alignments.push_back(p.alignment.value_or(Alignment()));
        if (p.light && p.light->jump)
            e.wishes.steps.push_back({i, *p.light->jump});
    }
    return e;
}

bool ToEven::same_photos(const ToEven& o) const
{
    return photos.same_photos(o.photos) && alignments == o.alignments && seconds == o.seconds;
}

Project even_shot(const Project& project, ShotIndex shot, const ToEven& measured, const EvenedShot& result, const Lighting& lighting)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<LightRemedy> decided;
        for (const ShotPhoto& p : s.photos)
            decided.push_back(p.light ? p.light->remedy : LightRemedy::undecided);
        s.photos.edit_all([](ShotPhoto& p) { p.light.reset(); });
        const auto& at = measured.photos.at;
        for (const std::size_t i : result.evening.measured) // one that could not be read has no light
            s.photos.edit(at.at(i).at()).light = PhotoLight{result.evening.photos.at(i), result.after.at(i), decided[at[i].at()], {}};
        for (const LightStep& step : result.evening.steps)
            s.photos.edit(at.at(step.photo).at()).light->jump = step.jump;
        s.lighting = lighting;
        s.lighting->found_window_s = lighting.window_s > 0 ? 0 : result.evening.window_s;
        s.lighting->kind = result.evening.kind;
        s.lighting->corrected = result.evening.corrected;
        s.lighting->before = result.before_figures;
        s.lighting->after = result.after_figures;
    });
}

Project set_light_region(const Project& project, ShotIndex shot, const Region& region)
{
    return with_shot(project, shot, [&](Shot& s) { s.light_region = region; });
}

namespace {

/// Boxes where the transform takes them: the boxes around their corners, cut to the plane. In shares of planes of these sizes.
Region region_moved(const Region& region, const Transform& t, cv::Size from, cv::Size to)
{
    const auto box = [&](const cv::Rect2d& r) {
        constexpr double far = 1e9;
        double left = far, top = far, right = -far, bottom = -far;
        for (const cv::Point2d& corner : {r.tl(), cv::Point2d(r.br().x, r.y), r.br(), cv::Point2d(r.x, r.br().y)}) {
            const cv::Point2d p = moved(t, cv::Point2d(corner.x * from.width - 0.5, corner.y * from.height - 0.5));
            left = std::min(left, (p.x + 0.5) / to.width);
            right = std::max(right, (p.x + 0.5) / to.width);
            top = std::min(top, (p.y + 0.5) / to.height);
            bottom = std::max(bottom, (p.y + 0.5) / to.height);
        }
        return cv::Rect2d(left, top, right - left, bottom - top) & cv::Rect2d(0, 0, 1, 1);
    };
    Region result;
    for (const auto& [boxes, there] : {std::pair(&region.look_at, &result.look_at), std::pair(&region.leave_out, &result.leave_out)})
        for (const cv::Rect2d& r : *boxes)
            if (const cv::Rect2d b = box(r); !b.empty())
                there->push_back(b);
    return result;
}

}

Region light_region_on(const Shot& shot, PhotoIndex photo)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    return shot.steady && p.alignment ? region_moved(shot.light_region, p.alignment->from_film, shot.steady->size, seen_size(p)) : shot.light_region;
}

Region into_film(const Shot& shot, PhotoIndex photo, const Region& on_photo)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    return shot.steady && p.alignment ? region_moved(on_photo, p.alignment->from_film.inv(), seen_size(p), shot.steady->size) : on_photo;
}

Project settle_light(const Project& project, ShotIndex shot, PhotoIndex photo, LightRemedy remedy)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (s.photos.at(photo.at()).light)
            s.photos.edit(photo.at()).light->remedy = remedy;
    });
}

bool to_look_at(const ShotPhoto& photo)
{
    return photo.light && photo.light->change.suspect && photo.light->remedy == LightRemedy::undecided;
}

Correction correction_of(const PhotoLight& light)
{
    if (light.remedy != LightRemedy::as_shot)
        return light.change.correction;
    const double s = light.change.steps;
    return {.gain = {s, s, s}};
}

std::vector<Share> standing_in(const Shot& shot, PhotoIndex photo)
{
    const auto& light = shot.photos.at(photo.at()).light;
    if (!shot.lighting || !light || light->remedy != LightRemedy::mixed)
        return {{photo, 1}};
    const auto shown = in_film(shot);
    const auto nearest = [&](std::int64_t step) -> std::optional<PhotoIndex> {
        for (std::int64_t i = photo.value + step; i >= 0 && i < std::int64_t(shot.photos.size()); i += step) {
            const auto& other = shot.photos[std::size_t(i)].light;
            if (part_of(shot, PhotoIndex(i)) != part_of(shot, photo))
                break;
            if (shown[std::size_t(i)] && (!other || other->remedy != LightRemedy::mixed))
                return PhotoIndex(i);
        }
        return std::nullopt;
    };
    std::vector<Share> shares;
    for (const auto& other : {nearest(-1), nearest(1)})
        if (other)
            shares.push_back({*other, 1});
    for (Share& s : shares)
        s.weight = 1.0 / double(shares.size());
    return shares.empty() ? std::vector<Share>{{photo, 1}} : shares;
}

std::vector<Problem> unmeasured_light(const ToEven& measured, const EvenedShot& result, const PhotoSource& source)
{
    std::vector<Problem> problems;
    for (std::size_t i = 0; i < measured.photos.photos.size(); ++i) {
        if (std::binary_search(result.evening.measured.begin(), result.evening.measured.end(), i))
            continue;
        const SeenPhoto& p = measured.photos.photos[i];
        const auto pixels = source.pixels(*p.photo, {1, 1}, p.damage);
        problems.push_back(pixels ? Problem{"there is nothing in it that could be measured", p.photo->file, "It is left as shot"} : pixels.error());
    }
    return problems;
}

std::optional<double> light_now(const Shot& shot, PhotoIndex photo)
{
    const auto& light = shot.photos.at(photo.at()).light;
    if (!light)
        return std::nullopt;
    if (light->remedy == LightRemedy::as_shot)
        return light->change.stops + light->change.steps;
    if (light->remedy != LightRemedy::mixed)
        return light->after;
    double sum = 0;
    for (const Share& s : standing_in(shot, photo)) {
        const auto& other = shot.photos[s.photo.at()].light;
        sum += s.weight * (other ? other->after : light->after);
    }
    return sum;
}

Project light_as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.lighting.reset();
        s.photos.edit_all([](ShotPhoto& p) { p.light.reset(); });
    });
}

}
