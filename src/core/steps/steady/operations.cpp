#include "core/steps/steady/operations.h"

#include "core/steps/steady/by_points.h"

#include <algorithm>

namespace frenlo {

namespace {

std::optional<std::size_t> position_of(const ToMeasure& photos, PhotoIndex photo)
{
    const auto at = std::find(photos.at.begin(), photos.at.end(), photo);
    return at == photos.at.end() ? std::nullopt : std::optional(std::size_t(at - photos.at.begin()));
}

/// Of what was measured, what holds for the shot as it is now; positions among those measured, in from.
ToMeasure still_there(const ToMeasure& measured, const Shot& now, std::vector<std::size_t>& from)
{
    ToMeasure here;
    for (const auto& [i, at] : measured.still_in(now)) {
        from.push_back(i);
        here.at.push_back(at);
        here.photos.push_back(measured.photos[i]);
        here.ids.push_back(measured.ids[i]);
    }
    return here;
}

template <class Registration>
Registration only(const Registration& all, const std::vector<std::size_t>& which)
{
    Registration some = all;
    some.photos.clear();
    for (const std::size_t i : which)
        some.photos.push_back(all.photos[i]);
    return some;
}

Project with_region(const Project& project, ShotIndex shot, const std::optional<Region>& region)
{
    return region ? set_region(project, shot, *region) : project;
}

Edit still_edit(ShotId shot, const ToMeasure& photos, const StillRegistration& found, const SteadyPlan& plan)
{
    return [=](const Project& now) {
        const ShotIndex index = find_measured(now, shot);
        std::vector<std::size_t> from;
        const ToMeasure here = still_there(photos, now.shot(index), from);
        StillRegistration result = only(found, from);
        const auto reference = std::find(from.begin(), from.end(), found.reference);
        if (reference == from.end())
            throw Failure({"the reference photo is no longer in the shot", {}, "Measure again"});
        result.reference = std::size_t(reference - from.begin());
        return hold_still(with_region(now, index, plan.region), index, here, result, plan.movement);
    };
}

Edit walk_edit(ShotId shot, const ToMeasure& photos, const WalkRegistration& found, Movement movement,
               const std::optional<Smoothing>& smoothing, const std::optional<Region>& region)
{
    return [=](const Project& now) {
        const ShotIndex index = find_measured(now, shot);
        std::vector<std::size_t> from;
        const ToMeasure here = still_there(photos, now.shot(index), from);
        if (from.size() != photos.at.size() || !std::is_sorted(here.at.begin(), here.at.end()))
            throw Failure(
                {"the photos of the shot were changed while it was measured, and a path goes from each to the next",
                 {},
                 "Measure again"});
        return smooth_walk(with_region(now, index, region), index, here, only(found, from), movement, smoothing);
    };
}

Edit alignment_edit(ShotId shot, PhotoId photo, const Alignment& alignment)
{
    return [=](const Project& now) {
        const ShotIndex index = find_measured(now, shot);
        const PhotoList& photos = now.shot(index).photos;
        const auto at = std::find_if(photos.begin(), photos.end(), [&](const ShotPhoto& p) { return p.id == photo; });
        if (at == photos.end())
            throw Failure({"the photo that was measured is no longer in the shot", {}, "Nothing was changed"});
        return set_alignment(now, index, PhotoIndex(at - photos.begin()), alignment);
    };
}

}

Operation measure_steady(const Shot& shot, const SteadyPlan& plan, const std::optional<FollowedTarget>& target)
{
    const ToMeasure photos = to_measure(shot);
    const Region region = plan.region.value_or(steady_region(shot));
    if (plan.way == SteadyWay::still) {
        StillOptions options{plan.movement, {}, region, plan.keep_when_stopped};
        if (plan.reference)
            options.reference = position_of(photos, *plan.reference);
        return [=, id = shot.id](const PhotoSource& source, const Job& job) {
            return still_edit(id, photos, hold_still(photos.photos, options, source, job), plan);
        };
    }
    const WalkOptions options{plan.movement, region, plan.keep_when_stopped};
    return [=, id = shot.id](const PhotoSource& source, const Job& job) {
        WalkRegistration walked = follow_walk(photos.photos, options, source, job);
        if (const auto at = target ? position_of(photos, target->photo) : std::nullopt)
            follow_target(photos.photos, {*at, target->box}, source, job, walked);
        return walk_edit(id, photos, walked, plan.movement, plan.smoothing, plan.region);
    };
}

Operation follow_target(const Shot& shot, const FollowedTarget& target)
{
    const ToMeasure all = to_measure(shot);
    const Steadying steady = shot.steps.get<Steadying>();
    ToMeasure photos;
    WalkRegistration walked;
    walked.size = steady.size;
    walked.trusted = steady.trusted;
    for (std::size_t i = 0; i < all.at.size(); ++i)
        if (const Alignment* lies = alignment_of(shot.photos[all.at[i].at()])) {
            photos.at.push_back(all.at[i]);
            photos.photos.push_back(all.photos[i]);
            photos.ids.push_back(all.ids[i]);
            walked.photos.push_back(*lies);
        }
    return [=, id = shot.id](const PhotoSource& source, const Job& job) {
        WalkRegistration with = walked;
        const auto at = position_of(photos, target.photo);
        if (!at)
            throw Failure({"the photo with the target was not measured", {}, "Choose the target on another photo"});
        follow_target(photos.photos, {*at, target.box}, source, job, with);
        return walk_edit(id, photos, with, steady.movement, steady.smoothing, {});
    };
}

Operation smooth_again(const Project& project, ShotIndex shot, const Smoothing& smoothing)
{
    const ShotPtr as_it_was = project.shots.at(shot.at());
    return [=](const PhotoSource&, const Job&) -> Edit {
        const ShotPtr smoothed = set_smoothing(project, shot, smoothing).shots[shot.at()];
        return [=](const Project& now) {
            const ShotIndex index = find_measured(now, as_it_was->id);
            if (now.shots[index.at()] != as_it_was && !(*now.shots[index.at()] == *as_it_was))
                throw Failure({"the shot was changed while its path was smoothed", {}, "Set the strength again"});
            Project with = now;
            with.shots[index.at()] = smoothed;
            return with;
        };
    };
}

Operation align_photo(const Shot& shot, PhotoIndex photo, PhotoIndex other, Movement movement)
{
    const SeenPhoto one = seen_photo(shot.photos.at(photo.at())), against = seen_photo(shot.photos.at(other.at()));
    const Transform lies = shot.photos[other.at()].steps.get<Alignment>().from_film;
    return [=, id = shot.id, photo_id = shot.photos[photo.at()].id,
            region = Region(steady_region(shot))](const PhotoSource& source, const Job&) {
        return alignment_edit(id, photo_id, align_to(one, against, lies, movement, region, source));
    };
}

Operation align_by_points(const Shot& shot, PhotoIndex photo, PhotoIndex other, const std::vector<PointPair>& pairs)
{
    const SeenPhoto one = seen_photo(shot.photos.at(photo.at())), against = seen_photo(shot.photos.at(other.at()));
    const Transform lies = shot.photos[other.at()].steps.get<Alignment>().from_film;
    const Steadying steady = shot.steps.get<Steadying>();
    return [=, id = shot.id, photo_id = shot.photos[photo.at()].id,
            region = Region(steady_region(shot))](const PhotoSource& source, const Job&) {
        const Transform t = by_points(pairs, steady.movement);
        Alignment set{.from_film = t * lies, .doubt = {}};
        try { // a click is good to a pixel or two; from there the photos themselves say it better, where they agree
            const Alignment exact =
                align_to(one, against, lies, movement_by_points(pairs.size(), steady.movement), region, source, t);
            constexpr double by_hand = 0.004; // of the width: how far a click may be off
            if (corner_distance(exact.from_film, set.from_film, steady.size) < by_hand * steady.size.width)
                set = exact;
        } catch (const Failure&) { // the photos do not agree: that is why the points were set by hand
            return alignment_edit(id, photo_id, set);
        }
        return alignment_edit(id, photo_id, set);
    };
}

}
