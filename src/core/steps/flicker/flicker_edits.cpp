#include "core/steps/flicker/flicker_edits.h"

#include "core/picture/step_pictures.h"
#include "core/project/speed_course.h"
#include "core/project/with_shot.h"
#include "core/source/capture_gaps.h"
#include "core/steps/flicker/light_clock.h"

#include <opencv2/core.hpp>

#include <algorithm>

namespace frenlo {

DeflickerInput deflicker_input(const Project& project, const Shot& shot, const Deflicker& deflicker)
{
    DeflickerInput e;
    e.photos = to_measure(shot);
    std::vector<PhotoPtr> taken;
    for (const SeenPhoto& p : e.photos.photos)
        taken.push_back(p.photo);
    e.seconds = light_clock(film_seconds(project, shot, paced_photos(project, shot)), gaps_between(taken));
    e.region = light_region(shot);
    e.options = {.window_s = deflicker.window_s,
                 .strength = deflicker.strength,
                 .each_colour = deflicker.each_colour,
                 .by_tone = deflicker.by_tone,
                 .by_place = deflicker.by_place,
                 .camera_steps = deflicker.camera_steps,
                 .leave_out_moving = deflicker.leave_out_moving};
    e.from_film = film_transforms(shot, e.photos.at);
    for (std::size_t i = 0; i < e.photos.at.size(); ++i)
        if (const PhotoLight* light = light_of(shot.photos[e.photos.at[i].at()]); light && light->jump)
            e.options.steps.push_back({i, *light->jump});
    return e;
}

bool DeflickerInput::same_photos(const DeflickerInput& o) const
{
    return photos.same_photos(o.photos) && from_film == o.from_film && seconds == o.seconds;
}

Project set_deflicker(const Project& project, ShotIndex shot, const DeflickerInput& measured,
                      const DeflickerResult& result, const Deflicker& deflicker)
{
    return with_shot(project, shot, [&](Shot& s) {
        std::vector<LightRemedy> decided;
        for (const ShotPhoto& p : s.photos)
            decided.push_back(p.steps.get<PhotoLight>().remedy);
        s.photos.edit_all([](ShotPhoto& p) { p.steps.drop<PhotoLight>(); });
        const auto& at = measured.photos.at;
        for (const std::size_t i : result.curve.measured) // one that could not be read has no light
            s.photos.edit(at.at(i).at())
                .steps.set(PhotoLight{result.curve.photos.at(i), result.after.at(i), decided[at[i].at()], {}});
        for (const LightStep& step : result.curve.steps)
            s.photos.edit(at.at(step.photo).at()).steps.edit<PhotoLight>().jump = step.jump;
        Deflicker done = deflicker;
        done.found_window_s = deflicker.window_s > 0 ? 0 : result.curve.window_s;
        done.kind = result.curve.kind;
        done.corrected = result.curve.corrected;
        done.before = result.before_figures;
        done.after = result.after_figures;
        s.steps.set(done);
    });
}

Project set_light_region(const Project& project, ShotIndex shot, const Region& region)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (region == Region())
            s.steps.drop<LightRegion>();
        else
            s.steps.set(LightRegion{region});
    });
}

namespace {

/// Boxes where the transform takes them: the boxes around their corners, cut to the plane. In shares of planes of these
/// sizes.
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
    for (const auto& [boxes, there] :
         {std::pair(&region.look_at, &result.look_at), std::pair(&region.leave_out, &result.leave_out)})
        for (const cv::Rect2d& r : *boxes)
            if (const cv::Rect2d b = box(r); !b.empty())
                there->push_back(b);
    return result;
}

}

Region light_region_on(const Shot& shot, PhotoIndex photo)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    const auto placement = placement_of(shot, p);
    return placement ? region_moved(light_region(shot), placement->from_film, placement->plane, seen_size(p))
                     : Region(light_region(shot));
}

Region into_film(const Shot& shot, PhotoIndex photo, const Region& on_photo)
{
    const ShotPhoto& p = shot.photos.at(photo.at());
    const auto placement = placement_of(shot, p);
    return placement ? region_moved(on_photo, placement->from_film.inv(), seen_size(p), placement->plane) : on_photo;
}

Project resolve_light(const Project& project, ShotIndex shot, PhotoIndex photo, LightRemedy remedy)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (light_of(s.photos.at(photo.at())))
            s.photos.edit(photo.at()).steps.edit<PhotoLight>().remedy = remedy;
    });
}

bool to_look_at(const ShotPhoto& photo)
{
    const PhotoLight* light = light_of(photo);
    return light && light->change.outlier && light->remedy == LightRemedy::undecided;
}

Correction correction_of(const PhotoLight& light)
{
    if (light.remedy != LightRemedy::as_shot)
        return light.change.correction;
    const double s = light.change.steps;
    return {.gain = {s, s, s}};
}

std::vector<Share> mixed_neighbours(const Shot& shot, PhotoIndex photo)
{
    const PhotoLight* light = light_of(shot.photos.at(photo.at()));
    if (!deflicker_of(shot) || !light || light->remedy != LightRemedy::mixed)
        return {};
    const auto shown = in_film(shot);
    const auto nearest = [&](std::int64_t step) -> std::optional<PhotoIndex> {
        for (std::int64_t i = photo.value + step; i >= 0 && i < std::int64_t(shot.photos.size()); i += step) {
            const PhotoLight* other = light_of(shot.photos[std::size_t(i)]);
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
    return shares;
}

std::vector<Problem> unmeasured_light(const Shot& shot, const PhotoSource& source)
{
    std::vector<Problem> problems;
    const ToMeasure photos = to_measure(shot);
    for (std::size_t i = 0; i < photos.at.size(); ++i) {
        if (light_of(shot.photos[photos.at[i].at()]))
            continue;
        const SeenPhoto& p = photos.photos[i];
        const auto pixels = source.pixels(*p.photo, {1, 1}, p.damage);
        problems.push_back(
            pixels ? Problem{"there is nothing in it that could be measured", p.photo->file, "It is left as shot"}
                   : pixels.error());
    }
    return problems;
}

std::optional<double> light_now(const Shot& shot, PhotoIndex photo)
{
    const PhotoLight* light = light_of(shot.photos.at(photo.at()));
    if (!light)
        return std::nullopt;
    if (light->remedy == LightRemedy::as_shot)
        return light->change.stops + light->change.steps;
    if (light->remedy != LightRemedy::mixed)
        return light->after;
    double sum = 0;
    for (const Share& s : standing_in(shot, photo)) {
        const PhotoLight* other = light_of(shot.photos[s.photo.at()]);
        sum += s.weight * (other ? other->after : light->after);
    }
    return sum;
}

Project light_as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.steps.drop<Deflicker>();
        s.photos.edit_all([](ShotPhoto& p) { p.steps.drop<PhotoLight>(); });
    });
}

}
