#pragma once
#include <array>
#include <cstddef>
#include <vector>

namespace frenlo {

/// A way through points over time: the natural cubic spline of each of N values, which has no jerk: its second
/// derivative has no jump. Two points are joined by a straight line. Outside of its times it stays.
template <std::size_t N>
class NaturalSpline
{
public:
    using Values = std::array<double, N>;

    NaturalSpline() = default;
    /// In order of time, apart; at least one of each.
    NaturalSpline(std::vector<double> times, std::vector<Values> points)
        : times_(std::move(times)), points_(std::move(points)), bends_(points_.size(), Values{})
    {
        const std::size_t n = points_.size();
        if (n < 3)
            return;
        // The second derivatives: a tridiagonal system, solved forwards and back.
        for (std::size_t c = 0; c < N; ++c) {
            std::vector<double> factor(n, 0), right(n, 0);
            for (std::size_t i = 1; i + 1 < n; ++i) {
                const double before = times_[i] - times_[i - 1], after = times_[i + 1] - times_[i];
                const double slope_before = (points_[i][c] - points_[i - 1][c]) / before;
                const double slope_after = (points_[i + 1][c] - points_[i][c]) / after;
                const double pivot = 2 * (before + after) - before * factor[i - 1];
                factor[i] = after / pivot;
                right[i] = (6 * (slope_after - slope_before) - before * right[i - 1]) / pivot;
            }
            for (std::size_t i = n - 1; i-- > 1;)
                bends_[i][c] = right[i] - factor[i] * bends_[i + 1][c];
        }
    }

    [[nodiscard]] double first() const { return times_.front(); }
    [[nodiscard]] double last() const { return times_.back(); }
    [[nodiscard]] Values at(double time) const
    {
        if (points_.size() == 1 || time <= first())
            return points_.front();
        if (time >= last())
            return points_.back();
        std::size_t i = 0;
        while (i + 2 < points_.size() && time >= times_[i + 1])
            ++i;
        const double h = times_[i + 1] - times_[i], p = (times_[i + 1] - time) / h, q = (time - times_[i]) / h;
        Values v;
        for (std::size_t c = 0; c < N; ++c)
            v[c] = p * points_[i][c] + q * points_[i + 1][c] +
                   ((p * p * p - p) * bends_[i][c] + (q * q * q - q) * bends_[i + 1][c]) * h * h / 6;
        return v;
    }

private:
    std::vector<double> times_;
    std::vector<Values> points_, bends_;
};

}
