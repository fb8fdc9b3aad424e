#include "core/steps/steady/hold_still.h"

#include "core/base/median.h"
#include "core/picture/turned.h"
#include "core/steps/steady/comparing.h"
#include "core/steps/steady/network.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <mutex>

namespace frenlo {

namespace {

constexpr std::size_t far_link = 8;    ///< photos apart: keeps a slow drift of the chain small
constexpr std::size_t most_kept = 400; ///< evened pictures in memory, about a megabyte each

cv::Size size_for(const std::vector<SeenPhoto>& photos, const StillOptions& options)
{
    if (!options.reference)
        return usual_size(photos);
    const SeenPhoto& p = photos[*options.reference];
    if (p.photo->size.empty())
        throw Failure({"the reference photo cannot be read", p.photo->file, "Hold the shot to another photo"});
    return turned(p.photo->size, p.turns);
}

class HoldingStill
{
public:
    HoldingStill(const std::vector<SeenPhoto>& photos, const StillOptions& options, const PhotoSource& source,
                 const Job& job)
        : options_(options), job_(job), count_(photos.size()), full_size_(size_for(photos, options)),
          comparing_(photos, full_size_, options.movement, options.region, source),
          keep_every_((photos.size() + most_kept - 1) / most_kept), trust_(comparing_.size())
    {
    }

    StillRegistration run()
    {
        constexpr std::size_t chunk = 32;
        try {
            for (std::size_t begin = 0; begin < count_; begin += chunk)
                follow(begin, std::min(count_, begin + chunk));
        } catch (const Stopped&) {
            if (!options_.keep_when_stopped || measured_ < 2 || options_.reference.value_or(0) >= measured_)
                throw;
        }
        const std::size_t reference = options_.reference.value_or(most_typical());
        try {
            link_to_reference(reference, solved(reference));
        } catch (const Stopped&) {
            if (!options_.keep_when_stopped)
                throw;
        }
        return result(reference, solved(reference));
    }

private:
    [[nodiscard]] bool kept(std::size_t i) const
    {
        return i % keep_every_ == 0 || i == options_.reference.value_or(count_);
    }
    [[nodiscard]] Solved solved(std::size_t reference) const
    {
        return solve_network(count_, reference, links_, options_.movement, comparing_.size());
    }

    Link measure(std::size_t from, std::size_t to, const Transform* guess, double trust)
    {
        Link link = comparing_.compare(from, to, guess);
        const std::lock_guard lock(mutex_);
        if (link.holds()) // the error of a fit goes down with the number of points
            links_.push_back(
                {from, to, link.transform, trust * link.points / (0.05 + link.residual_px * link.residual_px)});
        return link;
    }

    /// Photos [begin, end) against those before them.
    void follow(std::size_t begin, std::size_t end)
    {
        tbb::parallel_for(begin, end, [&](std::size_t i) {
            if (!job_.stopping())
                comparing_.prepare(i);
        });
        job_.check();
        tbb::parallel_for(begin, end, [&](std::size_t i) {
            if (job_.stopping())
                return;
            if (i >= 1)
                measure(i - 1, i, nullptr, 1);
            if (i >= far_link)
                measure(i - far_link, i, nullptr, 1);
        });
        job_.check();
        for (std::size_t i = begin >= far_link ? begin - far_link : 0; i + far_link < end; ++i) // no longer needed
            if (!kept(i))
                comparing_.forget(i);
        measured_ = end;
        job_.report(0.75 * double(end) / double(count_),
                    "photo " + std::to_string(end) + " of " + std::to_string(count_));
    }

    /// The sharpest of the third that lies nearest to where most photos lie.
    std::size_t most_typical()
    {
        const Solved chain = solved(0);
        std::vector<double> x, y;
        std::vector<std::size_t> candidates;
        for (std::size_t i = 0; i < count_; ++i) {
            const Motion m = motion_of(chain.from_reference[i], comparing_.size());
            x.push_back(m.shift.x);
            y.push_back(m.shift.y);
            if (i < measured_ && comparing_.doubt(i).empty() && kept(i) &&
                chain.connected[i] == chain.connected[count_ / 2])
                candidates.push_back(i);
        }
        if (candidates.empty())
            return 0;
        const cv::Point2d usual(upper_median(x), upper_median(y));
        const auto off = [&](std::size_t i) { return std::hypot(x[i] - usual.x, y[i] - usual.y); };
        const auto sharp = [&](std::size_t i) { return comparing_.sharpness(i); };
        const std::size_t third = std::max<std::size_t>(1, candidates.size() / 3);
        std::nth_element(candidates.begin(), candidates.begin() + std::ptrdiff_t(third - 1), candidates.end(),
                         [&](std::size_t a, std::size_t b) { return std::pair(off(a), a) < std::pair(off(b), b); });
        return *std::max_element(
            candidates.begin(), candidates.begin() + std::ptrdiff_t(third),
            [&](std::size_t a, std::size_t b) { return std::pair(sharp(a), b) < std::pair(sharp(b), a); });
    }

