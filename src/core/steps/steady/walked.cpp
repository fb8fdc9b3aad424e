#include "core/steps/steady/walked.h"

#include "core/steps/steady/comparing.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr std::size_t farthest = 4; ///< photos that may be passed over, and one

class Walk
{
public:
    Walk(const std::vector<SeenPhoto>& photos, const WalkOptions& options, const PhotoSource& source, const Job& job)
        : options_(options), job_(job), count_(photos.size()), full_size_(usual_size(photos)),
          comparing_(photos, full_size_, options.movement, options.region, source), steps_(photos.size()),
          found_(photos.size(), false), trust_(comparing_.size())
    {
    }

    WalkRegistration run()
    {
        constexpr std::size_t chunk = 32;
        try {
            for (std::size_t begin = 0; begin < count_; begin += chunk)
                follow(begin, std::min(count_, begin + chunk));
        } catch (const Stopped&) {
            if (!options_.keep_when_stopped || measured_ < 2)
                throw;
        }
        WalkRegistration w;
        w.size = full_size_;
        w.trusted = trust_.map();
        constexpr double few = 0.25;
        for (std::size_t i = 0; i < count_; ++i) {
            Alignment a = comparing_.alignment_of(i);
            if (i >= measured_)
                a.doubt = "it was not measured: stopped before";
            if (steps_[i])
                a.from_before = at_scale(*steps_[i], 1 / comparing_.scale());
            if (a.doubt.empty() && i > 0 && !steps_[i])
                a.doubt = "it has nothing in common with the photos before; the path begins anew here";
            else if (a.doubt.empty() && i > 0 && !found_[i])
                a.doubt = "it could not be followed; it lies on the way between those around it";
            else if (a.doubt.empty() && i > 0 && a.inliers < few)
                a.doubt = "few points agree";
            w.photos.push_back(std::move(a));
        }
        return w;
    }

private:
    void follow(std::size_t begin, std::size_t end)
    {
        tbb::parallel_for(begin, end, [&](std::size_t i) {
            if (!job_.stopping())
                comparing_.prepare(i);
        });
        job_.check();
        std::vector<Link> links(end - begin);
        tbb::parallel_for(begin, end, [&](std::size_t i) {
            if (!job_.stopping() && i > 0)
                links[i - begin] = comparing_.compare(i - 1, i);
        });
        job_.check();
        for (std::size_t i = begin; i < end; ++i) {
            found_[i] = i == 0 ? comparing_.usable(0) : links[i - begin].holds();
            if (i > 0 && found_[i]) {
                steps_[i] = links[i - begin].transform;
                trust_.add(comparing_.prepared(i - 1), links[i - begin]);
            } else if (i > 0) {
                bridge(i);
            }
        }
        for (std::size_t i = begin >= farthest ? begin - farthest : 0; i + farthest < end; ++i)
            comparing_.forget(i);
        measured_ = end;
        job_.report(double(end) / double(count_), "photo " + std::to_string(end) + " of " + std::to_string(count_));
    }

    /// Photo i does not follow from the one before: from one farther back, and what lies between is on the way.
    void bridge(std::size_t i)
    {
        for (std::size_t back = 2; back <= std::min(farthest, i); ++back) {
            const std::size_t from = i - back;
            const Link link = comparing_.compare(from, i);
            if (!link.holds())
                continue;
            std::size_t last = from; // the last that is known before the gap
            Transform to_last = Transform::eye();
            for (std::size_t k = from + 1; k < i && steps_[k]; ++k) {
                to_last = *steps_[k] * to_last;
                last = k;
            }
            const Transform gap = link.transform * to_last.inv();
            Transform before = Transform::eye();
            for (std::size_t k = last + 1; k <= i; ++k) {
                const Transform at =
                    k == i ? gap
                           : partly(gap, double(k - last) / double(i - last), options_.movement, comparing_.size());
                steps_[k] = at * before.inv();
                before = at;
            }
            found_[i] = true;
            return;
        }
    }

    const WalkOptions& options_;
    const Job& job_;
    std::size_t count_;
    std::size_t measured_ = 0;
    cv::Size full_size_;
    Comparing comparing_;
    std::vector<std::optional<Transform>> steps_;
    std::vector<bool> found_;
    TrustCount trust_;
};

}

WalkRegistration follow_walk(const std::vector<SeenPhoto>& photos, const WalkOptions& options,
                             const PhotoSource& source, const Job& job)
{
    if (photos.empty())
        throw Failure({"there are no photos to follow", {}, "Bring photos into the shot"});
    return Walk(photos, options, source, job).run();
}

void follow_target(const std::vector<SeenPhoto>& photos, const Target& target, const PhotoSource& source,
                   const Job& job, WalkRegistration& walked)
{
    // Only points inside the box: of its own photo, against all others, so that nothing adds up on the way.
    Region only;
    only.look_at = {target.box};
    Comparing comparing(photos, walked.size, Movement::similar, only, source);
    comparing.prepare(target.photo);
    Prepared own = comparing.prepared(target.photo);
    if (comparing.usable(target.photo))
        own.points = points_within(own, target.box);
    if (own.blank())
        throw Failure({"the target shows too little that could be followed", photos.at(target.photo).photo->file,
                       "Draw a larger box around something with structure"});
    const cv::Size size = comparing.size();
    const cv::Point2d middle((target.box.x + target.box.width / 2) * size.width - 0.5,
                             (target.box.y + target.box.height / 2) * size.height - 0.5);
    for (Alignment& a : walked.photos)
        a.target.reset();
    const auto full = [&](cv::Point2d p) {
        return (p + cv::Point2d(0.5, 0.5)) * (1 / comparing.scale()) - cv::Point2d(0.5, 0.5);
    };
    walked.photos.at(target.photo).target = full(middle);
    std::size_t done = 0;
    for (const int step : {1, -1}) {
        Transform at = Transform::eye(); // of the target's photo to this one, by the path and what was seen before
        constexpr int most_lost = 6;
        int lost = 0;
        for (std::int64_t i = std::int64_t(target.photo) + step;
             i >= 0 && i < std::int64_t(photos.size()) && lost < most_lost; i += step) {
            job.check();
            const auto here = std::size_t(i);
            const auto& link = walked.photos[step > 0 ? here : here + 1].from_before;
            if (!link)
                break;
            const Transform move = at_scale(*link, comparing.scale());
            at = (step > 0 ? move : move.inv()) * at;
            comparing.prepare(here);
            if (const Prepared& there = comparing.prepared(here); !there.evened.empty()) {
                if (const Link seen = register_target(own, there, at); seen.holds()) {
                    at = seen.transform;
                    walked.photos[here].target = full(moved(at, middle));
                    lost = 0;
                } else {
                    ++lost;
                }
            }
            comparing.forget(here);
            job.report(double(++done) / double(photos.size()), "following the target");
        }
    }
}

}
