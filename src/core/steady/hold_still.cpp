#include "core/steady/hold_still.h"

#include "core/photo/look.h"
#include "core/photo/turned.h"
#include "core/steady/network.h"

#include <tbb/parallel_for.h>

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>
#include <mutex>

namespace frenlo {

namespace {

constexpr int working_side = 1200;
constexpr std::size_t far_link = 8; ///< photos apart: keeps a slow drift of the chain small
constexpr std::size_t most_kept = 400; ///< evened pictures in memory, about a megabyte each

cv::Size seen(const SeenPhoto& p)
{
    return turned(p.photo->size, p.turns);
}

/// The size that most photos have; 0x0 where none can be read.
cv::Size usual_size(const std::vector<SeenPhoto>& photos)
{
    std::map<std::pair<int, int>, int> counts;
    for (const SeenPhoto& p : photos)
        if (const cv::Size s = seen(p); !s.empty())
            ++counts[{s.width, s.height}];
    const auto most = std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    return most == counts.end() ? cv::Size() : cv::Size(most->first.first, most->first.second);
}

/// Links, and what was said about each photo, gathered from many threads.
class Measuring {
public:
    Measuring(const std::vector<SeenPhoto>& photos, const StillWishes& wishes, const PhotoSource& source, const Job& job)
        : photos_(photos), wishes_(wishes), source_(source), job_(job), prepared_(photos.size()), sharpness_(photos.size(), 0),
          best_(photos.size()), doubts_(photos.size())
    {
        full_size_ = wishes.reference ? seen(photos[*wishes.reference]) : usual_size(photos);
        if (full_size_.empty())
            throw Failure({"no photo of the shot can be read", {}, "Look at the problems in Sort"});
        scale_ = std::min(1.0, double(working_side) / std::max(full_size_.width, full_size_.height));
        size_ = {std::max(1, int(std::lround(full_size_.width * scale_))), std::max(1, int(std::lround(full_size_.height * scale_)))};
        keep_every_ = (photos.size() + most_kept - 1) / most_kept;
    }

    HeldStill run()
    {
        constexpr std::size_t chunk = 32;
        for (std::size_t begin = 0; begin < photos_.size(); begin += chunk)
            follow(begin, std::min(photos_.size(), begin + chunk));
        const std::size_t reference = wishes_.reference.value_or(most_typical());
        const Solved chain = solve_network(photos_.size(), reference, links_, wishes_.movement, size_);
        link_to_reference(reference, chain);
        return result(reference, solve_network(photos_.size(), reference, links_, wishes_.movement, size_));
    }

private:
    bool kept(std::size_t i) const { return i % keep_every_ == 0 || i == wishes_.reference.value_or(photos_.size()); }

    void prepare_one(std::size_t i)
    {
        const SeenPhoto& p = photos_[i];
        if (seen(p) != full_size_) {
            doubts_[i] = "it has another size than the reference photo";
            return;
        }
        const auto pixels = source_.pixels(*p.photo, turned(size_, p.turns), p.damage);
        if (!pixels) {
            doubts_[i] = pixels.error().what;
            return;
        }
        cv::Mat small;
        cv::resize(turned(*pixels, p.turns), small, size_, 0, 0, cv::INTER_AREA);
        prepared_[i] = prepare(small, wishes_.region);
        sharpness_[i] = sharpness_of(small);
        if (prepared_[i].blank())
            doubts_[i] = "it shows too little that could be followed";
    }

    void measure(std::size_t from, std::size_t to, const Transform* guess, double trust)
    {
        if (prepared_[from].blank() || prepared_[to].blank())
            return;
        const Link link = register_photos(prepared_[from], prepared_[to], wishes_.movement, guess);
        const std::lock_guard lock(mutex_);
        for (const std::size_t i : {from, to})
            if (link.inliers > best_[i].inliers) {
                best_[i] = link;
                best_[i].trusted.clear();
            }
        if (link.holds()) // the error of a fit goes down with the number of points
            links_.push_back({from, to, link.transform, trust * link.points / (0.05 + link.residual_px * link.residual_px)});
    }

