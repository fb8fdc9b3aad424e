#include "core/steps/pace/loop_finder.h"

#include "core/base/median.h"
#include "core/picture/picture.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr std::size_t most_finely = 900; ///< photos; of more, smaller pictures are compared
constexpr int around = 2;                ///< photos before and after the joint that must go on alike
constexpr std::size_t most_found = 8;

/// A photo as it is compared: encoded light, small, its mean light taken out.
cv::Mat1f signature(const cv::Mat& picture, int width)
{
    cv::Mat small, values;
    const cv::Size size(width, std::max(1, int(std::lround(double(picture.rows) * width / picture.cols))));
    cv::resize(picture, small, size, 0, 0, cv::INTER_AREA);
    if (small.channels() == 4)
        cv::cvtColor(small, small, cv::COLOR_BGRA2BGR);
    small.convertTo(values, CV_32F, 1 / 255.0);
    // Flicker is a factor of light: of encoded values nearly one, too.
    const cv::Scalar mean = cv::mean(values);
    const double level = (mean[0] + mean[1] + mean[2]) / 3;
    values *= level > 0.004 ? 0.4 / level : 1;
    return values.reshape(1, 1);
}

struct Seen
{
    std::vector<PhotoIndex> photos;
    std::vector<cv::Mat1f> signatures;
    std::vector<double> begins; ///< seconds, one more than photos: where the last one ends
};

Seen look_at(const Project& project, const Shot& shot, const PhotoSource& source, const Job& job)
{
    const auto held = held_photos(shot);
    const auto seconds = film_seconds(project, shot, held);
    const int width = held.size() <= most_finely ? 64 : 24;
    std::vector<cv::Mat1f> all(held.size());
    std::atomic<std::size_t> done = 0;
    const cv::Size size = fitted(undressed_size(shot), {192, 192});
    tbb::parallel_for(std::size_t(0), held.size(), [&](std::size_t i) {
        if (job.stopping())
            return;
        if (const auto picture = render(request_for_shares(shot, std::array{Share{held[i].photo}}, size), source))
            all[i] = signature(*picture, width);
        job.report(0.9 * double(++done) / double(held.size()),
                   "photo " + std::to_string(done) + " of " + std::to_string(held.size()));
    });
    job.check();
    Seen seen;
    for (std::size_t i = 0; i < held.size(); ++i)
        if (!all[i].empty() && (seen.signatures.empty() || all[i].cols == seen.signatures.front().cols)) {
            seen.photos.push_back(held[i].photo);
            seen.signatures.push_back(all[i]);
            seen.begins.push_back(seconds[i]);
        }
    if (!seen.begins.empty())
        seen.begins.push_back(seen.begins.back() +
                              (seen.begins.size() > 1 ? seen.begins.back() - seen.begins[seen.begins.size() - 2] : 0));
    return seen;
}

}

std::vector<LoopFound> find_loops(const Project& project, const Shot& shot, Seconds at_least, const PhotoSource& source,
                                  const Job& job)
{
    const Seen seen = look_at(project, shot, source, job);
    const auto n = int(seen.photos.size());
    std::vector<LoopFound> found;
    if (n < 3)
        return found;
    cv::Mat1f distance(n, n, 0.0F);
    tbb::parallel_for(0, n, [&](int i) {
        if (job.stopping())
            return;
        for (int j = i + 1; j < n; ++j) {
            const double d = cv::norm(seen.signatures[std::size_t(i)], seen.signatures[std::size_t(j)], cv::NORM_L2);
            distance(i, j) = float(d / std::sqrt(double(seen.signatures[std::size_t(i)].cols)));
        }
    });
    job.check();
    const auto apart = [&](int a, int b) { return double(a < b ? distance(a, b) : distance(b, a)); };
    std::vector<double> steps;
    for (int i = 0; i + 1 < n; ++i)
        steps.push_back(apart(i, i + 1));
    const double usual = std::max(upper_median(std::move(steps)), 1e-4);
    struct Pair
    {
        int i, j; ///< photo j is as photo i: the range is [i, j)
        double score;
    };
    std::vector<Pair> pairs;
    for (int i = 0; i < n; ++i)
        for (int j = i + 2; j <= n; ++j) {
            if (seen.begins[std::size_t(j)] - seen.begins[std::size_t(i)] < at_least.value.approx() - 1e-9)
                continue;
            // What lies round photo i must look as what lies round photo j, where there is something.
            double sum = 0, weight = 0;
            for (int k = -around; k <= around; ++k) {
                if (i + k < 0 || j + k >= n || i + k >= j + k)
                    continue;
                const double w = 1.0 / (1 + std::abs(k));
                sum += w * apart(i + k, j + k);
                weight += w;
            }
            if (weight < 1) // nothing lies behind the last photo: how well the joint goes on as a step
                continue;
            pairs.push_back({i, j, sum / weight / usual});
        }
    // Of the same quality, the shortest: a long range that is two rounds of a short one says nothing new.
    constexpr double as_good = 1.12;
    std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.score < b.score; });
    while (!pairs.empty() && found.size() < most_found) {
        auto best = pairs.begin();
        const double limit = best->score * as_good + 0.02;
        for (auto p = pairs.begin(); p != pairs.end() && p->score <= limit; ++p)
            if (p->j - p->i < best->j - best->i)
                best = p;
        const Pair taken = *best;
        found.push_back({seen.photos[std::size_t(taken.i)], seen.photos[std::size_t(taken.j - 1)], taken.score});
        std::erase_if(pairs, [&](const Pair& p) {
            const int length = taken.j - taken.i, other = p.j - p.i;
            return std::abs(other - length) <= 1 || (std::abs(p.i - taken.i) <= 2 && std::abs(p.j - taken.j) <= 2);
        });
    }
    return found;
}

}
