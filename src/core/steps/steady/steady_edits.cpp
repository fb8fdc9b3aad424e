#include "core/steps/steady/steady_edits.h"

#include "core/project/with_shot.h"
#include "core/steps/steady/crop.h"
#include "core/steps/steady/film_crop.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

std::optional<PhotoIndex> reference_photo(const Shot& shot)
{
    const auto at = std::find_if(shot.photos.begin(), shot.photos.end(),
                                 [](const ShotPhoto& p) { return alignment_of(p) && alignment_of(p)->reference; });
    return at == shot.photos.end() ? std::nullopt : std::optional(PhotoIndex(at - shot.photos.begin()));
}

double lost_to_crop(const Shot& shot)
{
    const Steadying* steady = steadying_of(shot);
    return steady ? 1 - double(steady->crop.area()) / std::max(1, steady->size.area()) : 0;
}

std::optional<Costliest> costliest_photo(const Shot& shot)
{
    const Steadying* steady = steadying_of(shot);
    if (!steady || !steady->inside_all)
        return std::nullopt;
    // Only photos whose edge the crop lies at can cost anything: few of thousands.
    const cv::Size size = steady->size;
    const cv::Rect& crop = steady->crop;
    const double left = crop.x - 0.5, top = crop.y - 0.5, right = crop.br().x - 0.5, bottom = crop.br().y - 0.5;
    const auto at_edge = [&](const Transform& t) {
        constexpr double near_to = 2; // px; the crop is whole pixels
        const std::array<cv::Point2d, 4> corners{{{left, top}, {right, top}, {right, bottom}, {left, bottom}}};
        return std::any_of(corners.begin(), corners.end(), [&](const cv::Point2d& c) {
            const cv::Point2d p = moved(t, c);
            return p.x < near_to || p.y < near_to || p.x > size.width - near_to || p.y > size.height - near_to;
        });
    };
    std::vector<Transform> near_by, others;
    std::vector<PhotoIndex> at;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        if (!has_say_in_crop(shot.photos[i], shown[i]))
            continue;
        const Transform& t = alignment_of(shot.photos[i])->from_film;
        (at_edge(t) ? near_by : others).push_back(t);
        if (near_by.size() > at.size())
            at.emplace_back(std::int64_t(i));
    }
    const auto by_others = seen_by_all(others, size);
    std::optional<Costliest> best;
    for (std::size_t i = 0; i < near_by.size(); ++i) {
        std::vector<Transform> rest = near_by;
        rest.erase(rest.begin() + std::ptrdiff_t(i));
        const double share =
            double(crop_inside(seen_by_all(rest, size, by_others), *steady).area() - crop.area()) / size.area();
        if (share > 0 && (!best || share > best->share))
            best = {at[i], share};
    }
    return best;
}

namespace {

/// The photos lie as was measured, and nobody else does.
template <class Registration>
void lay(Shot& shot, const ToMeasure& measured, const Registration& result, SteadyWay way, Movement movement)
{
    shot.photos.edit_all([](ShotPhoto& p) { p.steps.drop<Alignment>(); });
    for (std::size_t i = 0; i < measured.at.size(); ++i) {
        Alignment lies = result.photos.at(i);
        lies.lens = measured.photos[i].lens;
        shot.photos.edit(measured.at[i].at()).steps.set(std::move(lies));
    }
    Steadying& steady = shot.steps.edit<Steadying>();
    steady.way = way;
    steady.movement = movement;
    steady.size = result.size;
    steady.trusted = result.trusted;
}

}

Project hold_still(const Project& project, ShotIndex shot, const ToMeasure& measured, const StillRegistration& result,
                   Movement movement)
{
    return with_shot(project, shot, [&](Shot& s) { lay(s, measured, result, SteadyWay::still, movement); });
}

namespace {

/// Lays the photos of a walk along its smoothed path.
void smooth(const Project& project, Shot& s)
{
    std::vector<HeldPhoto> held;
    for (const HeldPhoto& h : held_photos(s))
        if (alignment_of(s.photos[h.photo.at()]))
            held.push_back(h);
    const auto seconds = film_seconds(project, s, held);
    std::vector<PathStep> steps;
    std::size_t next = 0; // a photo between two of the film that is set aside: its step is part of the way
    for (std::size_t i = 0; i < held.size(); ++i) {
        std::optional<Transform> from_before = i == 0 ? std::nullopt : std::optional(Transform::eye());
        for (; next <= held[i].photo.at(); ++next) {
            const Alignment* a = alignment_of(s.photos[next]);
            if (i > 0 && a)
                from_before =
                    from_before && a->from_before ? std::optional(*a->from_before * *from_before) : std::nullopt;
        }
        steps.push_back({seconds[i], from_before, alignment_of(s.photos[held[i].photo.at()])->target});
    }
    const Steadying& steady = *steadying_of(s);
    const auto from_film = smooth_path(steps, steady.smoothing, steady.movement, steady.size);
    const auto left = jitter_px(steps, from_film, steady.smoothing.strength_s, steady.size);
    for (std::size_t i = 0; i < held.size(); ++i) {
        Alignment& a = s.photos.edit(held[i].photo.at()).steps.edit<Alignment>();
        a.from_film = from_film[i];
        a.left_px = left[i];
    }
}

bool on_smooth_path(const Shot& shot)
{
    return steadying_of(shot) && steadying_of(shot)->way == SteadyWay::smooth;
}

}

