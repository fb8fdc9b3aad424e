#include "core/steps/flicker/adaptive_course.h"

#include "core/base/local_fit.h"
#include "core/steps/flicker/trend.h"

#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>
#include <optional>

namespace frenlo {

namespace {

constexpr std::array<std::ptrdiff_t, 9> scales{2, 3, 5, 8, 12, 18, 27, 40, 60}; ///< photos to a side
constexpr double agreeing = 1.5;        ///< standard deviations that an interval reaches to each side
constexpr double least_flicker = 0.002; ///< stops: finer cannot be measured

double norm_of(const SmoothingRow& row)
{
    return std::sqrt(std::inner_product(row.weights.begin(), row.weights.end(), row.weights.begin(), 0.0));
}

/// A row and how uncertain what it says is, stops.
struct Estimate
{
    SmoothingRow row;
    double deviation = 0;
};

class Course
{
public:
    Course(std::span<const double> x, std::span<const double> y, std::span<const double> prior)
        : x_(x), y_(y), prior_(prior), flicker_(std::max(least_flicker, quick_part(y))),
          spacing_(x.size() > 1 ? (x.back() - x.front()) / double(x.size() - 1) : 1)
    {
    }

    std::vector<SmoothingRow> rows() const
    {
        std::vector<Estimate> all(x_.size());
        tbb::parallel_for(std::size_t(0), x_.size(), [&](std::size_t i) { all[i] = at(std::ptrdiff_t(i)); });
        for (const double sigma : {4.0, 8.0})
            all = calmed(all, sigma);
        std::vector<SmoothingRow> rows;
        for (Estimate& e : all)
            rows.push_back(std::move(e.row));
        return rows;
    }

private:
    [[nodiscard]] SmoothingRow row_over(std::ptrdiff_t begin, std::ptrdiff_t end, std::ptrdiff_t i,
                                        std::ptrdiff_t scale, int degree) const
    {
        const auto from = std::size_t(begin), count = std::size_t(end - begin);
        return {from, local_weights(x_.subspan(from, count), x_[std::size_t(i)], double(scale + 1) * spacing_, degree,
                                    LocalKernel::tricube, prior_.subspan(from, count))};
    }

    /// The widest look to this side (below 0: before, above 0: behind, 0: both) that still agrees with all closer ones.
    [[nodiscard]] std::optional<Estimate> widest(std::ptrdiff_t i, int side) const
    {
        const auto n = std::ptrdiff_t(x_.size());
        double low = -1e9, high = 1e9;
        std::optional<Estimate> best;
        for (const std::ptrdiff_t scale : scales) {
            const std::ptrdiff_t begin = side > 0 ? i : std::max<std::ptrdiff_t>(0, i - scale),
                                 end = side < 0 ? i + 1 : std::min(n, i + scale + 1);
            if (end - begin < 2)
                continue;
            Estimate e{row_over(begin, end, i, scale, side == 0 ? 2 : 1), 0};
            e.deviation = flicker_ * norm_of(e.row);
            const double says = e.row.sum(y_);
            low = std::max(low, says - agreeing * e.deviation);
            high = std::min(high, says + agreeing * e.deviation);
            if (low > high)
                break;
            best = std::move(e);
            if ((side > 0 || begin == 0) && (side < 0 || end == n)) // all there is
                break;
        }
        return best;
    }

    /// What both sides and both together say, by how certain each is.
    [[nodiscard]] Estimate at(std::ptrdiff_t i) const
    {
        Estimate all;
        std::vector<Estimate> sides;
        double certainty = 0;
        for (const int side : {-1, 1, 0})
            if (auto e = widest(i, side)) {
                certainty += 1 / (e->deviation * e->deviation);
                sides.push_back(std::move(*e));
            }
        if (sides.empty())
            return {{std::size_t(i), {1}}, flicker_};
        for (const Estimate& e : sides)
            add_row(all.row, e.row, 1 / (e.deviation * e.deviation) / certainty);
        all.deviation = 1 / std::sqrt(certainty);
        return all;
    }

    /// Smoothed by local cubics with Gaussian weights where that stays within what the estimates may be off; an edge
    /// keeps what is around it as it is.
    [[nodiscard]] std::vector<Estimate> calmed(const std::vector<Estimate>& all, double sigma) const
    {
        constexpr double nothing = 2, certain = 4; // standard deviations
        constexpr std::ptrdiff_t around = 2;
        const auto n = std::ptrdiff_t(all.size());
        std::vector<double> says(all.size()), off(all.size());
        std::vector<SmoothingRow> smoothing(all.size());
        for (std::size_t i = 0; i < all.size(); ++i)
            says[i] = all[i].row.sum(y_);
        for (std::ptrdiff_t i = 0; i < n; ++i) {
            smoothing[std::size_t(i)] = gaussian_cubic(i, n, sigma);
            off[std::size_t(i)] = std::abs(says[std::size_t(i)] - smoothing[std::size_t(i)].sum(says)) /
                                  std::max(1e-4, all[std::size_t(i)].deviation);
        }
        std::vector<Estimate> calm(all.size());
        tbb::parallel_for(std::ptrdiff_t(0), n, [&](std::ptrdiff_t i) {
            const auto from = off.begin() + std::max<std::ptrdiff_t>(0, i - around),
                       to = off.begin() + std::min(n, i + around + 1);
            const double kept = std::clamp((*std::max_element(from, to) - nothing) / (certain - nothing), 0.0, 1.0);
            Estimate& e = calm[std::size_t(i)];
            e.deviation = all[std::size_t(i)].deviation;
            if (kept > 0)
                add_row(e.row, all[std::size_t(i)].row, kept);
            const SmoothingRow& s = smoothing[std::size_t(i)];
            for (std::size_t k = 0; kept < 1 && k < s.weights.size(); ++k)
                add_row(e.row, all[s.begin + k].row, (1 - kept) * s.weights[k]);
        });
        return calm;
    }

    std::span<const double> x_, y_, prior_;
    double flicker_;
    double spacing_;
};

}

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

std::vector<SmoothingRow> adaptive_course(std::span<const double> x, std::span<const double> y,
                                          std::span<const double> prior)
{
    return Course(x, y, prior).rows();
}

double quick_part(std::span<const double> y)
{
    std::vector<double> bends;
    for (std::size_t i = 1; i + 1 < y.size(); ++i)
        bends.push_back(std::abs(y[i - 1] - 2 * y[i] + y[i + 1]));
    return 1.4826 * middle_of(std::move(bends)) /
           std::sqrt(6.0); // of white noise, second differences have six times the variance
}

double photos_of(const SmoothingRow& row)
{
    const double norm = norm_of(row);
    return norm > 0 ? 1 / (norm * norm) : 0;
}

}
