#include "core/steps/flicker/adaptive_course.h"

#include "core/steps/flicker/trend.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {

constexpr double least_flicker = 0.002; ///< stops: finer cannot be measured
constexpr double least_change = 1e-5;   ///< stops of slope a photo
constexpr double first_change = 0.01;   ///< from calmer ones all that is quick would be taken for flicker
constexpr int rounds = 100;
constexpr double changes_reach = 2, flicker_reach = 20; ///< photos, Gaussian: over how many a variance is found
constexpr std::size_t enough_for_flicker = 8;           ///< fewer photos do not tell how strong it is

double squared(double v)
{
    return v * v;
}

/// A mean by Gaussian weights of those around, cut off at the ends.
std::vector<double> mean_around(const std::vector<double>& v, double sigma)
{
    const auto n = std::ptrdiff_t(v.size()), reach = std::min(std::ptrdiff_t(3 * sigma), n - 1);
    std::vector<double> weights, mean;
    for (std::ptrdiff_t d = 0; d <= reach; ++d)
        weights.push_back(std::exp(-0.5 * squared(double(d) / sigma)));
    for (std::ptrdiff_t i = 0; i < n; ++i) {
        double sum = 0, all = 0;
        for (std::ptrdiff_t k = std::max<std::ptrdiff_t>(0, i - reach); k <= std::min(n - 1, i + reach); ++k) {
            const double w = weights[std::size_t(std::abs(k - i))];
            sum += w * v[std::size_t(k)];
            all += w;
        }
        mean.push_back(sum / all);
    }
    return mean;
}

}

AdaptiveCourse::AdaptiveCourse(std::span<const double> x, std::span<const double> y, std::span<const double> prior,
                               std::span<const double> flicker)
{
    for (std::size_t i = 0; i < y.size(); ++i)
        strength_.push_back(squared(std::max(least_flicker, flicker[i])) / prior[i]);
    find_bends(x);
    changes_.assign(bends_.size(), squared(first_change));
    factor();
    for (int round = 0; round < rounds && !bends_.empty(); ++round)
        learn(y, prior);
}

/// A change of slope at each photo between two others, in stops a photo at their usual distance; over a longer time
/// it may well be larger.
void AdaptiveCourse::find_bends(std::span<const double> x)
{
    const std::size_t n = x.size();
    if (n < 3 || x.back() <= x.front())
        return;
    const double usual = (x.back() - x.front()) / double(n - 1);
    constexpr double closest = 0.05; // of what is usual
    for (std::size_t i = 1; i + 1 < n; ++i) {
        const double before = std::max(closest, (x[i] - x[i - 1]) / usual),
                     after = std::max(closest, (x[i + 1] - x[i]) / usual), by = std::sqrt((before + after) / 2);
        bends_.push_back({1 / (before * by), -(1 / before + 1 / after) / by, 1 / (after * by)});
    }
}

/// Of the inverse of strength, and of the bends by the inverse of their variance: what says how likely a course is.
void AdaptiveCourse::factor()
{
    const std::size_t n = strength_.size();
    std::vector<double> diagonal(n), one(n, 0), two(n, 0);
    for (std::size_t i = 0; i < n; ++i)
        diagonal[i] = 1 / strength_[i];
    for (std::size_t k = 0; k < bends_.size(); ++k) {
        const auto& [before, at, after] = bends_[k];
        const double w = 1 / changes_[k];
        diagonal[k] += w * before * before;
        diagonal[k + 1] += w * at * at;
        diagonal[k + 2] += w * after * after;
        one[k] += w * before * at;
        one[k + 1] += w * at * after;
        two[k] += w * before * after;
    }
    Factors& f = factors_ = {diagonal, std::vector<double>(n, 0), std::vector<double>(n, 0)};
    for (std::size_t i = 0; i < n; ++i) {
        if (i >= 1)
            f.d[i] -= squared(f.below[i - 1]) * f.d[i - 1];
        if (i >= 2)
            f.d[i] -= squared(f.second[i - 2]) * f.d[i - 2];
        const double crossed = i >= 1 ? f.below[i - 1] * f.d[i - 1] * f.second[i - 1] : 0;
        f.below[i] = (one[i] - crossed) / f.d[i];
        f.second[i] = two[i] / f.d[i];
    }
}

std::vector<double> AdaptiveCourse::solve(std::vector<double> v) const
{
    const Factors& f = factors_;
    const std::size_t n = v.size();
    for (std::size_t i = 0; i < n; ++i) {
        if (i >= 1)
            v[i] -= f.below[i - 1] * v[i - 1];
        if (i >= 2)
            v[i] -= f.second[i - 2] * v[i - 2];
    }
    for (std::size_t i = n; i-- > 0;) {
        v[i] /= f.d[i];
        if (i + 1 < n)
            v[i] -= f.below[i] * v[i + 1];
        if (i + 2 < n)
            v[i] -= f.second[i] * v[i + 2];
    }
    return v;
}