    /// Photos [begin, end) against those before them.
    void follow(std::size_t begin, std::size_t end)
    {
        tbb::parallel_for(begin, end, [&](std::size_t i) {
            if (!job_.stopping())
                prepare_one(i);
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
                prepared_[i].evened.release();
        job_.report(0.75 * double(end) / double(photos_.size()), "photo " + std::to_string(end) + " of " + std::to_string(photos_.size()));
    }

    /// The sharpest of the third that lies nearest to where most photos lie.
    std::size_t most_typical()
    {
        const Solved chain = solve_network(photos_.size(), 0, links_, wishes_.movement, size_);
        std::vector<double> x, y;
        std::vector<std::size_t> candidates;
        for (std::size_t i = 0; i < photos_.size(); ++i) {
            const Motion m = motion_of(chain.from_reference[i], size_);
            x.push_back(m.shift.x);
            y.push_back(m.shift.y);
            if (doubts_[i].empty() && kept(i) && chain.connected[i] == chain.connected[photos_.size() / 2])
                candidates.push_back(i);
        }
        if (candidates.empty())
            return 0;
        const auto middle = [](std::vector<double> v) {
            std::nth_element(v.begin(), v.begin() + std::ptrdiff_t(v.size() / 2), v.end());
            return v[v.size() / 2];
        };
        const cv::Point2d usual(middle(x), middle(y));
        const auto off = [&](std::size_t i) { return std::hypot(x[i] - usual.x, y[i] - usual.y); };
        const std::size_t third = std::max<std::size_t>(1, candidates.size() / 3);
        std::nth_element(candidates.begin(), candidates.begin() + std::ptrdiff_t(third - 1), candidates.end(),
                         [&](std::size_t a, std::size_t b) { return std::pair(off(a), a) < std::pair(off(b), b); });
        return *std::max_element(candidates.begin(), candidates.begin() + std::ptrdiff_t(third),
                                 [&](std::size_t a, std::size_t b) { return std::pair(sharpness_[a], b) < std::pair(sharpness_[b], a); });
    }

    void link_to_reference(std::size_t reference, const Solved& chain)
    {
        std::atomic<std::size_t> done = 0;
        tbb::parallel_for(std::size_t(0), photos_.size(), [&](std::size_t i) {
            if (job_.stopping())
                return;
            const bool near_one = i + 1 == reference || i == reference + 1 || i + far_link == reference || i == reference + far_link;
            if (i != reference && !near_one && !prepared_[i].evened.empty())
                measure(reference, i, &chain.from_reference[i], 2);
            job_.report(0.75 + 0.25 * double(++done) / double(photos_.size()), "bringing all into agreement");
        });
        job_.check();
    }

    HeldStill result(std::size_t reference, const Solved& solved)
    {
        HeldStill held;
        held.reference = reference;
        constexpr double few = 0.3, much = 0.5; // share of points; px at working size
        for (std::size_t i = 0; i < photos_.size(); ++i) {
            Alignment a;
            a.from_reference = at_scale(solved.from_reference[i], 1 / scale_);
            a.residual_px = best_[i].residual_px / scale_;
            a.inliers = best_[i].inliers;
            a.doubt = doubts_[i];
            if (i == reference) {
                a.from_reference = Transform::eye();
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

    const std::vector<SeenPhoto>& photos_;
    const StillWishes& wishes_;
    const PhotoSource& source_;
    const Job& job_;
    cv::Size full_size_, size_;
    double scale_ = 1;
    std::size_t keep_every_ = 1;
    std::vector<Prepared> prepared_;
    std::vector<double> sharpness_;
    std::mutex mutex_;
    std::vector<Measured> links_;
    std::vector<Link> best_;
    std::vector<std::string> doubts_;
};

}

HeldStill hold_still(const std::vector<SeenPhoto>& photos, const StillWishes& wishes, const PhotoSource& source, const Job& job)
{
    if (photos.empty())
        throw Failure({"there are no photos to hold still", {}, "Bring photos into the shot"});
    return Measuring(photos, wishes, source, job).run();
}

}