    void link_to_reference(std::size_t reference, const Solved& chain)
    {
        std::atomic<std::size_t> done = 0;
        tbb::parallel_for(std::size_t(0), count_, [&](std::size_t i) {
            if (job_.stopping())
                return;
            if (i != reference && comparing_.usable(i) && comparing_.usable(reference)) {
                const Link link = measure(reference, i, &chain.from_reference[i], 2);
                const std::lock_guard lock(mutex_);
                if (link.holds())
                    trust_.add(comparing_.prepared(reference), link);
            }
            job_.report(0.75 + 0.25 * double(++done) / double(count_), "bringing all into agreement");
        });
        job_.check();
    }

    StillRegistration result(std::size_t reference, const Solved& solved)
    {
        StillRegistration held;
        held.reference = reference;
        held.size = full_size_;
        held.trusted = trust_.map();
        constexpr double few = 0.3, much = 0.5; // share of points; px at working size
        for (std::size_t i = 0; i < count_; ++i) {
            Alignment a = comparing_.alignment_of(i);
            if (i >= measured_)
                a.doubt = "it was not measured: stopped before";
            a.from_film = at_scale(solved.from_reference[i], 1 / comparing_.scale());
            a.left_px = solved.disagreement_px[i] / comparing_.scale();
            if (i == reference) {
                a.from_film = Transform::eye();
                a.reference = true;
            } else if (a.doubt.empty()) {
                if (!solved.connected[i])
                    a.doubt = "it has nothing in common with the reference photo";
                else if (a.inliers < few)
                    a.doubt = "few points agree";
                else if (solved.disagreement_px[i] > much)
                    a.doubt = "what was measured against other photos disagrees";
            }
            held.photos.push_back(std::move(a));
        }
        return held;
    }

    const StillOptions& options_;
    const Job& job_;
    std::size_t count_;
    std::size_t measured_ = 0;
    cv::Size full_size_;
    Comparing comparing_;
    std::size_t keep_every_ = 1;
    std::mutex mutex_;
    std::vector<Measured> links_;
    TrustCount trust_;
};

}

StillRegistration hold_still(const std::vector<SeenPhoto>& photos, const StillOptions& options,
                             const PhotoSource& source, const Job& job)
{
    if (photos.empty())
        throw Failure({"there are no photos to hold still", {}, "Bring photos into the shot"});
    return HoldingStill(photos, options, source, job).run();
}

Alignment align_to(const SeenPhoto& photo, const SeenPhoto& other, const Transform& other_from_film, Movement movement,
                   const Region& region, const PhotoSource& source, const std::optional<Transform>& guess)
{
    const std::vector<SeenPhoto> two{other, photo};
    if (other.photo->size.empty())
        throw Failure({"the photo to align to cannot be read", other.photo->file, "Take another one"});
    Comparing comparing(two, turned(other.photo->size, other.turns), movement, region, source);
    for (const std::size_t i : {0, 1}) {
        comparing.prepare(i);
        if (!comparing.doubt(i).empty())
            throw Failure({comparing.doubt(i), two[i].photo->file, "Align it by points, or move it by hand"});
    }
    std::optional<Transform> small;
    if (guess)
        small = at_scale(*guess, comparing.scale());
    const Link link = comparing.compare(0, 1, small ? &*small : nullptr);
    if (!link.holds())
        throw Failure({"too few points agree with " + other.photo->file.filename().string(), photo.photo->file,
                       "Try another photo or another movement, align it by points, or move it by hand"});
    Alignment a = comparing.alignment_of(1);
    a.from_film = at_scale(link.transform, 1 / comparing.scale()) * other_from_film;
    return a;
}

}
