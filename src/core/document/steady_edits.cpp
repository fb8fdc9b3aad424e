#include "core/document/steady_edits.h"

#include "core/document/with_shot.h"
#include "core/steady/crop.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace frenlo {

SeenPhoto seen_photo(const ShotPhoto& p)
{
    return {p.photo, p.turns, p.what_there_is ? Damage::accept : Damage::refuse};
}

ToMeasure to_measure(const Shot& shot)
{
    ToMeasure m;
    for (const HeldPhoto& held : held_photos(shot)) {
        m.photos.push_back(seen_photo(shot.photos[held.photo.at()]));
        m.at.push_back(held.photo);
        m.ids.push_back(shot.photos[held.photo.at()].id);
    }
    return m;
}

namespace {

bool seen_the_same(const SeenPhoto& a, const SeenPhoto& b)
{
    return (a.photo == b.photo || *a.photo == *b.photo) && a.turns == b.turns && a.damage == b.damage;
}

}

std::vector<std::pair<std::size_t, PhotoIndex>> ToMeasure::still_in(const Shot& now) const
{
    std::unordered_map<PhotoId, std::size_t> place;
    for (std::size_t k = 0; k < now.photos.size(); ++k)
        place.emplace(now.photos[k].id, k);
    std::vector<std::pair<std::size_t, PhotoIndex>> there;
    for (std::size_t i = 0; i < ids.size(); ++i)
        if (const auto k = place.find(ids[i]); k != place.end() && seen_the_same(photos[i], seen_photo(now.photos[k->second])))
            there.emplace_back(i, PhotoIndex(std::int64_t(k->second)));
    return there;
}

bool ToMeasure::same_photos(const ToMeasure& other) const
{
    return at == other.at && std::equal(photos.begin(), photos.end(), other.photos.begin(), other.photos.end(), seen_the_same);
}

std::optional<PhotoIndex> reference_photo(const Shot& shot)
{
    const auto at = std::find_if(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) {
        return p.alignment && p.alignment->reference;
    });
    return at == shot.photos.end() ? std::nullopt : std::optional(PhotoIndex(at - shot.photos.begin()));
}

namespace {

/// A photo that has a say in the crop.
bool counts(const ShotPhoto& p, bool shown)
{
    return p.alignment && shown && p.alignment->doubt.empty();
}

/// polygon: what all photos show.
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

}

void fit_crop(Shot& shot)
{
    Steadying& steady = *shot.steady;
    std::vector<Transform> sure;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shot.photos.size() && steady.inside_all; ++i)
        if (counts(shot.photos[i], shown[i]))
            sure.push_back(shot.photos[i].alignment->from_film);
    steady.crop = crop_inside(seen_by_all(sure, steady.size), steady);
}

void forget_alignment(Shot& shot, PhotoIndex photo)
{
    shot.photos.edit(photo.at()).alignment.reset();
    for (std::size_t next = photo.at() + 1; next < shot.photos.size(); ++next)
        if (const auto& a = shot.photos[next].alignment) {
            if (a->from_before)
                shot.photos.edit(next).alignment->from_before.reset();
            return;
        }
}

bool same_crop(const Shot& a, const Shot& b)
{
    if (!a.steady || !b.steady || a.steady->size != b.steady->size || a.steady->inside_all != b.steady->inside_all || a.steady->shape != b.steady->shape ||
        a.photos.size() != b.photos.size())
        return false;
    const auto shown_a = in_film(a), shown_b = in_film(b);
    for (std::size_t i = 0; i < a.photos.size(); ++i) {
        const bool counts_a = counts(a.photos[i], shown_a[i]);
        if (counts_a != counts(b.photos[i], shown_b[i]))
            return false;
        if (counts_a && a.photos[i].alignment->from_film != b.photos[i].alignment->from_film)
            return false;
    }
    return true;
}

double lost_to_crop(const Shot& shot)
{
    return shot.steady ? 1 - double(shot.steady->crop.area()) / std::max(1, shot.steady->size.area()) : 0;
}

std::optional<Costliest> costliest_photo(const Shot& shot)
{
    if (!shot.steady || !shot.steady->inside_all)
        return std::nullopt;
    // Only photos whose edge the crop lies at can cost anything: few of thousands.
    const cv::Size size = shot.steady->size;
    const cv::Rect& crop = shot.steady->crop;
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
        if (!counts(shot.photos[i], shown[i]))
            continue;
        const Transform& t = shot.photos[i].alignment->from_film;
        (at_edge(t) ? near_by : others).push_back(t);
        if (near_by.size() > at.size())
            at.emplace_back(std::int64_t(i));
    }
    const auto by_others = seen_by_all(others, size);
    std::optional<Costliest> best;
    for (std::size_t i = 0; i < near_by.size(); ++i) {
        std::vector<Transform> rest = near_by;
        rest.erase(rest.begin() + std::ptrdiff_t(i));
        const double share = double(crop_inside(seen_by_all(rest, size, by_others), *shot.steady).area() - crop.area()) / size.area();
        if (share > 0 && (!best || share > best->share))
            best = {at[i], share};
    }
    return best;
}

Project hold_still(const Project& project, ShotIndex shot, const ToMeasure& measured, const HeldStill& result, Movement movement)
{
    return with_shot(project, shot, [&](Shot& s) {
        s.photos.edit_all([](ShotPhoto& p) { p.alignment.reset(); });
        for (std::size_t i = 0; i < measured.at.size(); ++i)
            s.photos.edit(measured.at[i].at()).alignment = result.photos.at(i);
        Steadying steady = s.steady.value_or(Steadying());
        steady.way = SteadyWay::still;
        steady.movement = movement;
        steady.size = result.size;
        steady.trusted = result.trusted;
        s.steady = std::move(steady);
    });
}

