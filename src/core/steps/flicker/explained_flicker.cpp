#include "core/steps/flicker/explained_flicker.h"

#include "core/steps/flicker/trend.h"

#include <algorithm>
#include <cmath>
#include <Eigen/Dense>
#include <numbers>

namespace frenlo {

namespace {

using Eigen::Index, Eigen::MatrixXd, Eigen::VectorXd;

constexpr std::size_t least_photos = 24;

VectorXd quick_of(std::span<const double> y)
{
    VectorXd quick(Index(y.size()) - 2);
    for (std::size_t k = 1; k + 1 < y.size(); ++k)
        quick[Index(k) - 1] = y[k] - (y[k - 1] + y[k + 1]) / 2;
    return quick;
}

double spread_of(const VectorXd& quick)
{
    std::vector<double> off(std::size_t(quick.size()));
    for (Index k = 0; k < quick.size(); ++k)
        off[std::size_t(k)] = std::abs(quick[k]);
    return 1.4826 * middle_of(std::move(off)); // of a normal distribution
}

/// What explains a brightness: series, and how much of each is in it.
struct Explained
{
    VectorXd shares;
    double of_all = 0; ///< the share of what is quick, 0 to 1
};

/// said: 1 for photos that have a say, else 0.
Explained explain(const VectorXd& quick, const MatrixXd& by, const VectorXd& said)
{
    constexpr double hold = 1e-3; // series that are nearly one and the same share it
    const MatrixXd weighed = said.asDiagonal() * by;
    MatrixXd m = by.transpose() * weighed;
    m.diagonal() += VectorXd::Constant(m.rows(), hold * m.trace() / double(m.rows()) + 1e-12);
    Explained e;
    e.shares = m.ldlt().solve(weighed.transpose() * quick);
    const double all = quick.cwiseProduct(said).squaredNorm();
    const VectorXd rest = (quick - by * e.shares).cwiseProduct(said);
    e.of_all = all > 0 ? 1 - rest.squaredNorm() / all : 0;
    return e;
}

/// Cosine and sine of so many turns a photo.
MatrixXd waves(double turns, std::size_t photos)
{
    MatrixXd both(Index(photos), 2);
    for (Index k = 0; k < both.rows(); ++k) {
        const double at = 2 * std::numbers::pi * turns * double(k);
        both(k, 0) = std::cos(at);
        both(k, 1) = std::sin(at);
    }
    return both;
}

MatrixXd quick_columns(const MatrixXd& series)
{
    MatrixXd quick(series.rows() - 2, series.cols());
    for (Index c = 0; c < series.cols(); ++c)
        quick.col(c) = quick_of({series.col(c).data(), std::size_t(series.rows())});
    return quick;
}

/// Turns a photo of what comes again after two to six photos and makes up most of the rest; 0 where nothing does.
double turns_of(const VectorXd& rest, const VectorXd& said, std::size_t photos)
{
    constexpr double slowest = 1.0 / 6, quickest = 0.5;
    const double enough = 0.4 + 12 / double(photos); // of few photos, a wave explains much of anything
    constexpr double steps_a_peak = 8;               // a peak is as wide as one turn in all photos
    const double step = 1 / (steps_a_peak * double(photos));
    double best = 0, most = enough;
    for (int k = 0; k <= int((quickest - slowest) / step); ++k) {
        const double turns = slowest + k * step;
        const Explained e = explain(rest, quick_columns(waves(turns, photos)), said);
        if (e.of_all > most) {
            most = e.of_all;
            best = turns;
        }
    }
    return best;
}

}

std::vector<double> explained_flicker(std::span<const double> brightness,
                                      const std::vector<std::vector<double>>& differences)
{
    constexpr double stands_out = 4, least_spread = 0.003, enough = 0.15;
    const std::size_t photos = brightness.size();
    std::vector<double> explained(photos, 0);
    if (photos < least_photos)
        return explained;
    const VectorXd quick = quick_of(brightness);
    const double spread = spread_of(quick);
    if (spread < least_spread)
        return explained;
    const VectorXd said = (quick.array().abs() < stands_out * spread).cast<double>();
    MatrixXd series(Index(photos), 0);
    const auto add = [&](const MatrixXd& more) {
        series.conservativeResize(Eigen::NoChange, series.cols() + more.cols());
        series.rightCols(more.cols()) = more;
    };
    for (const auto& d : differences)
        if (spread_of(quick_of(d)) >= least_spread)
            add(Eigen::Map<const VectorXd>(d.data(), Index(photos)));
    VectorXd rest = quick;
    if (series.cols() > 0) {
        const MatrixXd by = quick_columns(series);
        if (const Explained e = explain(quick, by, said); e.of_all >= enough)
            rest -= by * e.shares;
        else
            series.resize(Eigen::NoChange, 0);
    }
    if (const double turns = turns_of(rest, said, photos); turns > 0)
        add(waves(turns, photos));
    if (series.cols() == 0)
        return explained;
    const VectorXd sum = series * explain(quick, quick_columns(series), said).shares;
    std::copy(sum.begin(), sum.end(), explained.begin());
    return explained;
}

}
