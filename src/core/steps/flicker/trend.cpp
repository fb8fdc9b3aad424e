#include "core/steps/flicker/trend.h"

#include "core/base/local_fit.h"
#include "core/base/median.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numeric>
#include <utility>

namespace frenlo {

namespace {

/// share times a row is added to another.
void add_row(SmoothingRow& to, const SmoothingRow& row, double share)
{
    if (to.weights.empty())
        to.begin = row.begin;
    const std::size_t begin = std::min(to.begin, row.begin),
                      end = std::max(to.begin + to.weights.size(), row.begin + row.weights.size());
    to.weights.insert(to.weights.begin(), to.begin - begin, 0);
    to.weights.resize(end - begin, 0);
    to.begin = begin;
    for (std::size_t k = 0; k < row.weights.size(); ++k)
        to.weights[row.begin - begin + k] += share * row.weights[k];
}

/// Photos between two places where the light changes at once, and how much each has to say.
struct Stretch
{
    std::span<const double> x;
    std::span<const double> y;
    std::vector<double> prior;
};

struct Smoother
{
    double reach = 0;
    int degree = 1;
};

std::vector<SmoothingRow> rows_of(const Stretch& s, const Smoother& smoother)
{
    const double room = std::min(smoother.reach / 2, (s.x.back() - s.x.front()) / 2);
    std::vector<SmoothingRow> rows(s.x.size());
    tbb::parallel_for(std::size_t(0), s.x.size(), [&](std::size_t i) {
        const double around = std::clamp(s.x[i], s.x.front() + room, s.x.back() - room);
        const auto begin = std::lower_bound(s.x.begin(), s.x.end(), around - smoother.reach),
                   end = std::upper_bound(begin, s.x.end(), around + smoother.reach);
        const auto first = std::size_t(begin - s.x.begin()), count = std::size_t(end - begin);
        rows[i] = {first, local_weights(s.x.subspan(first, count), {around, s.x[i]}, smoother.reach, smoother.degree,
                                        LocalKernel::tricube, std::span(s.prior).subspan(first, count))};
    });
    return rows;
}

/// What speaks against a smoother: the corrected Akaike criterion (Hurvich, Simonoff, Tsai 1998), of those that have a
/// say.
double criterion(const Stretch& s, const std::vector<SmoothingRow>& rows)
{
    double squares = 0, n = 0,
           freedom = 0; // freedom: how many parameters the smoother is worth, the trace of its weights
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const double off = s.y[i] - rows[i].sum(s.y);
        squares += s.prior[i] * off * off;
        n += s.prior[i];
        freedom += rows[i].weights[i - rows[i].begin];
    }
    const double left = 1 - (freedom + 2) / n;
    constexpr double least = 1e-8; // square stops: finer cannot be told
    return left <= 0 ? 1e9 : n * (std::log(squares / n + least) + 1 + 2 * (freedom + 1) / (n * left));
}

/// What is far off loses its say (bisquare, Cleveland 1979).
void doubt_outliers(Stretch& s, const Smoother& smoother)
{
    constexpr int rounds = 3;
    for (int round = 0; round < rounds; ++round) {
        const auto rows = rows_of(s, smoother);
        std::vector<double> off;
        for (std::size_t k = 0; k < s.y.size(); ++k)
            off.push_back(std::abs(s.y[k] - rows[k].sum(s.y)));
        const double six = std::max(0.01, 6 * middle_of(off));
        for (std::size_t k = 0; k < off.size(); ++k) {
            const double u = off[k] / six;
            s.prior[k] = u < 1 ? (1 - u * u) * (1 - u * u) : 1e-6;
        }
    }
}

/// Of several smoothers, none quicker than the reach asks for, the mean by how much the photos speak for each (Akaike
/// weights: Burnham, Anderson 2002).
std::vector<SmoothingRow> spoken_for(const Stretch& s, double reach)
{
    constexpr int line = 1, quadratic = 2, cubic = 3;
    constexpr double too_little = 0.01;
    std::vector<std::pair<double, std::vector<SmoothingRow>>> all;
    for (const Smoother& smoother : {Smoother{reach, quadratic}, Smoother{1.7 * reach, cubic},
                                     Smoother{3 * reach, cubic}, Smoother{3 * reach, line}}) {
        auto rows = rows_of(s, smoother);
        const double against = criterion(s, rows);
        all.emplace_back(against, std::move(rows));
    }
    const auto best =
        std::min_element(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first < b.first; })->first;
    double sum = 0;
    for (auto& [against, rows] : all) {
        const double speaks = std::exp((best - against) / 2);
        against = speaks < too_little ? 0 : speaks;
        sum += against;
    }
    std::vector<SmoothingRow> mean(s.x.size());
    for (const auto& [share, rows] : all)
        for (std::size_t i = 0; share > 0 && i < rows.size(); ++i)
            add_row(mean[i], rows[i], share / sum);
    return mean;
}