/// From the last photo to the first (Takahashi, Fagan, Chen 1973).
AdaptiveCourse::Factors AdaptiveCourse::inverse() const
{
    const Factors& f = factors_;
    const std::size_t n = f.d.size();
    Factors s{std::vector<double>(n, 0), std::vector<double>(n, 0), std::vector<double>(n, 0)};
    const auto below = [&](std::size_t i) { return i + 1 < n ? f.below[i] : 0; };
    const auto second = [&](std::size_t i) { return i + 2 < n ? f.second[i] : 0; };
    for (std::size_t i = n; i-- > 0;) {
        const double next = i + 1 < n ? s.d[i + 1] : 0, next_one = i + 1 < n ? s.below[i + 1] : 0,
                     after = i + 2 < n ? s.d[i + 2] : 0;
        s.below[i] = -below(i) * next - second(i) * next_one;
        s.second[i] = -below(i) * next_one - second(i) * after;
        s.d[i] = 1 / f.d[i] - below(i) * s.below[i] - second(i) * s.second[i];
    }
    return s;
}

/// One round of expectation and maximisation: what the course is thought to be and how sure that is, then the
/// variances that make it most likely.
void AdaptiveCourse::learn(std::span<const double> y, std::span<const double> prior)
{
    const std::vector<double> course = of(y);
    const Factors sure = inverse();
    std::vector<double> change, off;
    for (std::size_t k = 0; k < bends_.size(); ++k) {
        const auto& [a, b, c] = bends_[k];
        const double bend = a * course[k] + b * course[k + 1] + c * course[k + 2],
                     doubt = a * a * sure.d[k] + b * b * sure.d[k + 1] + c * c * sure.d[k + 2] +
                             2 * (a * b * sure.below[k] + b * c * sure.below[k + 1] + a * c * sure.second[k]);
        change.push_back(squared(bend) + doubt);
    }
    changes_ = mean_around(change, changes_reach);
    for (double& c : changes_)
        c = std::max(c, squared(least_change));
    if (y.size() >= enough_for_flicker) {
        for (std::size_t i = 0; i < y.size(); ++i)
            off.push_back(prior[i] * (squared(y[i] - course[i]) + sure.d[i]));
        const std::vector<double> all = mean_around(off, flicker_reach);
        const std::vector<double> share = mean_around({prior.begin(), prior.end()}, flicker_reach);
        for (std::size_t i = 0; i < y.size(); ++i)
            strength_[i] = std::max(all[i] / share[i], squared(least_flicker)) / prior[i];
    }
    factor();
}

std::vector<double> AdaptiveCourse::of(std::span<const double> values) const
{
    if (bends_.empty()) { // one or two photos: their mean
        double sum = 0, weights = 0;
        for (std::size_t i = 0; i < values.size(); ++i) {
            sum += values[i] / strength_[i];
            weights += 1 / strength_[i];
        }
        return std::vector<double>(values.size(), weights > 0 ? sum / weights : 0);
    }
    std::vector<double> right(values.begin(), values.end());
    for (std::size_t i = 0; i < right.size(); ++i)
        right[i] /= strength_[i];
    return solve(std::move(right));
}

double AdaptiveCourse::photos() const
{
    const std::size_t n = strength_.size();
    if (bends_.empty())
        return double(n);
    constexpr std::size_t asked = 50;
    std::vector<double> worth;
    for (std::size_t i = 0; i < n; i += std::max<std::size_t>(1, n / asked)) {
        std::vector<double> one(n, 0);
        one[i] = 1;
        one = solve(std::move(one)); // the matrix is symmetric: what each photo has to say here
        double squares = 0;
        for (std::size_t k = 0; k < n; ++k)
            squares += squared(one[k] / strength_[k]);
        worth.push_back(1 / squares);
    }
    return middle_of(std::move(worth));
}

namespace {

/// Of white noise, second differences have six times the variance.
double spread_of_bends(std::vector<double> bends)
{
    return 1.4826 * middle_of(std::move(bends)) / std::sqrt(6.0);
}

std::vector<double> bends_of(std::span<const double> y)
{
    std::vector<double> bends;
    for (std::size_t i = 1; i + 1 < y.size(); ++i)
        bends.push_back(std::abs(y[i - 1] - 2 * y[i] + y[i + 1]));
    return bends;
}

}

double quick_part(std::span<const double> y)
{
    return spread_of_bends(bends_of(y));
}

std::vector<double> quick_parts(std::span<const double> y)
{
    constexpr std::ptrdiff_t around = 15;
    const std::vector<double> bends = bends_of(y);
    std::vector<double> parts;
    for (std::ptrdiff_t i = 0; i < std::ptrdiff_t(y.size()); ++i) {
        const auto end = bends.begin() + std::min(std::ptrdiff_t(bends.size()), i + around),
                   begin = std::min(end, bends.begin() + std::max<std::ptrdiff_t>(0, i - 1 - around));
        parts.push_back(spread_of_bends({begin, end}));
    }
    return parts;
}

}
