#include "core/steps/frame/frame_edits.h"

#include "core/base/problem.h"
#include "core/project/with_shot.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace frenlo {

namespace {

void put_view(Shot& shot, std::size_t photo, const std::optional<DriftView>& view)
{
    auto& steps = shot.photos.edit(photo).steps;
    if (!view) {
        steps.drop<DriftView>();
        return;
    }
    constexpr double least = 0.001;
    DriftView v = *view;
    v.box.width = std::max(least, v.box.width);
    v.box.height = std::max(least, v.box.height);
    steps.set(v);
}

/// The photos that are in the film, in order.
std::vector<std::size_t> shown_photos(const Shot& shot)
{
    std::vector<std::size_t> photos;
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < shown.size(); ++i)
        if (shown[i])
            photos.push_back(i);
    return photos;
}

void clear_views(Shot& shot)
{
    for (const PhotoIndex v : views_of(shot))
        put_view(shot, v.at(), std::nullopt);
}

}

Project change_framing(const Project& project, ShotIndex shot, const std::function<void(Framing&)>& change)
{
    return with_shot(project, shot, [&](Shot& s) {
        Framing f = framing_of(s);
        change(f);
        if (f.crop && f.crop->empty()) // a box of no size says nothing
            f.crop.reset();
        if (f.nothing())
            s.steps.drop<Framing>();
        else
            s.steps.set(f);
    });
}

Project set_view(const Project& project, ShotIndex shot, PhotoIndex photo, const std::optional<DriftView>& view)
{
    return with_shot(project, shot, [&](Shot& s) { put_view(s, photo.at(), view); });
}

Project turn_drift_round(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [&](Shot& s) {
        const auto photos = views_of(s);
        std::vector<DriftView> views;
        views.reserve(photos.size());
        for (const PhotoIndex p : photos)
            views.push_back(*view_of(s.photos[p.at()]));
        for (std::size_t i = 0; i < photos.size(); ++i)
            put_view(s, photos[i].at(), views[views.size() - 1 - i]);
    });
}

Project drop_views(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, clear_views);
}

Project make_upright(const Project& project, ShotIndex shot, const Upright& found)
{
    return change_framing(project, shot, [&](Framing& f) {
        f.straighten = std::clamp(std::round(found.turn * 100) / 100, straighten_limits.low, straighten_limits.high);
        f.uprights = std::clamp(std::round(found.uprights * 1000) / 1000, uprights_limits.low, uprights_limits.high);
    });
}

namespace {

void put_lens(Shot& shot, const Lens& lens)
{
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (shot.photos[i].lens != lens)
            shot.photos.edit(i).lens = lens;
}

}

Project set_lens(const Project& project, ShotIndex shot, const Lens& lens)
{
    if (!can_be_taken_out(lens))
        throw Failure({"such a lens lays parts of the photo over each other", {}, "Take a smaller k1 or k2"});
    return with_shot(project, shot, [&](Shot& s) { put_lens(s, lens); });
}

Lens lens_of(const Shot& shot)
{
    std::map<std::pair<double, double>, std::size_t> counts;
    for (const ShotPhoto& p : shot.photos)
        ++counts[{p.lens.k1, p.lens.k2}];
    const auto most = std::max_element(counts.begin(), counts.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    return most == counts.end() ? Lens() : Lens{most->first.first, most->first.second};
}

Project copy_dress(const Project& project, ShotIndex shot, std::span<const ShotId> to)
{
    const Shot& from = project.shot(shot);
    const auto mine = shown_photos(from);
    Project result = project;
    for (const ShotId id : to) {
        const auto at = result.find_shot(id);
        if (!at || *at == shot)
            continue;
        result = with_shot(result, *at, [&](Shot& s) {
            clear_views(s);
            put_lens(s, lens_of(from));
            if (const auto* f = from.steps.find<Framing>())
                s.steps.set(*f);
            else
                s.steps.drop<Framing>();
            const auto theirs = shown_photos(s);
            for (std::size_t i = 0; i < mine.size() && !theirs.empty(); ++i)
                if (const DriftView* v = view_of(from.photos[mine[i]])) {
                    const double share = mine.size() > 1 ? double(i) / double(mine.size() - 1) : 0;
                    put_view(s, theirs[std::size_t(std::lround(share * double(theirs.size() - 1)))], *v);
                }
        });
    }
    return result;
}

namespace {

OtherDress dress_in_hand(const Shot& shot)
{
    OtherDress dress{framing_of(shot), {}};
    for (const PhotoIndex v : views_of(shot))
        dress.views.push_back({shot.photos[v.at()].id, *view_of(shot.photos[v.at()])});
    return dress;
}

void put_on(Shot& shot, const OtherDress& dress)
{
    clear_views(shot);
    if (dress.framing.nothing())
        shot.steps.drop<Framing>();
    else
        shot.steps.set(dress.framing);
    for (const KeptView& kept : dress.views) // of photos that are still there
        for (std::size_t i = 0; i < shot.photos.size(); ++i)
            if (shot.photos[i].id == kept.photo)
                put_view(shot, i, kept.view);
}

void set_others(Shot& shot, OtherDresses others)
{
    if (others.all.empty())
        shot.steps.drop<OtherDresses>();
    else
        shot.steps.set(std::move(others));
}

auto of_shape(const FilmShape& shape)
{
    return [shape](const OtherDress& d) { return d.framing.shape == shape; };
}

}

void dress_for(Shot& shot, const FilmShape& shape)
{
    OtherDress before = dress_in_hand(shot);
    if (before.framing.shape == shape)
        return;
    auto others = shot.steps.get<OtherDresses>();
    const auto known = std::find_if(others.all.begin(), others.all.end(), of_shape(shape));
    if (known != others.all.end()) {
        const OtherDress dress = *known;
        *known = std::move(before);
        put_on(shot, dress);
    } else {
        OtherDress fresh{before.framing, {}};
        fresh.framing.shape = shape;
        fresh.framing.crop.reset();
        others.all.push_back(std::move(before));
        put_on(shot, fresh);
    }
    set_others(shot, std::move(others));
}

Project dress_for(const Project& project, ShotIndex shot, const FilmShape& shape)
{
    return with_shot(project, shot, [&](Shot& s) { dress_for(s, shape); });
}

Project drop_shape(const Project& project, ShotIndex shot, const FilmShape& shape)
{
    return with_shot(project, shot, [&](Shot& s) {
        auto others = s.steps.get<OtherDresses>();
        if (framing_of(s).shape == shape && !others.all.empty()) {
            put_on(s, others.all.front());
            others.all.erase(others.all.begin());
        } else {
            std::erase_if(others.all, of_shape(shape));
        }
        set_others(s, std::move(others));
    });
}

std::vector<FilmShape> shapes_beside(const Shot& shot)
{
    std::vector<FilmShape> shapes;
    for (const OtherDress& d : shot.steps.get<OtherDresses>().all)
        shapes.push_back(d.framing.shape);
    return shapes;
}

Project drop_dress(const Project& project, ShotIndex shot)
{
    return with_shot(project, shot, [](Shot& s) {
        clear_views(s);
        s.steps.drop<Framing>();
        s.steps.drop<OtherDresses>();
    });
}

bool is_dressed(const Shot& shot)
{
    return shot.steps.has<Framing>() || !views_of(shot).empty();
}

}