/// A local quadratic over so far to both sides follows what takes the window and longer.
double reach_of(std::span<const double> x, double window_s)
{
    constexpr double of_window = 0.5;
    const double whole = x.empty() ? 0 : x.back() - x.front();
    return std::max(of_window * window_s, whole / std::max<double>(1, double(x.size()) - 1) * 4);
}

}

namespace {

/// A flash, a shadow of one or two photos: far off those around it. What lasts longer is light.
std::vector<double> without_flashes(std::span<const double> y)
{
    constexpr std::ptrdiff_t around = 3;
    constexpr double least = 0.12, far = 6;
    const double limit = std::max(least, far * quick_part(y));
    std::vector<double> prior(y.size(), 1);
    for (std::ptrdiff_t i = 0; i < std::ptrdiff_t(y.size()); ++i) {
        const auto from = y.begin() + std::max<std::ptrdiff_t>(0, i - around),
                   to = y.begin() + std::min(std::ptrdiff_t(y.size()), i + around + 1);
        if (std::abs(y[std::size_t(i)] - middle_of(std::vector<double>(from, to))) > limit)
            prior[std::size_t(i)] = 1e-6;
    }
    return prior;
}

}

Trend::Trend(std::span<const double> x, std::span<const double> y, std::span<const std::size_t> breaks, double window_s)
    : breaks_(breaks.begin(), breaks.end()), window_s_(window_s)
{
    if (window_s <= 0) {
        const std::vector<double> flicker = quick_parts(y);
        std::vector<double> photos; // one a photo
        for (std::size_t b = 0; b + 1 < breaks.size(); ++b) {
            const std::size_t begin = breaks[b], count = breaks[b + 1] - begin;
            const auto here = y.subspan(begin, count);
            courses_.emplace_back(x.subspan(begin, count), here, without_flashes(here),
                                  std::span(flicker).subspan(begin, count));
            photos.insert(photos.end(), count, courses_.back().photos());
        }
        if (x.size() > 1)
            window_s_ = middle_of(std::move(photos)) * (x.back() - x.front()) / double(x.size() - 1);
        return;
    }
    const double reach = reach_of(x, window_s);
    for (std::size_t b = 0; b + 1 < breaks.size(); ++b) {
        const std::size_t begin = breaks[b], photos = breaks[b + 1] - begin;
        Stretch s{x.subspan(begin, photos), y.subspan(begin, photos), std::vector<double>(photos, 1)};
        doubt_outliers(s, {reach, 2});
        for (SmoothingRow& row : spoken_for(s, reach)) {
            row.begin += begin;
            rows_.push_back(std::move(row));
        }
    }
}

std::vector<double> Trend::of(std::span<const double> y) const
{
    std::vector<double> slow;
    for (const SmoothingRow& row : rows_)
        slow.push_back(row.sum(y));
    for (std::size_t b = 0; b < courses_.size(); ++b) {
        const auto here = courses_[b].of(y.subspan(breaks_[b], breaks_[b + 1] - breaks_[b]));
        slow.insert(slow.end(), here.begin(), here.end());
    }
    return slow;
}

double middle_of(std::vector<double> v)
{
    return v.empty() ? 0 : upper_median(std::move(v));
}

}