namespace {

/// Lays the photos of a walk along its smoothed path.
void smooth(const Project& project, Shot& s)
{
    std::vector<HeldPhoto> held;
    for (const HeldPhoto& h : held_photos(s))
        if (s.photos[h.photo.at()].alignment)
            held.push_back(h);
    const auto seconds = film_seconds(project, s, held);
    std::vector<PathStep> steps;
    std::size_t next = 0; // a photo between two of the film that is set aside: its step is part of the way
    for (std::size_t i = 0; i < held.size(); ++i) {
        std::optional<Transform> from_before = i == 0 ? std::nullopt : std::optional(Transform::eye());
        for (; next <= held[i].photo.at(); ++next) {
            const auto& a = s.photos[next].alignment;
            if (i > 0 && a)
                from_before = from_before && a->from_before ? std::optional(*a->from_before * *from_before) : std::nullopt;
        }
        steps.push_back({seconds[i], from_before, s.photos[held[i].photo.at()].alignment->target});
    }
    const Steadying& steady = *s.steady;
    const auto from_film = smooth_path(steps, steady.smoothing, steady.movement, steady.size);
    const auto left = jitter_px(steps, from_film, steady.smoothing.strength_s, steady.size);
    for (std::size_t i = 0; i < held.size(); ++i) {
        Alignment& a = *s.photos.edit(held[i].photo.at()).alignment;
        a.from_film = from_film[i];
        a.left_px = left[i];
    }
}

bool on_smooth_path(const Shot& shot)
{
    return shot.steady && shot.steady->way == SteadyWay::smooth;
}

}

Project smooth_walk(const Project& project, ShotIndex shot, const ToMeasure& measured, const Walked& result, Movement movement,
                    std::optional<Smoothing> smoothing)
{
    return with_shot(project, shot, [&](Shot& s) {
        s.photos.edit_all([](ShotPhoto& p) { p.alignment.reset(); });
        for (std::size_t i = 0; i < measured.at.size(); ++i)
            s.photos.edit(measured.at[i].at()).alignment = result.photos.at(i);
        Steadying steady = s.steady.value_or(Steadying());
        steady.way = SteadyWay::smooth;
        steady.movement = movement;
        steady.size = result.size;
        steady.trusted = result.trusted;
        if (smoothing)
            steady.smoothing = *smoothing;
        s.steady = std::move(steady);
        smooth(project, s);
    });
}

Project set_smoothing(const Project& project, ShotIndex shot, const Smoothing& smoothing)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (!on_smooth_path(s))
            return;
        s.steady->smoothing = smoothing;
        smooth(project, s);
    });
}

bool follows_target(const Shot& shot)
{
    return on_smooth_path(shot) &&
           std::any_of(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) { return p.alignment && p.alignment->target; });
}

Project forget_target(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (!follows_target(s))
            return;
        s.photos.edit_all([](ShotPhoto& p) {
            if (p.alignment)
                p.alignment->target.reset();
        });
        smooth(project, s);
    });
}

Project set_inside_all(const Project& project, ShotIndex shot, bool inside_all)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (s.steady)
            s.steady->inside_all = inside_all;
    });
}

Project set_crop_shape(const Project& project, ShotIndex shot, cv::Size shape)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (s.steady)
            s.steady->shape = shape;
    });
}

Project set_edges(const Project& project, ShotIndex shot, Edges edges)
{
    return with_shot(project, shot, [&](Shot& s) {
        if (s.steady) {
            s.steady->edges = edges;
            s.steady->inside_all = false;
        }
    });
}

Project set_region(const Project& project, ShotIndex shot, const Region& region)
{
    return with_shot(project, shot, [&](Shot& s) { s.region = region; });
}

Project nudge_photo(const Project& project, ShotIndex shot, PhotoIndex photo, cv::Point2d by, double degrees)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto& lies = s.photos.at(photo.at()).alignment;
        if (!s.steady || !lies || lies->reference)
            return;
        auto& alignment = s.photos.edit(photo.at()).alignment;
        const cv::Point2d middle((s.steady->size.width - 1) / 2.0, (s.steady->size.height - 1) / 2.0);
        const double c = std::cos(degrees * CV_PI / 180), n = std::sin(degrees * CV_PI / 180);
        const Transform turn(c, -n, middle.x - c * middle.x + n * middle.y, n, c, middle.y - n * middle.x - c * middle.y, 0, 0, 1);
        // What is to appear further right is looked for further left.
        const Transform back = (Transform(1, 0, by.x, 0, 1, by.y, 0, 0, 1) * turn).inv();
        alignment->from_film = alignment->from_film * back;
        alignment->doubt.clear();
    });
}

Project set_alignment(const Project& project, ShotIndex shot, PhotoIndex photo, const Alignment& alignment)
{
    return with_shot(project, shot, [&](Shot& s) {
        ShotPhoto& p = s.photos.edit(photo.at());
        if (!s.steady || !p.alignment || p.alignment->reference)
            return;
        Alignment now = alignment;
        now.from_before = p.alignment->from_before; // of the walk; it goes on as it was
        now.target = p.alignment->target;
        p.alignment = std::move(now);
    });
}

Project leave_as_shot(const Project& project, ShotIndex shot, PhotoIndex photo)
{
    return set_alignment(project, shot, photo, Alignment());
}

Project as_shot(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        s.steady.reset();
        s.photos.edit_all([](ShotPhoto& p) { p.alignment.reset(); });
    });
}

}