Project smooth_walk(const Project& project, ShotIndex shot, const ToMeasure& measured, const WalkRegistration& result,
                    Movement movement, std::optional<Smoothing> smoothing)
{
    return with_shot(project, shot, [&](Shot& s) {
        lay(s, measured, result, SteadyWay::smooth, movement);
        if (smoothing)
            s.steps.edit<Steadying>().smoothing = *smoothing;
        smooth(project, s);
    });
}

Project set_smoothing(const Project& project, ShotIndex shot, const Smoothing& smoothing)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (!on_smooth_path(s))
            return;
        s.steps.edit<Steadying>().smoothing = smoothing;
        smooth(project, s);
    });
}

bool follows_target(const Shot& shot)
{
    return on_smooth_path(shot) && std::any_of(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) {
               return alignment_of(p) && alignment_of(p)->target;
           });
}

Project forget_target(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (!follows_target(s))
            return;
        s.photos.edit_all([](ShotPhoto& p) {
            if (alignment_of(p))
                p.steps.edit<Alignment>().target.reset();
        });
        smooth(project, s);
    });
}

Project set_inside_all(const Project& project, ShotIndex shot, bool inside_all)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (steadying_of(s))
            s.steps.edit<Steadying>().inside_all = inside_all;
    });
}

Project set_crop_shape(const Project& project, ShotIndex shot, cv::Size shape)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (steadying_of(s))
            s.steps.edit<Steadying>().shape = shape;
    });
}

Project set_edges(const Project& project, ShotIndex shot, Edges edges)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (steadying_of(s)) {
            s.steps.edit<Steadying>().edges = edges;
            s.steps.edit<Steadying>().inside_all = false;
        }
    });
}

Project set_region(const Project& project, ShotIndex shot, const Region& region)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (region == Region())
            s.steps.drop<SteadyRegion>();
        else
            s.steps.set(SteadyRegion{region});
    });
}

Project nudge_photo(const Project& project, ShotIndex shot, PhotoIndex photo, cv::Point2d by, double degrees)
{
    return with_shot(project, shot, [&](Shot& s) {
        const Alignment* lies = alignment_of(s.photos.at(photo.at()));
        const Steadying* steady = steadying_of(s);
        if (!steady || !lies || lies->reference)
            return;
        Alignment& alignment = s.photos.edit(photo.at()).steps.edit<Alignment>();
        const cv::Point2d middle((steady->size.width - 1) / 2.0, (steady->size.height - 1) / 2.0);
        const double c = std::cos(degrees * CV_PI / 180), n = std::sin(degrees * CV_PI / 180);
        const Transform turn(c, -n, middle.x - c * middle.x + n * middle.y, n, c,
                             middle.y - n * middle.x - c * middle.y, 0, 0, 1);
        // What is to appear further right is looked for further left.
        const Transform back = (Transform(1, 0, by.x, 0, 1, by.y, 0, 0, 1) * turn).inv();
        alignment.from_film = alignment.from_film * back;
        alignment.lens = s.photos[photo.at()].lens;
        alignment.doubt.clear();
    });
}

Project set_alignment(const Project& project, ShotIndex shot, PhotoIndex photo, const Alignment& alignment)
{
    return with_shot(project, shot, [&](Shot& s) {
        const Alignment* lies = alignment_of(s.photos.at(photo.at()));
        if (!steadying_of(s) || !lies || lies->reference)
            return;
        Alignment now = alignment;
        now.from_before = lies->from_before; // of the walk; it goes on as it was
        now.target = lies->target;
        now.lens = s.photos[photo.at()].lens;
        s.photos.edit(photo.at()).steps.set(std::move(now));
    });
}

Project leave_as_shot(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return set_alignment(project, shot, photo, Alignment());
}

Project as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.steps.drop<Steadying>();
        s.photos.edit_all([](ShotPhoto& p) { p.steps.drop<Alignment>(); });
    });
}

}
